import type { Light, Vector3 } from '../document';
import { add, quaternionAbout, rotateVector, subtract } from '../geometry';
import type { Moment } from './state';

/**
 * The lamps that one light stands for at a moment: itself, or as many as run on its track, the first under its own id.
 * @param light as it stands in the world
 */
export function lampsOf(light: Light, moment: Moment): Light[] {
  const { track } = light;
  if (!track) return [light];
  return Array.from({ length: track.count }, (_, k) => ({
    ...light,
    id: k === 0 ? light.id : `${light.id}@${k}`,
    position: placeOnTrack(light, track, runs(track, moment) + k / track.count),
  }));
}

/** Id of the light that a lamp is one of. */
export const lightOf = (lamp: string): string => lamp.split('@')[0]!;

type Track = NonNullable<Light['track']>;
const ACROSS: Vector3 = [1, 0, 0];

const runs = ({ speed, pace }: Track, { seconds, share }: Moment): number =>
  speed * (pace === 'second' ? seconds : share);

/** A place on a track about what a light is aimed at. @param run whole numbers are where it begins */
function placeOnTrack({ target }: Light, track: Track, run: number): Vector3 {
  const { kind, radius, height, tilt, from, reach, length } = track;
  // To one end, to the other and back, in one run.
  const swung = track.eased ? Math.sin(2 * Math.PI * run) / 2 : triangle(run) / 2;
  const angle = from + (kind === 'ring' ? 2 * Math.PI * run : kind === 'arc' ? reach * swung : 0);
  const along = kind === 'rail' ? length * swung : 0;
  const [sine, cosine] = [Math.sin(angle), Math.cos(angle)];
  const flat: Vector3 = [radius * sine + along * cosine, height, radius * cosine - along * sine];
  // The whole track leans over to the front.
  return add(target, rotateVector(flat, quaternionAbout(ACROSS, tilt)));
}

/** A track on which the lamp that is at a place now is moved by so much: it becomes wider, higher, and begins elsewhere. */
export function trackCarried(light: Light, by: Vector3): Partial<Track> {
  const track = light.track!;
  const flat = (place: Vector3) => rotateVector(subtract(place, light.target), quaternionAbout(ACROSS, -track.tilt));
  const [before, after] = [flat(light.position), flat(add(light.position, by))];
  const [out, ahead] = [Math.sin(track.from), Math.cos(track.from)];
  if (track.kind === 'rail') return { height: after[1], radius: Math.max(0, after[0] * out + after[2] * ahead) };
  const round = Math.atan2(after[0], after[2]) - Math.atan2(before[0], before[2]);
  const from = track.from + round - 2 * Math.PI * Math.round(round / (2 * Math.PI));
  return { height: after[1], radius: Math.hypot(after[0], after[2]), from };
}

/** From 0 to 1, down to -1 and back to 0 in one run. */
function triangle(run: number): number {
  const part = run - Math.floor(run);
  return part < 0.25 ? 4 * part : part < 0.75 ? 2 - 4 * part : 4 * part - 4;
}
