import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { tanHalfWidth } from '@zippy/core/optics';
import { Studio } from '../store/studio';
import { Guides } from './guides';

/** Lines of the film's frame, in hundredths of it. */
interface Line {
  x1: number;
  y1: number;
  x2: number;
  y2: number;
}

const across = (y: number): Line => ({ x1: 0, y1: y, x2: 100, y2: y });
const down = (x: number): Line => ({ x1: x, y1: 0, x2: x, y2: 100 });
const THIRDS = [100 / 3, 200 / 3];

/** Lines that help to frame a picture; it lies in the film's frame. Safe areas after SMPTE ST 2046-1: 93% for action, 90% for titles. */
@Component({
  selector: 'zr-guides',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 100 100" preserveAspectRatio="none" aria-hidden="true">
      @for (line of lines(); track $index) {
        <line [attr.x1]="line.x1" [attr.y1]="line.y1" [attr.x2]="line.x2" [attr.y2]="line.y2" />
      }
      @if (guides.shown().has('safe')) {
        <rect x="3.5" y="3.5" width="93" height="93" />
        <rect x="5" y="5" width="90" height="90" />
      }
      @if (horizon(); as line) {
        <line class="horizon" [attr.x1]="line.x1" [attr.y1]="line.y1" [attr.x2]="line.x2" [attr.y2]="line.y2" />
      }
    </svg>
  `,
  styles: `
    :host {
      position: absolute;
      pointer-events: none;
      overflow: hidden;
    }
    svg {
      width: 100%;
      height: 100%;
    }
    line,
    rect {
      fill: none;
      stroke: rgb(255 255 255 / 55%);
      stroke-width: 1px;
      vector-effect: non-scaling-stroke;
      mix-blend-mode: difference;
    }
    .horizon {
      stroke: var(--select);
      mix-blend-mode: normal;
    }
  `,
})
export class GuidesComponent {
  private readonly studio = inject(Studio);
  readonly guides = inject(Guides);
  readonly lines = computed((): Line[] => {
    const shown = this.guides.shown();
    return [
      ...(shown.has('thirds') ? [...THIRDS.map(across), ...THIRDS.map(down)] : []),
      ...(shown.has('halves') ? [across(50), down(50)] : []),
      ...(shown.has('diagonals')
        ? [
            { x1: 0, y1: 0, x2: 100, y2: 100 },
            { x1: 0, y1: 100, x2: 100, y2: 0 },
          ]
        : []),
    ];
  });
  /** Where the camera sees the horizon: as high as it looks down, and leaning as it does. */
  readonly horizon = computed((): Line | null => {
    const { camera } = this.studio.frameState();
    if (!camera || camera.projection === 'orthographic' || !this.guides.shown().has('horizon')) return null;
    const [x, y, z] = camera.target.map((v, k) => v - camera.position[k]!) as [number, number, number];
    const flat = Math.hypot(x, z);
    if (flat < 1e-6) return null;
    const { width, height } = this.studio.pictureSize();
    const tanX = tanHalfWidth(camera);
    const tanY = (tanX * height) / width;
    // In tangents of the angle from the middle, right and up; the picture leans against the camera.
    const [c, s] = [Math.cos(camera.roll), Math.sin(camera.roll)];
    const point = (along: number) => {
      const up = -y / flat;
      const [right, high] = [along * c + up * s, up * c - along * s];
      return [50 + (50 * right) / tanX, 50 - (50 * high) / tanY] as const;
    };
    const [[x1, y1], [x2, y2]] = [point(-4 * tanX), point(4 * tanX)];
    return { x1, y1, x2, y2 };
  });
}
