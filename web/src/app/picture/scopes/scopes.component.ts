import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatTooltipModule } from '@angular/material/tooltip';
import { area, curveStep, max, scaleLinear } from 'd3';
import { LEVELS, type Density } from '@zippy/core/develop';
import { Api } from '../../api/api';
import { ShownLayer } from '../../store/shown-layer';
import { Studio } from '../../store/studio';
import { IconComponent } from '../../ui/icon.component';
import { SCOPES, type ScopeKind } from './measure';
import { PictureSeen } from './picture-seen';

const WIDTH = 256;
const HEIGHT = 128;
/** Luminance in nits that linear light of 1 stands for. */
const NITS = 683;
/** Milliseconds between two questions of what is under the pointer. */
const PAUSE = 120;

/** Colours in which planes are drawn: luma, or red, green and blue. */
const INKS: Record<1 | 3, readonly (readonly [number, number, number])[]> = {
  1: [[190, 220, 205]],
  3: [
    [232, 110, 100],
    [105, 200, 120],
    [110, 155, 245],
  ],
};

interface Pointed {
  hex: string;
  bytes: string;
  linear: string | null;
  nits: string | null;
  thing: string | null;
}

/** Levels, waveforms and colours of the picture that is seen, what is clipped in it, and the colour under the pointer. */
@Component({
  selector: 'zr-scopes',
  imports: [IconComponent, MatButtonModule, MatButtonToggleModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <mat-button-toggle-group
        aria-label="Scope"
        hideSingleSelectionIndicator
        [value]="seen.kind()"
        (change)="seen.kind.set($event.value)"
      >
        @for (kind of kinds; track kind) {
          <mat-button-toggle [value]="kind">{{ names[kind] }}</mat-button-toggle>
        }
      </mat-button-toggle-group>
      <button matIconButton aria-label="Close the scopes" (click)="seen.watching.set(false)">
        <zr-icon name="close" />
      </button>
    </div>
    <div class="scope" [class.square]="seen.kind() === 'vectorscope'">
      <canvas #plane [hidden]="seen.kind() === 'histogram'"></canvas>
      <svg
        role="img"
        [attr.aria-label]="'Scope: ' + names[seen.kind()]"
        [attr.viewBox]="'0 0 ' + WIDTH + ' ' + HEIGHT"
        [attr.data-full]="seen.measured()?.full"
        preserveAspectRatio="none"
      >
        @if (seen.kind() === 'vectorscope') {
          <path class="line" [attr.d]="'M' + WIDTH / 2 + ',0V' + HEIGHT + 'M0,' + HEIGHT / 2 + 'H' + WIDTH" />
        } @else {
          @for (tick of ticks; track tick) {
            <path class="line" [attr.d]="line(tick)" />
          }
        }
        @for (shape of shapes(); track shape.name) {
          <path [class]="shape.name" [attr.d]="shape.path" />
        }
      </svg>
    </div>
    <div class="said mono">
      @if (seen.measured(); as told) {
        <span [class.warn]="told.full > 0.005">clipped {{ percent(told.full) }}</span>
        <span>black {{ percent(told.empty) }}</span>
        <button
          matButton
          matTooltip="Clipped in coral, black in blue, in the picture itself"
          [attr.aria-pressed]="seen.marked()"
          (click)="seen.marked.set(!seen.marked())"
        >
          Mark
        </button>
      } @else {
        <span class="quiet">no picture yet</span>
      }
    </div>
    @if (pointed(); as told) {
      <div class="said mono" role="status">
        <i [style.background]="told.hex"></i>{{ told.hex }} · {{ told.bytes }}
        @if (told.linear) {
          <span>linear {{ told.linear }} · {{ told.nits }}</span>
        }
        @if (told.thing) {
          <span>{{ told.thing }}</span>
        }
      </div>
    }
  `,
  styles: `
    :host {
      position: absolute;
      z-index: 2;
      inset: 52px 8px auto auto;
      width: 268px;
      padding: 6px;
      border-radius: 6px;
      background: var(--panel);
      font-size: 11px;
    }
    .head {
      display: flex;
      justify-content: space-between;
      align-items: center;
      margin-bottom: 6px;
    }
    .scope {
      position: relative;
      height: 128px;
      background: #0c0d0e;
    }
    .scope.square {
      width: 192px;
      height: 192px;
      margin: auto;
    }
    .scope canvas,
    .scope svg {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 100%;
    }
    .line {
      fill: none;
      stroke: rgb(255 255 255 / 16%);
      vector-effect: non-scaling-stroke;
    }
    .luma {
      fill: rgb(220 226 224 / 55%);
    }
    .red {
      fill: rgb(232 90 80 / 55%);
      mix-blend-mode: screen;
    }
    .green {
      fill: rgb(80 190 100 / 55%);
      mix-blend-mode: screen;
    }
    .blue {
      fill: rgb(90 140 245 / 60%);
      mix-blend-mode: screen;
    }
    .said {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 10px;
      align-items: center;
      min-height: 24px;
      margin-top: 4px;
    }
    i {
      width: 14px;
      height: 14px;
      border-radius: 3px;
      box-shadow: 0 0 0 1px rgb(128 128 128 / 60%);
    }
  `,
  host: {
    '(pointerdown)': '$event.stopPropagation()',
    '(pointerup)': '$event.stopPropagation()',
    '(pointermove)': '$event.stopPropagation()',
  },
})
export class ScopesComponent {
  readonly seen = inject(PictureSeen);
  private readonly api = inject(Api);
  private readonly studio = inject(Studio);
  private readonly layers = inject(ShownLayer);
  private readonly plane = viewChild.required<ElementRef<HTMLCanvasElement>>('plane');
  /** The pointer over the picture, in parts of it. */
  readonly pointer = input<{ x: number; y: number } | null>(null);
  readonly WIDTH = WIDTH;
  readonly HEIGHT = HEIGHT;
  readonly names = SCOPES;
  readonly kinds = Object.keys(SCOPES) as ScopeKind[];
  readonly ticks = [0, 0.25, 0.5, 0.75, 1];
  readonly pointed = signal<Pointed | null>(null);
  private asked = 0;

  /** Levels over their range, the highest cut off where single levels, such as black, would flatten all others. */
  readonly shapes = computed(() => {
    const found = this.seen.measured()?.histogram;
    if (!found) return [];
    const across = scaleLinear([0, LEVELS], [0, WIDTH]);
    const inner = [found.red, found.green, found.blue].flatMap((counts) => [...counts.subarray(2, LEVELS - 2)]);
    const up = scaleLinear([0, (max(inner) ?? 1) * 1.05 || 1], [HEIGHT, 0]).clamp(true);
    const shape = area<number>(
      (_, k) => across(k),
      HEIGHT,
      (count) => up(count),
    ).curve(curveStep);
    return (['luma', 'red', 'green', 'blue'] as const).map((name) => ({ name, path: shape(found[name]) ?? '' }));
  });

  constructor() {
    effect(() => {
      const planes = this.seen.measured()?.planes ?? [];
      if (planes.length > 0) drawPlanes(this.plane().nativeElement, planes);
    });
    effect(() => void this.point(this.pointer()));
  }

  /** Levels lie across in the histogram, and upwards in the others. */
  line(tick: number): string {
    return this.seen.kind() === 'histogram' ? `M${tick * WIDTH},0V${HEIGHT}` : `M0,${(1 - tick) * HEIGHT}H${WIDTH}`;
  }

  percent = (part: number): string => `${(part * 100).toFixed(part > 0 && part < 0.1 ? 2 : 1)} %`;

  private async point(at: { x: number; y: number } | null): Promise<void> {
    const turn = ++this.asked;
    if (!at) return this.pointed.set(null);
    await new Promise((resolve) => setTimeout(resolve, PAUSE));
    if (turn !== this.asked) return;
    const shown = await this.seen.at(at.x, at.y);
    if (turn !== this.asked || !shown) return;
    const [r, g, b] = shown;
    const hex = `#${[r, g, b].map((value) => value.toString(16).padStart(2, '0')).join('')}`;
    const told = { hex, bytes: `${r} ${g} ${b}`, linear: null, nits: null, thing: null };
    this.pointed.set(told);
    const take = this.seen.top() === 'take' ? this.layers.take() : null;
    if (!take) return;
    try {
      const { light, part, depth } = await this.api.probeFrame(take.id, Math.round(this.studio.frame()), at.x, at.y);
      if (turn !== this.asked) return;
      const luminance = 0.2126 * light[0] + 0.7152 * light[1] + 0.0722 * light[2];
      this.pointed.set({
        ...told,
        linear: light.map((value) => value.toPrecision(3)).join(' '),
        nits: `${Number((luminance * NITS).toPrecision(3))} nits`,
        thing: [part, depth === null ? null : `${sayDistance(depth)} away`].filter(Boolean).join(', ') || null,
      });
    } catch {
      // What the display shows is told all the same.
    }
  }
}

/** Millimetres, or metres where there are many. */
const sayDistance = (mm: number): string =>
  mm < 10_000 ? `${Number(mm.toPrecision(4))} mm` : `${Number((mm / 1000).toPrecision(4))} m`;

/** Draws how many pixels fall where: more of them are brighter, in steps that show single ones too. */
function drawPlanes(canvas: HTMLCanvasElement, planes: readonly Density[]): void {
  const [{ across, down }] = planes as [Density];
  Object.assign(canvas, { width: across * planes.length, height: down });
  const context = canvas.getContext('2d')!;
  planes.forEach(({ counts }, k) => {
    const image = context.createImageData(across, down);
    const full = Math.log1p(max(counts) ?? 1);
    const ink = INKS[planes.length === 3 ? 3 : 1][k]!;
    for (let at = 0; at < counts.length; at++) {
      if (counts[at] === 0) continue;
      const bright = 0.25 + (0.75 * Math.log1p(counts[at]!)) / full;
      image.data.set([ink[0] * bright, ink[1] * bright, ink[2] * bright, 255], at * 4);
    }
    context.putImageData(image, k * across, 0);
  });
}
