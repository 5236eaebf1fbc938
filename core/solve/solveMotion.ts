import { add, cross, dot, length, scale, subtract, type Vector } from '../geometry';
import { UserProblem } from '../document';
import { bundle, type Track } from './bundle';
import { rayThrough, sightOf, type Pinhole, type Sight } from './pinhole';
import { refineCamera, type Known } from './refine';

/** A camera for every frame that could be solved, and how well each sees what was tracked. */
export interface SolvedMotion {
  cameras: (Pinhole | null)[];
  /** Root of the mean squared miss of each frame, in half widths; null of frames without a camera. */
  misses: (number | null)[];
  /** Of all that is seen on all frames. */
  miss: number;
  /** Where what was tracked stands; null where too little was seen of it. */
  places: (Vector | null)[];
}

/** Rays that meet under less than this, in radians, do not tell where. */
const LEAST_PARALLAX = 0.02;
/** Points of known place that tell a camera. */
const LEAST_KNOWN = 4;

/**
 * Cameras of a moving clip from what was tracked in it: from the frame whose camera is known, frame after frame in both directions,
 * with new points found where rays meet; then all at once.
 * @param tracks places that are known, such as corners of the marked rectangle, are the ruler of it all
 * @param start frame whose camera is known
 * @throws UserProblem `tracks-few`
 */
export function solveMotion(
  tracks: readonly Pick<Track, 'place' | 'sights'>[],
  start: { frame: number; camera: Pinhole },
  lens = true,
): SolvedMotion {
  const frames = Math.max(...tracks.map(({ sights }) => sights.length));
  const places = tracks.map(({ place }) => place);
  const cameras = new Array<Pinhole | null>(frames).fill(null);
  const knownOn = (frame: number): Known[] =>
    tracks.flatMap(({ sights }, k) => {
      const [seen, place] = [sights[frame], places[k]];
      return seen && place ? [{ place, seen }] : [];
    });
  if (knownOn(start.frame).length < LEAST_KNOWN)
    throw new UserProblem(
      'tracks-few',
      'The marked rectangle is not seen whole on the frame it was marked on. Mark it on another frame.',
    );
  cameras[start.frame] = start.camera;
  const pass = (): number => {
    let found = 0;
    for (const way of [1, -1]) {
      for (let frame = start.frame + way; frame >= 0 && frame < frames; frame += way) {
        const [before, known] = [cameras[frame] ?? cameras[frame - way], knownOn(frame)];
        if (!before || known.length < LEAST_KNOWN) continue;
        if (!cameras[frame]) found++;
        cameras[frame] = refineCamera(before, known, false);
      }
    }
    tracks.forEach(({ sights }, k) => {
      if (places[k]) return;
      places[k] = meetingOf(cameras, sights);
      if (places[k]) found++;
    });
    return found;
  };
  // Points that were found tell cameras of frames that see too few corners, and these find more points.
  while (pass() > 0) continue;
  const all = tracks.map((track, k) => ({ ...track, place: places[k]!, marked: track.place }));
  let solved = bundle(cameras, all, lens);
  // What moves by itself, or was mixed up with something else, would pull all cameras along.
  const still = all.map((track, k) => (track.marked || trackMiss(solved, track.sights, k) <= MOST_MISS ? track : { ...track, place: null })); // prettier-ignore
  if (still.some(({ place }, k) => place !== all[k]!.place)) solved = bundle(cameras, still, lens);
  let [sum, count] = [0, 0];
  const misses = solved.cameras.map((camera, frame) => {
    if (!camera) return null;
    let [own, many] = [0, 0];
    tracks.forEach(({ sights }, k) => {
      const [seen, place] = [sights[frame], solved.places[k]];
      const at = seen && place ? sightOf(camera, place) : null;
      if (!at) return;
      own += (at[0] - seen![0]) ** 2 + (at[1] - seen![1]) ** 2;
      many++;
    });
    sum += own;
    count += many;
    return Math.sqrt(own / Math.max(1, many));
  });
  return { ...solved, misses, miss: Math.sqrt(sum / Math.max(1, count)) };
}

/** Half widths by which what stands still may be missed, as a root of mean squares: two pixels of a picture of 1280. */
const MOST_MISS = 2 / 640;

/** How far a track is from where cameras see its place; 0 where that is not known. */
function trackMiss(
  { cameras, places }: { cameras: (Pinhole | null)[]; places: (Vector | null)[] },
  sights: readonly (Sight | null)[],
  track: number,
): number {
  const place = places[track];
  const known = sights.flatMap((seen, frame) => {
    const at = seen && place && cameras[frame] ? sightOf(cameras[frame], place) : null;
    return at ? [(at[0] - seen![0]) ** 2 + (at[1] - seen![1]) ** 2] : [];
  });
  return known.length === 0 ? 0 : Math.sqrt(known.reduce((sum, v) => sum + v, 0) / known.length);
}

/** Where the rays of cameras that see something meet best; null where they run too much alike. */
function meetingOf(cameras: readonly (Pinhole | null)[], sights: readonly (Sight | null)[]): Vector | null {
  const rays = sights.flatMap((at, frame) => {
    const camera = cameras[frame];
    return at && camera ? [{ from: camera.position, along: rayThrough(camera, at) }] : [];
  });
  if (rays.length < 2) return null;
  const [first] = rays;
  let widest = first!;
  for (const ray of rays) if (dot(ray.along, first!.along) < dot(widest.along, first!.along)) widest = ray;
  const across = cross(first!.along, widest.along);
  const apart = length(across);
  if (apart < LEAST_PARALLAX) return null;
  // The point of the first ray that is nearest to the other one.
  const to = subtract(widest.from, first!.from);
  const along = dot(cross(to, widest.along), across) / (apart * apart);
  return along > 0 ? add(first!.from, scale(first!.along, along)) : null;
}
