import { footageKey, type ProjectDocument, type StudioSet } from '../document';
import { rateOf } from './conformFrameRate';
import { footageFrame } from './footage';

/**
 * The set on one frame of a shot: where what fills the frame behind the product was filmed, it is one picture of that. It stands still
 * while the shutter is open. Gives the set itself where nothing of it is footage.
 */
export function playPlate(
  set: StudioSet,
  { assets, frameRate }: Pick<ProjectDocument, 'assets' | 'frameRate'>,
  frame: number,
): StudioSet {
  const { kind, plate, plateStart: start, plateFrom: from, plateSpeed: speed, plateAfter: after } = set.behind;
  const footage = kind === 'plate' && plate !== null ? assets[plate]?.footage : null;
  if (!footage) return set;
  const timing = { kind: 'footage' as const, footage: plate!, start, from, speed, after };
  const k = footageFrame(timing, footage, frame, rateOf(frameRate));
  return { ...set, behind: { ...set.behind, plate: k === null ? null : footageKey(plate!, k) } };
}
