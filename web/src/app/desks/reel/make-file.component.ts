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
  { value: '0x0', label: 'That of the film' },
  { value: '480x270', label: '480 × 270' },
  { value: '960x540', label: '960 × 540' },
  { value: '1280x720', label: '1280 × 720' },
  { value: '1920x1080', label: '1920 × 1080' },
  { value: '3840x2160', label: '3840 × 2160' },
  { value: '1080x1080', label: '1080 × 1080 square' },
  { value: '1080x1350', label: '1080 × 1350 upright' },
  { value: '1080x1920', label: '1080 × 1920 upright' },
];
const SHAPES = [
  { value: 'whole', label: 'Whole, with ground beside them' },
  { value: 'fill', label: 'Filling it about the point that counts' },
];
const FORMATS = FILM_FORMAT_NAMES.map((value) => ({ value, label: FILM_FORMATS[value].title }));
const QUALITIES = FILM_QUALITIES.map((value) => ({ value, label: QUALITY_NAMES[value] }));
const USE_NAMES = USES.map(({ id, title }) => ({ value: id, label: title }));

/** One thing that is set of a file: a choice, or a whole number in a range. */
interface Setting {
  name: string;
  /** As it is called where nothing stands beside it. */
  label: string;
  value: string | number | null;
  options?: { value: string; label: string }[];
  range?: [number, number];
  unit?: string;
  placeholder?: string;
  hint?: string;
  /** Stands below it. */
  says?: string;
  set: (value: string | number) => void;
}

/** What kind of file the film becomes, and what it will take. */
@Component({
  selector: 'zr-make-file',
  imports: [ChoiceComponent, MatButtonModule, MatSlideToggleModule, MatTooltipModule, NumberFieldComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Make a file</h2>
    @for (setting of settings(); track setting.label) {
      <div class="pair">
        <span class="quiet" [title]="setting.hint ?? ''">{{ setting.name }}</span>
        @if (setting.options; as options) {
          <zr-choice
            [label]="setting.label"
            [placeholder]="setting.placeholder ?? ''"
            [options]="options"
            [value]="$any(setting.value)"
            (chosen)="setting.set($event)"
          />
        } @else {
          <zr-number
            [label]="setting.label"
            [unit]="setting.unit ?? ''"
            [value]="$any(setting.value)"
            [min]="setting.range![0]"
            [max]="setting.range![1]"
            (changed)="setting.set(whole($event.value))"
          />
        }
      </div>
      @if (setting.says) {
        <p class="quiet">{{ setting.says }}</p>
      }
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
  `,
})
export class MakeFileComponent {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly session = inject(Session);
  private readonly studio = inject(Studio);
  readonly reel = inject(ReelFilm);
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
    return SIZES.some(({ value }) => value === name) ? name : null;
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

  /** What can be set of the file that is meant. */
  readonly settings = computed((): Setting[] => {
    const { format: name, size, shape, quality, colors, pictures, every } = this.delivery();
    const { plan, hasQuality, hasColors } = this.format();
    const side = (which: 'width' | 'height'): Setting => ({
      name: which === 'width' ? 'Width' : 'Height',
      label: `${which === 'width' ? 'Width' : 'Height'} of the file's picture`,
      unit: 'px',
      range: [16, 8192],
      value: size![which],
      set: (value) => this.set({ size: { ...size!, [which]: Number(value) } }),
    });
    const all: (Setting | false)[] = [
      { name: 'For', label: 'What it is for', placeholder: 'Own settings', options: USE_NAMES, value: this.use(), set: (id) => this.take(String(id)) },
      { name: 'Kind', label: 'Kind of file', options: FORMATS, value: name, says: this.says(), set: (value) => this.set({ format: value as Delivery['format'] }) },
      { name: 'Size', label: "Size of the file's picture", placeholder: 'Own size', options: SIZES, value: this.size(), set: (value) => this.setSize(String(value)) },
      size !== null && side('width'),
      size !== null && side('height'),
      this.reshaped() && { name: 'Clips are', label: 'How clips come into another shape', options: SHAPES, value: shape, set: (value) => this.set({ shape: value as Delivery['shape'] }) },
      hasQuality && { name: 'Quality', label: 'Quality', options: QUALITIES, value: quality, set: (value) => this.set({ quality: value as Delivery['quality'] }) },
      hasColors && { name: 'Colours', label: 'Colours', range: [2, 256], value: colors, set: (value) => this.set({ colors: Number(value) }) },
      plan.by === 'viewer' && { name: 'Pictures', label: 'Pictures of each clip', range: [4, 360], value: pictures, set: (value) => this.set({ pictures: Number(value) }) },
      (plan.by === 'encoder' || plan.by === 'pictures') && { name: 'Every', label: 'Every so many frames', hint: 'The rate becomes so much lower', unit: 'frames', range: [1, 60], value: every, set: (value) => this.set({ every: Number(value) }) },
    ]; // prettier-ignore
    return all.filter((setting) => setting !== false);
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
