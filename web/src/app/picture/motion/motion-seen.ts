import { computed, effect, inject, Injectable, signal } from '@angular/core';
import { subtree, type Camera, type Key, type Light, type ProjectDocument, type Vector3 } from '@zippy/core/document';
import {
  evaluate,
  evaluateProperties,
  keyCarried,
  motionPath,
  type MotionPath,
  type PartState,
} from '@zippy/core/motion';
import { placedAimed, type Grip } from '@zippy/core/scene';
import { Studio } from '../../store/studio';
import { newGesture } from '../../ui/gesture';

/** Something of the selection as it is on another frame. */
export interface Ghost {
  part?: PartState;
  light?: Light;
  camera?: Camera;
}

/** What of the motion is seen in the picture. */
export interface SeenMotion {
  path: MotionPath | null;
  /** Frame whose place on the path is pointed out. */
  now: number;
  before: Ghost[];
  after: Ghost[];
}

/** Frames from one ghost to the next; 0 for none. */
export const GHOSTS = { none: 0, close: 2, apart: 6, wide: 12 } as const;
export type GhostChoice = keyof typeof GHOSTS;

const KEPT = 'zippy-ghosts';
/** Ghosts before, and as many after. */
const EITHER_WAY = 2;

/** The path of what is selected over the shot, and how it stood and will stand, seen in the picture and drawn at there. */
@Injectable({ providedIn: 'root' })
export class MotionSeen {
  private readonly studio = inject(Studio);
  readonly ghosts = signal<GhostChoice>(keptChoice());
  private held: { grip: Grip; frame: number; gesture: string; document: ProjectDocument } | null = null;

  /**
   * What the path is of: the last thing selected, but for the camera that is looked through. Over parts it would lie in the way of
   * judging them, so theirs is seen where motion is made.
   */
  private readonly thing = computed((): Grip | null => {
    const primary = this.studio.primary();
    if (primary?.kind === 'node')
      return this.studio.desk() === 'motion' ? { collection: 'nodes', id: primary.id } : null;
    if (primary?.kind === 'light') return { collection: 'lights', id: primary.id };
    if (primary?.kind !== 'camera') return null;
    const seenThrough = this.studio.throughCamera() && this.studio.frameState().camera?.id === primary.id;
    return seenThrough ? null : { collection: 'cameras', id: primary.id };
  });
  private readonly path = computed(() => {
    const [thing, shot] = [this.thing(), this.studio.shot()];
    return thing && shot ? motionPath(this.studio.document(), shot, thing) : null;
  });
  readonly seen = computed((): SeenMotion => {
    const apart = GHOSTS[this.ghosts()];
    const ghostsAt = (sign: number) =>
      apart > 0 && !this.studio.playing()
        ? Array.from({ length: EITHER_WAY }, (_, k) =>
            this.ghostOn(this.studio.frame() + sign * (k + 1) * apart),
          ).flat()
        : [];
    return { path: this.path(), now: this.studio.frame(), before: ghostsAt(-1), after: ghostsAt(1) };
  });

  constructor() {
    effect(() => localStorage.setItem(KEPT, this.ghosts()));
  }

  /** A key of the path is taken hold of. */
  take(frame: number): void {
    const grip = this.thing();
    this.held = grip && { grip, frame, gesture: newGesture(), document: this.studio.document() };
  }

  /** Carries the key that is held by a distance in the world from where it was. */
  drag(by: Vector3): void {
    const { held } = this;
    const shotId = this.studio.shotId();
    const shot = shotId && held?.document.shots[shotId];
    const value = held && shot ? keyCarried(held.document, shot, held.grip, held.frame, by) : null;
    if (!held || !shotId || !value) return;
    const path = `${held.grip.collection}/${held.grip.id}/position`;
    const change = (key: Key) => {
      if (key.frame === held.frame) key.value = value;
    };
    this.studio.edit('Move a key', (draft) => draft.shots[shotId]!.tracks[path]?.forEach(change), held.gesture);
  }

  drop(): void {
    this.held = null;
  }

  /** What is selected as it is on another frame of the shot, where that is not as it is now. */
  private ghostOn(frame: number): Ghost[] {
    const [thing, shot, document] = [this.thing(), this.studio.shot(), this.studio.document()];
    if (!thing || !shot || frame < 1 || frame > shot.length) return [];
    if (thing.collection === 'nodes') {
      const shown = new Set(subtree(document, thing.id));
      const now = new Map(this.studio.frameState().parts.map((part) => [part.instance, part]));
      return evaluate(document, shot, frame)
        .parts.filter((part) => shown.has(part.node) && !sameTransform(part, now.get(part.instance)))
        .map((part) => ({ part }));
    }
    const there = placedAimed(evaluateProperties(document, shot, frame));
    const now = placedAimed(this.studio.present());
    const stands = (a: Light | Camera, b: Light | Camera | undefined) =>
      JSON.stringify([a.position, a.target]) === JSON.stringify([b?.position, b?.target]);
    if (thing.collection === 'lights') {
      const light = there.lights[thing.id];
      return light && !stands(light, now.lights[thing.id]) ? [{ light }] : [];
    }
    const camera = there.cameras[thing.id];
    return camera && !stands(camera, now.cameras[thing.id]) ? [{ camera }] : [];
  }
}

const sameTransform = (a: PartState, b: PartState | undefined): boolean =>
  b !== undefined && a.transform.every((v, k) => v === b.transform[k]);

function keptChoice(): GhostChoice {
  const kept = localStorage.getItem(KEPT);
  return kept !== null && kept in GHOSTS ? (kept as GhostChoice) : 'none';
}
