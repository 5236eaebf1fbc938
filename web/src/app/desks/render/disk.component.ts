import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { Disk } from '@zippy/core/wire';
import { Api } from '../../api/api';
import { Notices } from '../../store/notices';
import { Studio } from '../../store/studio';

/** Bytes that are worth clearing away. */
const WORTH = 1e6;

/** What frames take on the disk, and clearing away those that no take shows. */
@Component({
  selector: 'zr-disk',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (disk(); as found) {
      <p class="quiet">
        Frames of this project take {{ say(found.project) }}; {{ say(found.free) }} are free on the server's disk.
      </p>
      @if (found.unneeded > WORTH) {
        <button matButton (click)="tidy()">Clear away {{ say(found.unneeded) }} that no take shows</button>
      }
    }
  `,
  styles: `
    p {
      margin: 0;
    }
  `,
})
export class DiskComponent {
  private readonly api = inject(Api);
  private readonly studio = inject(Studio);
  private readonly notices = inject(Notices);
  readonly WORTH = WORTH;
  readonly disk = signal<Disk | null>(null);
  /** Changes when takes come, go or end: what they take is asked for again. */
  private readonly ended = computed(() =>
    [this.studio.project(), ...this.studio.takes().map(({ id, state }) => `${id} ${state}`)].join(),
  );

  constructor() {
    effect(() => {
      this.ended();
      untracked(() => void this.look());
    });
  }

  /** Without an answer nothing is said. */
  private async look(): Promise<void> {
    const project = this.studio.project();
    try {
      this.disk.set(project ? await this.api.takeDisk(project) : null);
    } catch {
      this.disk.set(null);
    }
  }

  async tidy(): Promise<void> {
    try {
      const { freed } = await this.api.tidyFrames();
      this.notices.say(`${this.say(freed)} were cleared away.`);
    } catch (error) {
      this.notices.tell(error);
    }
    await this.look();
  }

  say(bytes: number): string {
    if (bytes < 1e6) return `${Math.ceil(bytes / 1e3)} kB`;
    return bytes < 1e9 ? `${Math.round(bytes / 1e6)} MB` : `${(bytes / 1e9).toFixed(1)} GB`;
  }
}
