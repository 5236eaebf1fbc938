import { blobUrl } from '../api/urls';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  signal,
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
import { wrap } from 'comlink';
import { Studio } from '../store/studio';
import type { BallRequest, SurroundingsThread } from './surroundings.worker';

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
  private readonly worker = new Worker(new URL('./surroundings.worker', import.meta.url), { type: 'module' });
  private readonly thread = wrap<SurroundingsThread>(this.worker);
  private readonly picture = signal<SurroundingsPicture | null>(null);
  private asked = 0;
  /** What the picture is painted from, as text: turns and brightness do not paint another one. */
  private readonly wish = computed(() => {
    const { surroundings } = this.studio.present().set;
    const asset = surroundings.picture ? this.studio.document().assets[surroundings.picture] : undefined;
    const file = asset ? { url: blobUrl(asset.hash), name: asset.sourceName } : null;
    return JSON.stringify({
      surroundings: { ...surroundings, turn: 0, tilt: 0, brightness: 1, tint: [1, 1, 1] },
      file,
    });
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => this.worker.terminate());
    effect(() => void this.paint(JSON.parse(this.wish()) as BallRequest));
    effect(() => this.draw());
  }

  private async paint(wish: BallRequest): Promise<void> {
    const asked = ++this.asked;
    const picture = await this.thread.paint(wish);
    if (asked === this.asked) this.picture.set(picture);
  }

  private draw(): void {
    const { surroundings } = this.studio.present().set;
    const picture = this.picture();
    const { turn, tilt } = surroundings;
    const camera = this.studio.frameState().camera;
    const { x, y, z } = frameAlong(camera ? subtract(camera.position, camera.target) : [0, 0, 1]);
    const exposure = 2 ** this.studio.document().look.exposure;
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
