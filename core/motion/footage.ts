import {
  footageKey,
  newPictureMap,
  type Finish,
  type FinishMap,
  type Footage,
  type ProjectDocument,
} from '../document';

type FootageSource = Extract<FinishMap['source'], { kind: 'footage' }>;

/**
 * Number of the frame that footage shows on a frame of a shot, from 0; null where it is not seen. It keeps its own time, whatever the
 * frame rate of the film, and stands still while the shutter is open.
 * @param filmRate frames of the film a second
 */
export function footageFrame(
  { start, from, speed, after }: FootageSource,
  { frames: { length }, rate }: Footage,
  frame: number,
  filmRate: number,
): number | null {
  const passed = Math.floor(frame + 1e-6) - start;
  if (passed < 0 && after === 'gone') return null;
  // A frame that begins just then is meant, and not the one before it.
  const k = Math.floor((from + (Math.max(0, passed) / filmRate) * speed) * rate + 1e-4);
  const round = (n: number) => ((k % n) + n) % n;
  switch (after) {
    case 'again':
      return round(length);
    case 'toAndFro': {
      const at = round(Math.max(1, 2 * length - 2));
      return at < length ? at : 2 * length - 2 - at;
    }
    case 'hold':
      return Math.min(length - 1, Math.max(0, k));
    case 'gone':
      return k < 0 || k >= length ? null : k;
  }
}

/** Finishes whose footage stands at one picture, by their pictures: frames that show the same share them. */
const made = new WeakMap<Finish, Map<string, Finish>>();
/** Of one finish. */
const KEPT = 600;

/** Footage that a source plays; labels tell no more than which picture they are. */
const playedBy = (source: FinishMap['source'], assets: ProjectDocument['assets']): FootageSource | null => {
  if (source.kind === 'footage') return source;
  const asset = source.kind === 'picture' ? assets[source.picture] : undefined;
  return asset?.footage ? (newPictureMap('baseColor', asset).source as FootageSource) : null;
};

/** A finish on one frame of a shot: what of it is footage is a picture. Gives the finish itself where nothing of it is. */
export function playFootage(
  finish: Finish,
  { assets, frameRate }: Pick<ProjectDocument, 'assets' | 'frameRate'>,
  frame: number,
): Finish {
  const moving = Object.entries(finish.maps).flatMap(([id, map]) => {
    const source = playedBy(map.source, assets);
    return source ? [{ id, map, source }] : [];
  });
  if (moving.length === 0) return finish;
  const filmRate = frameRate.numerator / frameRate.denominator;
  const shown = moving.map(({ source }) => {
    const footage = assets[source.footage]?.footage;
    return footage ? footageFrame(source, footage, frame, filmRate) : null;
  });
  const key = shown.join();
  const known = made.get(finish) ?? new Map<string, Finish>();
  made.set(finish, known);
  const same = known.get(key);
  if (same) return same;
  const maps = { ...finish.maps };
  moving.forEach(({ id, map, source }, k) => {
    const at = shown[k]!;
    if (at === null) delete maps[id];
    else maps[id] = { ...map, source: { kind: 'picture', picture: footageKey(source.footage, at) } };
  });
  if (known.size >= KEPT) known.clear();
  const played = { ...finish, maps };
  known.set(key, played);
  return played;
}
