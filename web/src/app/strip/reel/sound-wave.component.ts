import { ChangeDetectionStrategy, Component, computed, input, resource } from '@angular/core';
import { area } from 'd3';
import type { Asset, Sound } from '@zippy/core/document';
import { blobUrl } from '../../api/urls';

/** Stretches a second for which a sound tells how loud it is. */
const PER_SECOND = 50;
/** Pixels of a step of the drawing. */
const STEP = 2;

/** How loud a sound is along the part of it that is heard, with what its level and fades make of that. */
@Component({
  selector: 'zr-sound-wave',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: ` <svg [attr.width]="width()" [attr.height]="height" aria-hidden="true"><path [attr.d]="path()" /></svg> `,
  styles: `
    :host {
      display: block;
      pointer-events: none;
    }
    svg {
      display: block;
    }
    path {
      fill: color-mix(in srgb, var(--select) 60%, transparent);
    }
  `,
})
export class SoundWaveComponent {
  readonly sound = input.required<Sound>();
  readonly asset = input.required<Asset>();
  readonly width = input.required<number>();
  /** Seconds that are heard. */
  readonly lasts = input.required<number>();
  readonly height = 28;
  private readonly levels = resource({
    params: () => this.asset().sound?.loudness ?? '',
    loader: async ({ params, abortSignal }) => {
      const response = await fetch(blobUrl(params), { signal: abortSignal });
      return new Uint8Array(await response.arrayBuffer());
    },
  });

  readonly path = computed(() => {
    const levels = this.levels.hasValue() ? this.levels.value() : null;
    if (!levels || levels.length === 0) return '';
    const { from, level, fadeIn, fadeOut } = this.sound();
    const [lasts, width] = [this.lasts(), this.width()];
    const gain = 10 ** (level / 20);
    const points = Array.from({ length: Math.max(2, Math.ceil(width / STEP)) }, (_, k) => {
      const [begin, end] = [k, k + 1].map((at) => ((at * STEP) / width) * lasts) as [number, number];
      const first = Math.floor((from + begin) * PER_SECOND);
      const part = levels.subarray(first, Math.max(first + 1, Math.ceil((from + end) * PER_SECOND)));
      const faded = Math.min(1, fadeIn > 0 ? begin / fadeIn : 1, fadeOut > 0 ? (lasts - begin) / fadeOut : 1);
      return Math.min(1, (part.reduce((most, each) => Math.max(most, each), 0) / 255) * gain * Math.max(0, faded));
    });
    const half = this.height / 2;
    return (
      area<number>()
        .x((_, k) => k * STEP)
        .y0((value) => half - value * (half - 1))
        .y1((value) => half + value * (half - 1))(points) ?? ''
    );
  });
}
