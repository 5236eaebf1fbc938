import { pictureFiles, type Light, type Look, type ProjectDocument } from '@zippy/core/document';
import { evaluate, type FrameState } from '@zippy/core/motion';
import type { Wish } from '../small-pictures/small-pictures';

/** Pixels across. */
export const LIGHT_PICTURE_WIDTH = 120;

let last: { parts: readonly unknown[]; stamp: string } | null = null;
let stamps = 0;

/** Tells a scene from others by the very objects it is made of: writing out a large one at every edit would hold up the page. */
export function sceneStamp(parts: readonly unknown[]): string {
  const same = last?.parts.length === parts.length && parts.every((part, k) => part === last!.parts[k]);
  if (!last || !same) last = { parts, stamp: String(++stamps) };
  return last.stamp;
}

/** A frame of a shot under one light alone, switched on: nothing else shines, and nothing stands around. */
function stateUnder(document: ProjectDocument, light: Light, shotId: string | null, frame: number): FrameState {
  const lit = { ...light, on: true, solo: false };
  const shot = shotId === null ? null : (document.shots[shotId] ?? null);
  const state = evaluate({ ...document, lights: { [light.id]: lit } }, shot, frame);
  const { surroundings } = state.set;
  return {
    ...state,
    finishes: Object.fromEntries(
      Object.entries(state.finishes).map(([id, each]) => [id, { ...each, emissionPower: 0 }]),
    ),
    set: { ...state.set, surroundings: { ...surroundings, kind: 'color', picture: null, brightness: 0 } },
  };
}

/** Pictures of what each light does, by its id. @param scene what they show beside the light; see `sceneStamp` */
export function lightWishes(
  document: ProjectDocument,
  scene: string,
  look: Look,
  height: number,
  shot: string | null,
  frame: number,
): Map<string, Wish> {
  return new Map(
    Object.values(document.lights).map((light) => {
      const shining = { ...light, name: '', order: 0, group: '', solo: false };
      const draw = () => ({
        state: stateUnder(document, light, shot, frame),
        look,
        width: LIGHT_PICTURE_WIDTH,
        height,
        samples: 8,
        depth: 4,
        pictures: pictureFiles(document.assets),
      });
      return [light.id, { shows: JSON.stringify([shining, scene]), draw }];
    }),
  );
}
