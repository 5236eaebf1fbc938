import { shotsInOrder, type Camera, type ProjectDocument, type Shot } from '../document';
import { evaluateProperties, motionPath } from '../motion';
import { gripPlace } from '../scene';
import type { Check } from './check';

interface Found {
  camera: Camera | undefined;
  /** What it hangs on; null where it hangs on nothing. */
  nodes: ProjectDocument['nodes'] | null;
  frame: number | null;
}

/** What was found in a shot, while it, its camera and what that hangs on stay as they are: this is asked for at every edit. */
const known = new WeakMap<Shot, Found>();

/** Shots whose camera goes below the floor, which it then sees from underneath; the first frame on which it does. */
export const underFloor: Check<{ shot: string; frame: number }> = (document) =>
  document.set.floor.kind === 'none'
    ? []
    : shotsInOrder(document).flatMap((shot) => {
        const frame = firstBelow(document, shot);
        return frame === null ? [] : [{ shot: shot.id, frame }];
      });

function firstBelow(document: ProjectDocument, shot: Shot): number | null {
  const camera = document.cameras[shot.camera ?? ''];
  const nodes = camera && camera.parent !== null ? document.nodes : null;
  const before = known.get(shot);
  if (before && before.camera === camera && before.nodes === nodes) return before.frame;
  const frame = search(document, shot);
  known.set(shot, { camera, nodes, frame });
  return frame;
}

function search(document: ProjectDocument, shot: Shot): number | null {
  if (!shot.camera || !document.cameras[shot.camera]) return null;
  const grip = { collection: 'cameras', id: shot.camera } as const;
  const path = motionPath(document, shot, grip);
  if (!path) return (gripPlace(evaluateProperties(document, shot, 1), grip)?.[1] ?? 0) < 0 ? 1 : null;
  const at = path.places.findIndex(([, y]) => y < 0);
  return at < 0 ? null : path.frames[at]!;
}
