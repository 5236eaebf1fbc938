import { inject, Injectable } from '@angular/core';
import { copyOf, lastOrder, newCamera, newShot, nextName, type Key } from '@zippy/core/document';
import { isEmpty } from '@zippy/core/geometry';
import { tanHalfWidth } from '@zippy/core/optics';
import { captureRadius, captureStations, type CapturePlan } from '@zippy/core/scene';
import { SceneBounds } from '../scene-bounds';
import { Studio } from '../studio';

/** What is asked of a shot all round the product. */
export interface CaptureWish extends Omit<CapturePlan, 'radius'> {
  /** Millimetres. */
  focalLength: number;
  /** Nothing is behind the product, and no floor below it: its pictures have an alpha. */
  alone: boolean;
}

/** Most cameras about a product: a shot has a frame for each. */
export const MOST_STATIONS = 5000;

/** Shots that go all round the product, for reconstruction from its pictures. */
@Injectable({ providedIn: 'root' })
export class Capture {
  private readonly studio = inject(Studio);
  private readonly bounds = inject(SceneBounds);

  /** Makes a shot with a frame for each place about the product, all sharp and without blur, and opens it. */
  make({ focalLength, alone, ...plan }: CaptureWish): void {
    const document = this.studio.document();
    const bounds = this.bounds.of(this.studio.frameState().parts.map(({ node }) => node));
    const { center, size } = this.bounds.product();
    const { width, height } = document.picture;
    const camera = newCamera({ name: 'All round', focalLength, target: center, fStop: 0, shutterAngle: 0 });
    const tanHalf = tanHalfWidth(camera) * Math.min(1, height / width);
    // The product is as large as the ball about its box: it is never cut off, whichever way it is seen.
    const ball = isEmpty(bounds) ? size * Math.sqrt(3) : Math.hypot(...bounds.high.map((v, k) => v - bounds.low[k]!));
    const radius = captureRadius(ball, tanHalf);
    const places = captureStations({ ...plan, radius }, center);
    const keys = places.map((value, k): Key => ({ frame: k + 1, value, pace: 'held' }));
    const shot = newShot({
      name: 'All round',
      length: places.length,
      camera: camera.id,
      included: false,
      tracks: { [`cameras/${camera.id}/position`]: keys },
      changes: alone ? { 'set/behind/kind': 'transparent', 'set/floor/kind': 'none' } : {},
    });
    this.studio.edit('All round the product', (draft) => {
      const name = (of: Record<string, { name: string }>) => nextName(Object.values(of).map((each) => each.name), 'All round'); // prettier-ignore
      draft.cameras[camera.id] = {
        ...camera,
        name: name(draft.cameras),
        position: copyOf(places[0]!),
        order: lastOrder(draft.cameras),
      };
      draft.shots[shot.id] = { ...shot, name: name(draft.shots), order: lastOrder(draft.shots) };
    });
    this.studio.openShot(shot.id);
    this.studio.select('camera', camera.id);
    this.studio.lookThroughCamera(true);
  }
}
