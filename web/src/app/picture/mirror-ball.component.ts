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
import { encodeSrgb } from '@zippy/core/optics';
import { Studio } from '../state/studio';

interface SmallPicture {
  width: number;
  height: number;
  pixels: Float32Array;
}

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
  private readonly pictures = signal<ReadonlyMap<string, SmallPicture>>(new Map());
  private readonly asked = new Set<string>();
  private readonly asset = computed(() => {
    const { kind, picture } = this.studio.present().set.surroundings;
    return kind === 'picture' && picture ? (this.studio.document().assets[picture] ?? null) : null;
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => this.worker.terminate());
    this.worker.onmessage = ({ data }: MessageEvent<{ url: string } & Partial<SmallPicture>>) => {
      const { url, width, height, pixels } = data;
      if (width && height && pixels)
        this.pictures.update((known) => new Map([...known, [url, { width, height, pixels }]]));
    };
    effect(() => {
      const asset = this.asset();
      const url = asset && `/api/blobs/${asset.hash}`;
      if (!url || this.asked.has(url)) return;
      this.asked.add(url);
      this.worker.postMessage({ url, name: asset.sourceName });
    });
    effect(() => this.draw());
  }

  private draw(): void {
    const { surroundings } = this.studio.present().set;
    const asset = this.asset();
    const picture = asset ? this.pictures().get(`/api/blobs/${asset.hash}`) : undefined;
    const camera = this.studio.frameState().camera;
    const { x, y, z } = frameAlong(camera ? subtract(camera.position, camera.target) : [0, 0, 1]);
    const gain = surroundings.brightness * 2 ** this.studio.document().look.exposure;
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
        const light = picture ? lookUp(picture, d, surroundings.turn) : surroundings.color;
        const at = (row * SIZE + column) * 4;
        for (let k = 0; k < 3; k++) image.data[at + k] = 255 * encodeSrgb(Math.min(1, light[k]! * gain));
        image.data[at + 3] = 255;
      }
    }
    this.canvas().nativeElement.getContext('2d')?.putImageData(image, 0, 0);
  }
}

/** The same mapping as the tracer's: straight ahead (+z) is the middle of the picture. */
function lookUp(
  { width, height, pixels }: SmallPicture,
  [x, y, z]: readonly number[],
  turn: number,
): readonly [number, number, number] {
  const u = (Math.atan2(x!, z!) - turn) / (2 * Math.PI) + 0.5;
  const column = Math.min(width - 1, Math.floor((u - Math.floor(u)) * width));
  const row = Math.min(height - 1, Math.floor((Math.acos(Math.min(1, Math.max(-1, y!))) / Math.PI) * height));
  const at = (row * width + column) * 3;
  return [pixels[at]!, pixels[at + 1]!, pixels[at + 2]!];
}
