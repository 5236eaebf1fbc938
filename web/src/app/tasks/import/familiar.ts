import { sayNumber } from '@zippy/core/document';

/** Things whose size everyone knows, by their longest side in millimetres. */
const FAMILIAR: readonly { name: string; size: number }[] = [
  { name: 'a grain of rice', size: 7 },
  { name: 'a coin', size: 23 },
  { name: 'a matchbox', size: 53 },
  { name: 'a coffee mug', size: 95 },
  { name: 'a pencil', size: 175 },
  { name: 'a sheet of paper', size: 297 },
  { name: 'a school bag', size: 450 },
  { name: 'a kitchen chair', size: 880 },
  { name: 'a door', size: 2000 },
  { name: 'a car', size: 4300 },
];

export interface Comparison {
  name: string;
  /** Millimetres. */
  size: number;
  sentence: string;
}

/**
 * The familiar thing that comes nearest to a length, and how the two compare.
 * @param size longest side of the product in millimetres
 */
export function compareFamiliar(size: number): Comparison {
  const off = (other: number) => Math.abs(Math.log(Math.max(size, 1e-9) / other));
  const nearest = FAMILIAR.reduce((best, each) => (off(each.size) < off(best.size) ? each : best));
  const times = size / nearest.size;
  const short = (v: number) => sayNumber(Number(v.toPrecision(2)));
  const sentence =
    times > 1.35
      ? `${short(times)} times as long as ${nearest.name}`
      : times < 0.74
        ? `${short(times * 100)} % of ${nearest.name}`
        : `about as long as ${nearest.name}`;
  return { ...nearest, sentence };
}
