import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  viewChild,
} from '@angular/core';
import { frameAlong, normalize, subtract } from '@zippy/core/geometry';
import {
  encodeSrgb,
  meetSurroundings,
  placeOnPicture,
  surroundingsGain,
  type SurroundingsPicture,
} from '@zippy/core/optics';
import { Studio } from '../store/studio';
import { SurroundingsPainter } from './surroundings-painter';

const SIZE = 56;

/** A small mirror ball that shows the surroundings as they stand round the product, seen from the shot's camera. */
@Component({
  selector: 'zr-mirror-ball',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<canvas #canvas width="56" height="56" role="img" aria-label="Mirror ball of the surroundings"></canvas>`,
  styles: `
    :host {
      position: absolute;
      top: 10px;
      right: 10px;
      pointer-events: none;
    }
    canvas {
      display: block;
      border-radius: 50%;
    }
  `,
})
export class MirrorBallComponent {
  private readonly studio = inject(Studio);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly painter = inject(SurroundingsPainter);
  private readonly picture = computed(() => {
    this.painter.arrived();
    return this.painter.of(this.studio.present().set.surroundings, this.studio.document().assets)?.picture ?? null;
  });

  constructor() {
    effect(() => this.draw());
  }

  private draw(): void {
    const { surroundings } = this.studio.present().set;
    const picture = this.picture();
    const { turn, tilt } = surroundings;
    const camera = this.studio.frameState().camera;
    const { x, y, z } = frameAlong(camera ? subtract(camera.position, camera.target) : [0, 0, 1]);
    const exposure = 2 ** this.studio.look().exposure;
    const gain = surroundingsGain(surroundings).map((v) => v * exposure);
    const image = new ImageData(SIZE, SIZE);
    for (let row = 0; row < SIZE; row++) {
      for (let column = 0; column < SIZE; column++) {
        const u = ((column + 0.5) / SIZE) * 2 - 1;
        const v = 1 - ((row + 0.5) / SIZE) * 2;
        const rest = 1 - u * u - v * v;
        if (rest <= 0) continue;
        const w = Math.sqrt(rest);
        // The view mirrored at the ball's normal (u, v, w), in the camera's frame and then in the world.
        const [a, b, c] = [2 * w * u, 2 * w * v, 2 * w * w - 1];
        const d = normalize([
          a * x[0] + b * y[0] + c * z[0],
          a * x[1] + b * y[1] + c * z[1],
          a * x[2] + b * y[2] + c * z[2],
        ]);
        const light = picture ? lookUp(picture, meetSurroundings(d, turn, tilt)) : WHITE;
        const at = (row * SIZE + column) * 4;
        for (let k = 0; k < 3; k++) image.data[at + k] = 255 * encodeSrgb(Math.min(1, light[k]! * gain[k]!));
        image.data[at + 3] = 255;
      }
    }
    this.canvas().nativeElement.getContext('2d')?.putImageData(image, 0, 0);
  }
}

const WHITE = [1, 1, 1] as const;

function lookUp(
  { width, height, pixels }: SurroundingsPicture,
  direction: readonly [number, number, number],
): readonly [number, number, number] {
  const [u, v] = placeOnPicture(direction);
  const column = Math.min(width - 1, Math.floor(u * width));
  const row = Math.min(height - 1, Math.floor(v * height));
  const at = (row * width + column) * 3;
  return [pixels[at]!, pixels[at + 1]!, pixels[at + 2]!];
}
