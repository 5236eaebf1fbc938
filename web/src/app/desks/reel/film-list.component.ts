import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatTooltipModule } from '@angular/material/tooltip';
import { FILM_FORMATS } from '@zippy/core/reel';
import type { Film } from '@zippy/core/wire';
import { Api } from '../../api/api';
import { filmUrl } from '../../api/urls';
import { Notices } from '../../store/notices';
import { Session } from '../../store/session';
import { Studio } from '../../store/studio';
import { Watching } from '../../store/watching';
import { BringToReel } from '../../tasks/reel/bring-to-reel';
import { Ask } from '../../ui/ask/ask';
import { IconComponent } from '../../ui/icon.component';

/** Files that were made of the film. */
@Component({
  selector: 'zr-film-list',
  imports: [IconComponent, MatButtonModule, MatProgressBarModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (film of studio.films(); track film.id) {
      <div class="box">
        <span
          ><b>{{ film.name }}</b
          >&ngsp;<span class="quiet">{{ about(film) }}</span></span
        >
        @if (film.state === 'encoding') {
          <mat-progress-bar aria-label="Frames encoded" [value]="(100 * film.encoded) / film.frames" />
          <div class="row">
            <button matButton="tonal" (click)="api.stopFilm(film.id)">Stop</button>
            <span class="quiet mono">{{ film.encoded }} / {{ film.frames }}</span>
          </div>
        } @else if (film.state === 'done') {
          <div class="row">
            @if (formats[film.format].plays) {
              <button matButton="tonal" (click)="watching.film.set(film)"><zr-icon name="play" /> Watch</button>
            } @else if (film.format === 'spin') {
              <a matButton="tonal" [href]="fileOf(film.id)" target="_blank" rel="noopener">Open</a>
            }
            <a matButton="tonal" [href]="fileOf(film.id, true)" download>Download</a>
            @if (formats[film.format].plays) {
              <button
                matIconButton
                aria-label="Put the film on the reel"
                matTooltip="Put the film on the reel, as a clip"
                (click)="bring.film(film)"
              >
                <zr-icon name="plus" />
              </button>
            }
            <button matIconButton aria-label="Delete film" matTooltip="Delete film" (click)="remove(film)">
              <zr-icon name="trash" />
            </button>
          </div>
        } @else {
          <span class="warn">{{ film.failure || 'stopped' }}</span>
          <div class="row"><button matButton="tonal" (click)="remove(film)">Clear away</button></div>
        }
      </div>
    }
  `,
  styleUrl: '../desk.scss',
})
export class FilmListComponent {
  private readonly ask = inject(Ask);
  private readonly notices = inject(Notices);
  private readonly session = inject(Session);
  readonly studio = inject(Studio);
  readonly api = inject(Api);
  readonly bring = inject(BringToReel);
  readonly watching = inject(Watching);
  readonly fileOf = filmUrl;
  readonly formats = FILM_FORMATS;

  about({ format, about, bytes }: Film): string {
    const size = bytes === 0 ? '' : bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1e6).toFixed(1)} MB`; // prettier-ignore
    return [this.formats[format].title, about, size].filter((each) => each !== '').join(' · ');
  }

  async remove(film: Film): Promise<void> {
    const text = 'The file goes; takes and reel stay.';
    if (film.state === 'done' && !(await this.ask.sure(`Delete the film "${film.name}"?`, text, 'Delete'))) return;
    try {
      if (this.watching.film()?.id === film.id) this.watching.film.set(null);
      await this.api.removeFilm(film.id);
      await this.session.refreshFilms();
    } catch (error) {
      this.notices.tell(error);
    }
  }
}
