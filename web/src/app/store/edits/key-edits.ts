import { propertyKind, type Key, type Shot, type Value } from '@zippy/core/document';
import { simplifyKeys } from '@zippy/core/motion';
import type { KeyMark } from '../view/view.state';
import { byTrack, putKeys } from './strip-edits';

/** Gives marked keys other frames, and gives their new marks. Of two that meet the later one stays. */
export function retimeKeys(shot: Shot, marks: readonly KeyMark[], to: (frame: number) => number): KeyMark[] {
  const made: KeyMark[] = [];
  for (const [path, frames] of byTrack(marks)) {
    const track = shot.tracks[path] ?? [];
    const moved = new Map<number, Key>();
    for (const key of track) if (frames.has(key.frame)) moved.set(to(key.frame), { ...key, frame: to(key.frame) });
    putKeys(shot, path, track.filter((key) => !frames.has(key.frame)), [...moved.values()]); // prettier-ignore
    made.push(...[...moved.keys()].map((frame) => ({ path, frame })));
  }
  return made;
}

const spanOf = (marks: readonly KeyMark[]): [number, number] => [
  Math.min(...marks.map(({ frame }) => frame)),
  Math.max(...marks.map(({ frame }) => frame)),
];

/** Makes the time between marked keys longer or shorter, about a frame that stays. */
export const stretchKeys = (shot: Shot, marks: readonly KeyMark[], about: number, factor: number): KeyMark[] =>
  retimeKeys(shot, marks, (frame) => Math.round(about + (frame - about) * factor));

/** The last value comes first. Each pace stays on the way that it was of, the other way round. */
export function reverseKeys(shot: Shot, marks: readonly KeyMark[]): KeyMark[] {
  const [first, last] = spanOf(marks);
  for (const [path, frames] of byTrack(marks)) {
    const track = shot.tracks[path] ?? [];
    const own = track.filter(({ frame }) => frames.has(frame));
    const turned = own.map((key, k) => ({
      ...key,
      frame: first + last - key.frame,
      pace: k > 0 ? reversed(own[k - 1]!.pace) : key.pace,
    }));
    putKeys(shot, path, track.filter(({ frame }) => !frames.has(frame)), turned); // prettier-ignore
  }
  return marks.map(({ path, frame }) => ({ path, frame: first + last - frame }));
}

type Pace = Key['pace'];

/** The pace of a way that is gone backwards. */
function reversed(pace: Pace): Pace {
  if (typeof pace === 'string') {
    if (pace.endsWith('-in')) return pace.replace('-in', '-out') as Pace;
    return pace.endsWith('-out') ? (pace.replace('-out', '-in') as Pace) : pace;
  }
  if ('curve' in pace) {
    const [x1, y1, x2, y2] = pace.curve;
    return { curve: [1 - x2, 1 - y2, 1 - x1, 1 - y1] };
  }
  if ('overshoot' in pace && pace.overshoot.way !== 'both')
    return { overshoot: { ...pace.overshoot, way: pace.overshoot.way === 'after' ? 'before' : 'after' } };
  return pace;
}

/** Puts the values of marked keys behind their last one again, the other way round: there and back. */
export function mirrorKeys(shot: Shot, marks: readonly KeyMark[]): KeyMark[] {
  const [, last] = spanOf(marks);
  const made: KeyMark[] = [];
  for (const [path, frames] of byTrack(marks)) {
    const track = shot.tracks[path] ?? [];
    const own = track.filter(({ frame }) => frames.has(frame));
    const back = own
      .map((key, k) => ({ ...key, frame: 2 * last - key.frame, pace: k > 0 ? reversed(own[k - 1]!.pace) : key.pace }))
      .filter(({ frame }) => frame > last);
    // The way back begins at the last one itself.
    const end = own.at(-1);
    const led = track.map((key) =>
      key === end && own.length > 1 ? { ...key, pace: reversed(own.at(-2)!.pace) } : key,
    );
    putKeys(shot, path, led, back);
    made.push(...own.map(({ frame }) => ({ path, frame })), ...back.map(({ frame }) => ({ path, frame })));
  }
  return made;
}

/** Marked keys of each property as far apart as one says, or evenly over the time they take. */
export function spaceKeys(shot: Shot, marks: readonly KeyMark[], interval: number | null): KeyMark[] {
  const made: KeyMark[] = [];
  for (const [path, frames] of byTrack(marks)) {
    const order = [...frames].sort((a, b) => a - b);
    const [first, last] = [order[0]!, order.at(-1)!];
    const gap = interval ?? (order.length > 1 ? (last - first) / (order.length - 1) : 0);
    const to = new Map(order.map((frame, k) => [frame, Math.round(first + k * gap)]));
    made.push(...retimeKeys(shot, order.map((frame) => ({ path, frame })), (frame) => to.get(frame)!)); // prettier-ignore
  }
  return made;
}

/** Puts the first marked key of each property on one frame. */
export function alignKeys(shot: Shot, marks: readonly KeyMark[], frame: number): KeyMark[] {
  const made: KeyMark[] = [];
  for (const [path, frames] of byTrack(marks)) {
    const by = frame - Math.min(...frames);
    made.push(...retimeKeys(shot, [...frames].map((each) => ({ path, frame: each })), (each) => each + by)); // prettier-ignore
  }
  return made;
}

/** Takes away marked keys without which the values stay nearly the same, and gives the marks of those that stay. */
export function thinKeys(shot: Shot, marks: readonly KeyMark[]): KeyMark[] {
  const made: KeyMark[] = [];
  for (const [path, frames] of byTrack(marks)) {
    const track = shot.tracks[path] ?? [];
    const own = track.filter(({ frame }) => frames.has(frame));
    if (own.length === 0) continue;
    const fewer = simplifyKeys(own, propertyKind(path, own[0]!.value));
    putKeys(shot, path, track.filter(({ frame }) => !frames.has(frame)), fewer); // prettier-ignore
    made.push(...fewer.map(({ frame }) => ({ path, frame })));
  }
  return made;
}

/** Adds the same to the value of every marked key. @param axis of three numbers, or null where there is one */
export function raiseKeys(
  shot: Shot,
  marks: readonly KeyMark[],
  by: number,
  axis: number | null,
  bring: (path: string, value: Value) => Value,
): void {
  for (const { path, frame } of marks) {
    const key = shot.tracks[path]?.find((each) => each.frame === frame);
    if (!key) continue;
    if (typeof key.value === 'number' && axis === null) key.value = bring(path, key.value + by);
    else if (Array.isArray(key.value) && axis !== null)
      key.value = bring(path, key.value.map((v, k) => (k === axis ? v + by : v)) as [number, number, number]);
  }
}
