import { inject, Injectable, signal } from '@angular/core';
import { Api } from '../api/api';
import { packageUrl } from '../api/urls';
import { saveAs } from '../ui/save-as';
import { Notices } from './notices';
import { Session } from './session';

/** Whole projects as files, and the choice among all of them. */
@Injectable({ providedIn: 'root' })
export class ProjectFiles {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly session = inject(Session);
  /** All projects are shown, so that one is chosen. */
  readonly choosing = signal(false);
  /** Which part of a file has been sent; null while none is. */
  readonly reading = signal<number | null>(null);

  /** Whether a file is that of a whole project, by its name. */
  static is = ({ name }: File): boolean => /\.reel\.zip$/i.test(name);

  /** A file of a whole project becomes a project, which is opened. */
  async open(file: File): Promise<void> {
    this.reading.set(0.001);
    try {
      const { id, notes } = await this.api.unpackProject(file, (part) => this.reading.set(Math.max(0.001, part)));
      this.choosing.set(false);
      await this.session.open(id);
      if (notes.length > 0) this.notices.say(notes.join(' '));
    } catch (error) {
      this.notices.tell(error);
    } finally {
      this.reading.set(null);
    }
  }

  /** Has the browser keep a project as a file. @param all with its frames and films */
  async save(project: string, all: boolean): Promise<void> {
    try {
      await this.session.save();
      saveAs(packageUrl(project, all));
    } catch (error) {
      this.notices.tell(error);
    }
  }

  /** Opens a second project like one. */
  async copy(project: string): Promise<void> {
    try {
      await this.session.save();
      await this.session.open((await this.api.copyProject(project)).id);
    } catch (error) {
      this.notices.tell(error);
    }
  }
}
