import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatRippleModule } from '@angular/material/core';
import type { ProjectEntry } from '@zippy/core/wire';
import { Api } from '../api/api';
import { projectPictureUrl } from '../api/urls';
import { Notices } from '../store/notices';
import { ProjectFiles } from '../store/project-files';
import { Session } from '../store/session';
import { Studio } from '../store/studio';
import { Ask } from '../ui/ask/ask';
import { DialogComponent } from '../ui/dialog.component';
import { FileButtonComponent } from '../ui/file-button.component';
import { TextFieldComponent } from '../ui/text-field.component';

const DAY = 86_400_000;

/** All projects as pictures, the newest first. */
@Component({
  selector: 'zr-projects-dialog',
  imports: [
    DialogComponent,
    FileButtonComponent,
    MatButtonModule,
    MatProgressBarModule,
    MatRippleModule,
    TextFieldComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (files.choosing()) {
      <zr-dialog label="Projects" [width]="900" (leave)="files.choosing.set(false)">
        <div class="top">
          <h2>Projects</h2>
          <zr-text
            search
            label="Find a project"
            placeholder="Find a project"
            [value]="sought()"
            (typed)="sought.set($event.trim())"
          />
          <zr-file-button
            label="Project file"
            look="tonal"
            accept=".zip"
            hint="A project that was saved as one file"
            (files)="files.open($event[0]!)"
          >
            Open a project file…
          </zr-file-button>
          <button matButton="filled" (click)="start()">New project</button>
        </div>
        @if (files.reading(); as part) {
          <mat-progress-bar aria-label="Project file sent" [value]="100 * part" />
        }
        <div class="all scroll">
          @for (entry of shown(); track entry.id) {
            <button matRipple class="project" [class.open]="entry.id === studio.project()" (click)="open(entry)">
              <span class="picture">
                <span class="letters" aria-hidden="true">{{ lettersOf(entry) }}</span>
                <img [src]="pictureOf(entry.id)" alt="" (error)="$any($event.target).remove()" />
              </span>
              <b>{{ entry.name }}</b>
              <span class="quiet">{{ when(entry) }}{{ entry.id === studio.project() ? ' · open' : '' }}</span>
            </button>
          } @empty {
            <p class="quiet">{{ sought() ? 'No project is called that.' : 'There is no project yet.' }}</p>
          }
        </div>
        <button answers matButton="tonal" (click)="files.choosing.set(false)">Close</button>
      </zr-dialog>
    }
  `,
  styles: `
    .top {
      display: flex;
      gap: 8px;
      align-items: center;
    }
    .top h2 {
      margin: 0;
    }
    .top zr-text {
      flex: 1;
    }
    .all {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
      gap: 12px;
      max-height: 60vh;
      overflow-y: auto;
    }
    .project {
      display: grid;
      gap: 2px;
      padding: 6px;
      border: 0;
      border-radius: 8px;
      background: var(--raised);
      color: var(--text);
      font: inherit;
      text-align: start;
      cursor: pointer;
      overflow: hidden;
    }
    .project.open {
      box-shadow: inset 0 0 0 2px var(--select);
    }
    .project b {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .picture {
      position: relative;
      display: grid;
      place-items: center;
      aspect-ratio: 16 / 9;
      border-radius: 5px;
      background: var(--surround);
      overflow: hidden;
    }
    .letters {
      color: var(--quiet);
      font-size: 28px;
      font-weight: 600;
    }
    img {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 100%;
      object-fit: cover;
    }
  `,
})
export class ProjectsDialogComponent {
  private readonly api = inject(Api);
  private readonly ask = inject(Ask);
  private readonly notices = inject(Notices);
  private readonly session = inject(Session);
  readonly files = inject(ProjectFiles);
  readonly studio = inject(Studio);
  readonly pictureOf = projectPictureUrl;
  readonly sought = signal('');
  private readonly entries = signal<ProjectEntry[]>([]);
  readonly shown = computed(() => {
    const sought = this.sought().toLowerCase();
    return this.entries().filter(({ name }) => name.toLowerCase().includes(sought));
  });

  constructor() {
    effect(() => {
      if (this.files.choosing()) untracked(() => void this.list());
    });
  }

  private async list(): Promise<void> {
    this.sought.set('');
    try {
      this.entries.set(await this.api.projects());
    } catch (error) {
      this.notices.tell(error);
    }
  }

  lettersOf = ({ name }: ProjectEntry): string => [...name.trim()].slice(0, 2).join('');

  when({ updatedAt }: ProjectEntry): string {
    const days = Math.floor((Date.now() - updatedAt) / DAY);
    return days < 1 ? 'today' : days < 2 ? 'yesterday' : new Date(updatedAt).toLocaleDateString();
  }

  async open({ id }: ProjectEntry): Promise<void> {
    this.files.choosing.set(false);
    await this.session.open(id);
  }

  async start(): Promise<void> {
    const name = await this.ask.name('Name of the new project', 'Start', 'New project');
    if (!name) return;
    this.files.choosing.set(false);
    await this.session.create(name);
  }
}
