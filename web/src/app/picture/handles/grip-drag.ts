import type { Vector3 } from '@zippy/core/document';
import { quaternionAbout, rotateVector, type Quaternion } from '@zippy/core/geometry';
import { readNumber } from '../../ui/arithmetic';
import { MILLIMETRES, type LengthUnit } from '../../ui/project-units';

/** What handles do to what they hold. */
export type GripMode = 'move' | 'turn' | 'size';

/** How far handles have been dragged since they were taken hold of. */
export interface GripDrag {
  /** In the world. */
  by: Vector3;
  turn: Quaternion;
  /** Factors along the handles' own axes. */
  size: Vector3;
  /** Letters of the axes that the pointer holds: X, XY, XYZ; others where it turns freely. */
  axis: string;
  /** Turn of the handles' axes. */
  axes: Quaternion;
  /** Millimetres of one step where it goes by steps, else null. */
  step: number | null;
}

/** What a drag comes to, and that in words. */
export interface Reckoned extends Pick<GripDrag, 'by' | 'turn' | 'size'> {
  said: string;
}

const LETTERS = ['X', 'Y', 'Z'];
/** Radians and factor of one step. */
const TURN_STEP = Math.PI / 12;
const SIZE_STEP = 0.1;
const DEGREE = Math.PI / 180;

/**
 * A drag, by steps where these are asked for, or by the numbers that were typed meanwhile.
 * @param typed one number for each axis that is held, after spaces; of sizes factors, of turns degrees
 */
export function reckonDrag(drag: GripDrag, mode: GripMode, typed: string, unit: LengthUnit): Reckoned {
  const held = [0, 1, 2].filter((k) => drag.axis.includes(LETTERS[k]!));
  const numbers = typedNumbers(typed, mode, unit);
  if (mode === 'move') return moved(drag, held, numbers, unit);
  return mode === 'turn' ? turnedBy(drag, held, numbers) : sizedBy(drag, held, numbers);
}

/** What has been typed as numbers; null where it is none yet. */
function typedNumbers(typed: string, mode: GripMode, unit: LengthUnit): number[] | null {
  if (typed.trim() === '') return null;
  const read = typed.trim().split(/\s+/).map((each) => readNumber(each, { move: unit, turn: '°', size: '×' }[mode])); // prettier-ignore
  return read.every((each) => each !== null) ? (read as number[]) : null;
}

function moved(drag: GripDrag, held: number[], numbers: number[] | null, unit: LengthUnit): Reckoned {
  const along = rotateVector(drag.by, inverse(drag.axes));
  const own = along.map((v, k) => {
    if (numbers) return (held.includes(k) ? (numbers[held.indexOf(k)] ?? 0) : 0) * MILLIMETRES[unit];
    return drag.step ? Math.round(v / drag.step) * drag.step : v;
  }) as Vector3;
  const shown = held.map((k) => plain(own[k]! / MILLIMETRES[unit])).join(', ');
  return { ...unmoved, by: rotateVector(own, drag.axes), said: `${shown} ${unit}${named(held, 'along')}` };
}

function turnedBy(drag: GripDrag, held: number[], numbers: number[] | null): Reckoned {
  const way = drag.turn[3] < 0 ? -1 : 1;
  const [x, y, z, w] = drag.turn.map((v) => v * way) as [number, number, number, number];
  const sine = Math.hypot(x, y, z);
  const [one] = held.length === 1 ? held : [];
  const own: Vector3 = [0, 0, 0];
  if (one !== undefined) own[one] = 1;
  const about = one === undefined ? ([x, y, z].map((v) => v / (sine || 1)) as Vector3) : rotateVector(own, drag.axes);
  const sign = x * about[0] + y * about[1] + z * about[2] < 0 ? -1 : 1;
  const dragged = sign * 2 * Math.atan2(sine, w);
  const angle = numbers ? numbers[0]! * DEGREE : drag.step ? Math.round(dragged / TURN_STEP) * TURN_STEP : dragged;
  return { ...unmoved, turn: quaternionAbout(about, angle), said: `${plain(angle / DEGREE)}°${named(one === undefined ? [] : [one], 'about')}` }; // prettier-ignore
}

function sizedBy(drag: GripDrag, held: number[], numbers: number[] | null): Reckoned {
  const size = drag.size.map((v, k) => {
    if (numbers) return held.includes(k) ? (numbers[held.indexOf(k)] ?? numbers[0]!) : 1;
    return drag.step ? Math.max(SIZE_STEP, Math.round(v / SIZE_STEP) * SIZE_STEP) : v;
  });
  // A size of nothing, or inside out, is none.
  const sound = size.map((v) => Math.max(MOST_SHRUNK, Math.abs(v))) as Vector3;
  const same = held.every((k) => sound[k] === sound[held[0]!]);
  const shown = (same ? held.slice(0, 1) : held).map((k) => plain(sound[k]!)).join(', ');
  return { ...unmoved, size: sound, said: `× ${shown}${held.length === 3 && same ? '' : named(held, 'along')}` };
}

const MOST_SHRUNK = 1e-4;
const unmoved: Pick<GripDrag, 'by' | 'turn' | 'size'> = { by: [0, 0, 0], turn: [0, 0, 0, 1], size: [1, 1, 1] };
const named = (held: number[], word: string): string => held.length > 0 ? ` ${word} ${held.map((k) => LETTERS[k]).join(', ')}` : ''; // prettier-ignore
const inverse = ([x, y, z, w]: Quaternion): Quaternion => [-x, -y, -z, w];
const plain = (value: number): string => String(Number(value.toPrecision(5)) + 0);
