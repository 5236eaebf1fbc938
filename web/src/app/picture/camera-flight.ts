import { inject, Injectable } from '@angular/core';
import { flown, placedAimed, type Flight, type SceneState } from '@zippy/core/scene';
import { cross, normalize, scale, subtract } from '@zippy/core/geometry';
import type { Camera, Vector3 } from '@zippy/core/document';
import { Studio } from '../store/studio';
import { newGesture } from '../ui/gesture';

/** Milliseconds within which turns of the wheel are one gesture. */
const ONE_GESTURE = 800;
/** Of the way to what is looked at, that a step walks. */
const STEP = 0.05;

export type Walk = 'forward' | 'back' | 'left' | 'right' | 'up' | 'down';

/** Flies the camera that is looked through: by the hand in the picture, by steps, by its lens. */
@Injectable({ providedIn: 'root' })
export class CameraFlight {
  private readonly studio = inject(Studio);
  private held: { state: SceneState; gesture: string; camera: string; at: number } | null = null;

  /** Everything is reckoned from where it stood when it was taken hold of, so that no error adds up. */
  fly(by: Flight | 'taken', camera: string | null): void {
    if (!camera) return;
    if (by === 'taken') {
      const now = performance.now();
      const goesOn = this.held?.camera === camera && now - this.held.at < ONE_GESTURE;
      this.held = { state: this.resting(camera), gesture: goesOn ? this.held!.gesture : newGesture(), camera, at: now };
      return;
    }
    if (!this.held) return;
    this.held.at = performance.now();
    this.studio.setProperties('Fly the camera', flown(this.held.state, camera, by), this.held.gesture);
  }

  /** Walks with the camera, which goes on looking the same way. */
  walk(where: Walk, camera: string | null): void {
    const seen = camera && placedAimed(this.studio.present()).cameras[camera];
    if (!seen) return;
    const way = subtract(seen.target, seen.position);
    const right = normalize(cross(way, [0, 1, 0]));
    const size = Math.hypot(...way) * STEP;
    const ahead = normalize(way);
    const steps: Record<Walk, Vector3> = {
      forward: ahead,
      back: scale(ahead, -1),
      right,
      left: scale(right, -1),
      up: [0, 1, 0],
      down: [0, -1, 0],
    };
    const by = scale(steps[where], size);
    this.fly('taken', camera);
    this.fly({ position: by, target: by }, camera);
  }

  /** Multiplies the focal length: the wheel with Alt held. */
  zoom(by: number, camera: string | null): void {
    this.lens(camera, 'Zoom', ({ focalLength }) => ({ focalLength: clamp(focalLength * by, 4, 2000) }));
  }

  /** Leans the camera: the wheel with Shift held. @param by radians */
  roll(by: number, camera: string | null): void {
    this.lens(camera, 'Roll', ({ roll }) => ({ roll: roll + by }));
  }

  /** Puts a view into a camera. */
  take(camera: string, { position, target, focalLength }: Pick<Camera, 'position' | 'target' | 'focalLength'>): void {
    const seen = placedAimed(this.studio.present()).cameras[camera];
    if (!seen) return;
    const by = { position: subtract(position, seen.position), target: subtract(target, seen.target) };
    this.studio.setProperties('Take this view', {
      ...flown(this.resting(camera), camera, by),
      [`cameras/${camera}/focalLength`]: clamp(focalLength, 4, 2000),
    });
  }

  private lens(camera: string | null, label: string, change: (camera: Camera) => Partial<Camera>): void {
    const present = camera && this.studio.present().cameras[camera];
    if (!camera || !present) return;
    const now = performance.now();
    const goesOn = this.held?.camera === camera && now - this.held.at < ONE_GESTURE;
    const gesture = goesOn ? this.held!.gesture : newGesture();
    this.held = { state: this.resting(camera), gesture, camera, at: now };
    const values = Object.entries(change(present)).map(([name, value]) => [`cameras/${camera}/${name}`, value]);
    this.studio.setProperties(label, Object.fromEntries(values) as Record<string, number>, gesture);
  }

  /** The present state, but with the camera where it rests: what a move adds to its place must not become part of it. */
  private resting(camera: string): SceneState {
    const present = this.studio.present();
    const own = this.studio.placed().cameras[camera];
    return own ? { ...present, cameras: { ...present.cameras, [camera]: own } } : present;
  }
}

const clamp = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value));
