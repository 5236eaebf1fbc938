import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import { MatTooltipModule } from '@angular/material/tooltip';
import {
  deliveryFor,
  deliverySchema,
  FILM_FORMAT_NAMES,
  FILM_FORMATS,
  FILM_QUALITIES,
  filmFormat,
  USES,
  type Delivery,
} from '@zippy/core/reel';
import { Api } from '../../api/api';
import { Notices } from '../../store/notices';
import { ReelFilm } from '../../store/reel/reel-film';
import { Session } from '../../store/session';
import { Studio } from '../../store/studio';
import { ChoiceComponent } from '../../ui/choice.component';
import { NumberFieldComponent } from '../../ui/number-field.component';

const KEPT = 'zippy-delivery';
const QUALITY_NAMES = { fine: 'Fine', good: 'Good', small: 'Small' };
const SIZES = [
  [0, 0, 'That of the film'],
  [480, 270, '480 × 270'],
  [960, 540, '960 × 540'],
  [1280, 720, '1280 × 720'],
  [1920, 1080, '1920 × 1080'],
  [3840, 2160, '3840 × 2160'],
  [1080, 1080, '1080 × 1080 square'],
  [1080, 1350, '1080 × 1350 upright'],
  [1080, 1920, '1080 × 1920 upright'],
] as const;

/** What kind of file the film becomes, and what it will take. */
@Component({
  selector: 'zr-make-file',
  imports: [ChoiceComponent, MatButtonModule, MatSlideToggleModule, MatTooltipModule, NumberFieldComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Make a file</h2>
    <div class="pair">
      <span class="quiet">For</span>
      <zr-choice
        label="What it is for"
        placeholder="Own settings"
        [options]="uses"
        [value]="use()"
        (chosen)="take($event)"
      />
    </div>
    <div class="pair">
      <span class="quiet">Kind</span>
      <zr-choice
        label="Kind of file"
        [options]="formats"
        [value]="delivery().format"
        (chosen)="set({ format: $any($event) })"
      />
    </div>
    <p class="quiet">{{ says() }}</p>
    <div class="pair">
      <span class="quiet">Size</span>
      <zr-choice
        label="Size of the file's picture"
        placeholder="Own size"
        [options]="sizes"
        [value]="size()"
        (chosen)="setSize($event)"
      />
    </div>
    @if (delivery().size; as size) {
      <div class="pair">
        <span></span>
        <div class="row">
          <zr-number
            label="Width of the file's picture"
            unit="px"
            [value]="size.width"
            [min]="16"
            [max]="8192"
            (changed)="set({ size: { width: whole($event.value), height: size.height } })"
          />
          <zr-number
            label="Height of the file's picture"
            unit="px"
            [value]="size.height"
            [min]="16"
            [max]="8192"
            (changed)="set({ size: { width: size.width, height: whole($event.value) } })"
          />
        </div>
      </div>
      @if (reshaped()) {
        <div class="pair">
          <span class="quiet">Clips are</span>
          <zr-choice
            label="How clips come into another shape"
            [options]="shapes"
            [value]="delivery().shape"
            (chosen)="set({ shape: $any($event) })"
          />
        </div>
      }
    }
    @if (format().hasQuality) {
      <div class="pair">
        <span class="quiet">Quality</span>
        <zr-choice
          label="Quality"
          [options]="qualities"
          [value]="delivery().quality"
          (chosen)="set({ quality: $any($event) })"
        />
      </div>
    }
    @if (format().hasColors) {
      <div class="pair">
        <span class="quiet">Colours</span>
        <zr-number
          label="Colours"
          [value]="delivery().colors"
          [min]="2"
          [max]="256"
          (changed)="set({ colors: whole($event.value) })"
        />
      </div>
    }
    @if (format().plan.by === 'viewer') {
      <div class="pair">
        <span class="quiet">Pictures</span>
        <zr-number
          label="Pictures of each clip"
          [value]="delivery().pictures"
          [min]="4"
          [max]="360"
          (changed)="set({ pictures: whole($event.value) })"
        />
      </div>
    } @else if (format().plan.by !== 'poster') {
      <div class="pair">
        <span class="quiet" title="The rate becomes so much lower">Every</span>
        <zr-number
          label="Every so many frames"
          unit="frames"
          [value]="delivery().every"
          [min]="1"
          [max]="60"
          (changed)="set({ every: whole($event.value) })"
        />
      </div>
    }
    @if (format().alpha) {
      <mat-slide-toggle hideIcon [checked]="delivery().open" (change)="set({ open: $event.checked })">
        Stays open behind the product
      </mat-slide-toggle>
    }
    <div class="row">
      <button matButton="filled" [disabled]="reel.frames() === 0 || making()" (click)="make()">{{ action() }}</button>
      <button matButton="tonal" [disabled]="reel.frames() === 0 || foretelling()" (click)="foretell()">
        {{ foretelling() ? 'Trying some frames…' : 'How large?' }}
      </button>
      @if (told(); as words) {
        <span class="mono" role="status">{{ words }}</span>
      }
    </div>
  `,
  styleUrl: '../desk.scss',
  styles: `
    p {
      margin: 0;
      font-size: 12px;
    }
    .pair {
      display: grid;
      grid-template-columns: 72px 1fr;
      gap: 6px;
      align-items: center;
    }
    .row zr-number {
      flex: 1;
      min-width: 60px;
    }
  `,
})
export class MakeFileComponent {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly session = inject(Session);
  private readonly studio = inject(Studio);
  readonly reel = inject(ReelFilm);
  readonly uses = USES.map(({ id, title }) => ({ value: id, label: title }));
  readonly formats = FILM_FORMAT_NAMES.map((value) => ({ value, label: FILM_FORMATS[value].title }));
  readonly qualities = FILM_QUALITIES.map((value) => ({ value, label: QUALITY_NAMES[value] }));
  readonly sizes = SIZES.map(([width, height, label]) => ({ value: `${width}x${height}`, label }));
  readonly shapes = [
    { value: 'whole', label: 'Whole, with ground beside them' },
    { value: 'fill', label: 'Filling it about the point that counts' },
  ];
  readonly delivery = signal<Delivery>(kept());
  readonly format = computed(() => filmFormat(this.delivery().format));
  /** The use that the settings are for, if any. */
  readonly use = computed(() => {
    const present = JSON.stringify(this.delivery());
    const film = this.reel.film().size;
    return USES.find((use) => JSON.stringify(deliveryFor(use, film)) === present)?.id ?? null;
  });
  readonly says = computed(() => USES.find(({ id }) => id === this.use())?.says ?? this.format().says);
  readonly size = computed(() => {
    const { size } = this.delivery();
    const name = size ? `${size.width}x${size.height}` : '0x0';
    return this.sizes.some(({ value }) => value === name) ? name : null;
  });
  /** It has another shape than the film. */
  readonly reshaped = computed(() => {
    const [own, film] = [this.delivery().size, this.reel.film().size];
    return own !== null && Math.abs(own.width / own.height - film.width / film.height) > 0.005;
  });
  readonly making = signal(false);
  readonly foretelling = signal(false);
  readonly told = signal('');
  readonly action = computed(() => {
    const { by } = this.format().plan;
    return by === 'poster' ? `Make it of frame ${this.reel.restFrame()}` : 'Make the file';
  });

  constructor() {
    // What was told was of another film, or of another file.
    effect(() => {
      this.delivery();
      this.reel.film();
      untracked(() => this.told.set(''));
    });
  }

  whole = (value: number): number => Math.round(value);

  set(change: Partial<Delivery>): void {
    this.delivery.update((delivery) => ({ ...delivery, ...change }));
    localStorage.setItem(KEPT, JSON.stringify(this.delivery()));
  }

  setSize(name: string): void {
    const [width = 0, height = 0] = name.split('x').map(Number);
    this.set({ size: width > 0 ? { width, height } : null });
  }

  take(id: string): void {
    this.delivery.set(
      deliveryFor(
        USES.find((use) => use.id === id)!,
        this.reel.film().size,
      ),
    );
    this.set({});
  }

  async make(): Promise<void> {
    this.making.set(true);
    try {
      await this.session.save();
      await this.api.createFilm(this.studio.project()!, { ...this.delivery(), frame: this.reel.frame() });
      await this.session.refreshFilms();
    } catch (error) {
      this.notices.tell(error);
    } finally {
      this.making.set(false);
    }
  }

  async foretell(): Promise<void> {
    this.foretelling.set(true);
    try {
      await this.session.save();
      const { bytes } = await this.api.foretellFilm(this.studio.project()!, this.delivery());
      this.told.set(`about ${bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1e6).toFixed(1)} MB`}`); // prettier-ignore
    } catch (error) {
      this.notices.tell(error);
    } finally {
      this.foretelling.set(false);
    }
  }
}

/** How the last file was made in this browser. */
function kept(): Delivery {
  try {
    return deliverySchema.parse(JSON.parse(localStorage.getItem(KEPT)!));
  } catch {
    return deliverySchema.parse({ format: 'mp4' });
  }
}
