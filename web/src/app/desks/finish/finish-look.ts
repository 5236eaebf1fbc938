import type { Finish, PictureFile } from '@zippy/core/document';
import { SAMPLE_ASPECT, sampleLook, sampleScene, type SampleGround } from '@zippy/core/shelf';
import type { Wish } from '../small-pictures/small-pictures';

/** What tells how a finish looks on the sample body: all but what it is called. */
export const lookOf = (finish: Finish, ground: SampleGround = 'bright'): string => {
  const looks = Object.entries(finish).filter(([property]) => property !== 'id' && property !== 'name');
  return `${ground}/${JSON.stringify(looks)}`;
};

/** The sample body in a finish, as a small picture; each look has one place. */
export function finishWish(
  finish: Finish,
  ground: SampleGround,
  width: number,
  pictures: Readonly<Record<string, PictureFile>>,
): Wish {
  const height = Math.round(width / SAMPLE_ASPECT);
  const draw = () => ({ state: sampleScene(finish, ground), look: sampleLook(), width, height, samples: 16, depth: 10, pictures }); // prettier-ignore
  return { shows: String(width), draw };
}
