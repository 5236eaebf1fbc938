import { ThingDirective } from '../../menu/thing.directive';
import { RowComponent } from '../../ui/row.component';
import { SmallButtonComponent } from '../../ui/small-button.component';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatTooltipModule } from '@angular/material/tooltip';
import { MatButtonModule } from '@angular/material/button';
import { ChoiceComponent } from '../../ui/choice.component';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { frameCount, inOrder, type Clip } from '@zippy/core/document';
import {
  clipFrames,
  FILM_FORMATS,
  FILM_FORMAT_NAMES,
  FILM_QUALITIES,
  filmFrames,
  type FilmQuality,
} from '@zippy/core/reel';
import { Api } from '../../api/api';
import { filmUrl } from '../../api/urls';
import type { Film } from '@zippy/core/wire';
import { Ask } from '../../ui/ask/ask';
import { IconComponent } from '../../ui/icon.component';
import { Notices } from '../../store/notices';
import { Session } from '../../store/session';
import { Studio } from '../../store/studio';
import { many } from '../../ui/many';
import { Things } from '../../store/edits/things';
import { Watching } from '../../store/watching';

/** Takes in order, and the films made of them. */
@Component({
  selector: 'zr-reel-desk',
  imports: [
    ThingDirective,
    ChoiceComponent,
    IconComponent,
    MatButtonModule,
    MatProgressBarModule,
    MatTooltipModule,
    RowComponent,
    SmallButtonComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>
      Reel <span class="quiet mono">{{ many(frames(), 'frame') }} · {{ seconds() }} s</span>
    </h2>
    @for (clip of clips(); track clip.id; let k = $index) {
      <zr-row
        [zrThing]="{ kind: 'clip', id: clip.id }"
        [picked]="studio.selectedIds().has(clip.id)"
        (press)="studio.select('clip', clip.id, $event.ctrlKey || $event.metaKey || $event.shiftKey)"
      >
        <span class="name"
          >{{ k + 1 }} · {{ nameOf(clip) }}<br /><span class="quiet small">{{ ofTake(clip) }}</span></span
        >
        @if (k > 0) {
          <zr-small-button beside icon="earlier" label="Earlier" (press)="things.moveClip(clip.id, -1)" />
        }
        @if (k < clips().length - 1) {
          <zr-small-button beside icon="later" label="Later" (press)="things.moveClip(clip.id, 1)" />
        }
        <zr-small-button beside icon="trash" label="Take off the reel" (press)="remove(clip)" />
      </zr-row>
    } @empty {
      <div class="empty">
        The reel is empty. Put takes on it in the order of the film.<button
          matButton="tonal"
          (click)="studio.openDesk('render')"
        >
          To the takes
        </button>
      </div>
    }
    <h2>Hand over</h2>
    @for (note of notes(); track note) {
      <p class="warn">{{ note }}</p>
    }
    <div class="pair">
      <span class="quiet">MP4 quality</span>
      <zr-choice label="MP4 quality" [options]="qualities" [value]="quality()" (chosen)="quality.set($any($event))" />
    </div>
    <div class="row">
      @for (format of formatNames; track format; let first = $first) {
        <button [matButton]="first ? 'filled' : 'tonal'" [disabled]="clips().length === 0" (click)="deliver(format)">
          {{ formats[format].title }}
        </button>
      }
    </div>
    @for (film of studio.films(); track film.id) {
      <div class="box">
        <span
          ><b>{{ film.name }}</b
          >&ngsp;<span class="quiet"
            >{{ formats[film.format].name }}{{ film.bytes ? ' · ' + megabytes(film) + ' MB' : '' }}</span
          ></span
        >
        @if (film.state === 'encoding') {
          <mat-progress-bar aria-label="Frames encoded" [value]="(100 * film.encoded) / film.frames" />
          <div class="row"><button matButton="tonal" (click)="api.stopFilm(film.id)">Stop</button></div>
        } @else if (film.state === 'done') {
          <div class="row">
            @if (formats[film.format].plays) {
              <button matButton="tonal" (click)="watching.film.set(film)"><zr-icon name="play" /> Watch</button>
            }
            <a matButton="tonal" [href]="fileOf(film.id, true)" download>Download</a>
            <button matIconButton aria-label="Delete film" matTooltip="Delete film" (click)="removeFilm(film)">
              <zr-icon name="trash" />
            </button>
          </div>
        } @else {
          <span class="warn">{{ film.failure || 'stopped' }}</span>
          <div class="row"><button matButton="tonal" (click)="removeFilm(film)">Clear away</button></div>
        }
      </div>
    }
  `,
  styleUrl: '../desk.scss',
  styles: `
    .line {
      min-height: 44px;
    }
    .small {
      font-size: 11px;
    }
  `,
})
export class ReelDeskComponent {
  private readonly ask = inject(Ask);
  readonly studio = inject(Studio);
  readonly api = inject(Api);
  readonly fileOf = filmUrl;
  readonly watching = inject(Watching);
  readonly things = inject(Things);
  private readonly session = inject(Session);
  private readonly notices = inject(Notices);
  readonly qualities = FILM_QUALITIES.map((value) => ({ value, label: value }));
  readonly quality = signal<FilmQuality>('good');
  readonly formats = FILM_FORMATS;
  readonly formatNames = FILM_FORMAT_NAMES;
  readonly clips = computed(() => inOrder(this.studio.document().reel.clips));
  readonly frames = computed(() => filmFrames(this.clips()).length);
  readonly seconds = computed(() => (this.frames() / this.studio.frameRate()).toFixed(1));

  readonly many = many;
  /** What will be other than one might think, before it is made. */
  readonly notes = computed((): string[] => {
    const takes = this.clips().map((clip) => this.studio.takes().find(({ id }) => id === clip.take));
    const unfinished = new Set(
      takes.flatMap((take) => (take && take.done.length < frameCount(take) ? [take.number] : [])),
    );
    const gone = takes.filter((take) => !take).length;
    const sizes = new Set(takes.flatMap((take) => (take ? [`${take.settings.width} × ${take.settings.height}`] : [])));
    const [first] = sizes;
    const { kind } = this.studio.document().set.behind;
    return [
      ...(gone > 0
        ? [
            `${many(gone, 'clip')} on the reel ${gone === 1 ? 'has' : 'have'} lost the take. Take what is gone off the reel first.`,
          ]
        : []),
      ...[...unfinished].map(
        (number) => `Take ${number} is not finished: a film needs all of its frames. Continue it, or trim its clip.`,
      ),
      ...(sizes.size > 1
        ? [`The takes are of ${sizes.size} sizes: all are fitted into ${first}, black beside them.`]
        : []),
      ...(kind === 'transparent' && this.clips().length > 0
        ? [
            'Nothing stands behind the product: MP4 and GIF have no transparency and show black there. PNG frames keep it.',
          ]
        : []),
    ];
  });

  count = (clip: Clip): number => clipFrames(clip).length;
  megabytes = (film: Film): string => (film.bytes / 1e6).toFixed(1);

  nameOf(clip: Clip): string {
    const take = this.studio.takes().find((each) => each.id === clip.take);
    return take?.shotName ?? 'Take is gone';
  }

  ofTake(clip: Clip): string {
    const take = this.studio.takes().find((each) => each.id === clip.take);
    const times = clip.loop > 1 ? ` · ${clip.loop} times` : '';
    return `${take ? `take ${take.number} · ` : ''}${many(this.count(clip), 'frame')}${times}`;
  }

  remove(clip: Clip): void {
    this.studio.edit('Take off the reel', (draft) => void delete draft.reel.clips[clip.id]);
  }

  async removeFilm(film: Film): Promise<void> {
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

  async deliver(format: Film['format']): Promise<void> {
    try {
      await this.session.save();
      await this.api.createFilm(this.studio.project()!, format, this.quality());
      await this.session.refreshFilms();
    } catch (error) {
      this.notices.tell(error);
    }
  }
}
