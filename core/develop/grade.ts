import type { Look } from '../document';
import { encodeSrgb, lightColor } from '../optics';
import { curveThrough, isStraight } from './curve';
import { lookUpColor, type LookupTable } from './lookupTable';
import { TONES } from './tones';

const TABLE = 4096;
/** Exposed light that the table reaches; beyond it every curve is full white. */
const REACH = 16;
/** The colour temperature at which light stays as it is. */
const NEUTRAL_KELVIN = 6500;

/** What white balance multiplies red, green and blue by: light of its colour becomes white of the same luminance. */
export function balanceGains({ balanceKelvin, balanceTint }: Pick<Look, 'balanceKelvin' | 'balanceTint'>): number[] {
  const neutral = lightColor(NEUTRAL_KELVIN, [1, 1, 1]);
  const meant = lightColor(balanceKelvin, [1, 1, 1]);
  const tint = [2 ** (balanceTint / 4), 2 ** (-balanceTint / 2), 2 ** (balanceTint / 4)];
  return neutral.map((v, k) => (v / meant[k]!) * tint[k]!);
}

/**
 * Linear light to display values: exposure, white balance, tone curve, contrast, saturation, curves, look-up table. All that acts on
 * one channel alone is done by tables.
 * @param light four values a pixel, alpha premultiplied
 * @returns coded display values, 0 to 1 and a little beyond, alpha straight
 */
export function grade(light: Float32Array, look: Look, lookup: LookupTable | null): Float32Array {
  const gain = 2 ** look.exposure;
  const gains = balanceGains(look).map((v) => v * gain);
  const { contrast, contrastPivot, saturation } = look;
  const { each, together } = TONES[look.tone];
  const contrasted = (value: number) =>
    contrast === 1 ? value : contrastPivot * (Math.max(0, value) / contrastPivot) ** contrast;
  const toned = (exposed: number) => contrasted(each ? each(exposed) : exposed);
  const curves = curvesOf(look);
  const coded = (value: number, k: number) => curves[k]!(encodeSrgb(Math.min(1, Math.max(0, value))));
  const mixes = saturation !== 1 || together !== undefined;
  // Where channels mix between both, light goes through two tables; else through one of both.
  const first = table((t, k) => (mixes ? toned(t * t * REACH) : coded(toned(t * t * REACH), k)));
  const second = mixes ? table((t, k) => coded(t * t, k)) : null;
  const amount = lookup ? look.lookupAmount : 0;
  const out = new Float32Array(light.length);
  const color = new Float64Array(3);
  for (let at = 0; at < light.length; at += 4) {
    const alpha = Math.min(1, Math.max(0, light[at + 3]!));
    const scale = alpha > 0 ? 1 / (alpha * REACH) : 1 / REACH;
    if (together) {
      for (let k = 0; k < 3; k++) color[k] = light[at + k]! * scale * REACH * gains[k]!;
      together(color);
      if (contrast !== 1) for (let k = 0; k < 3; k++) color[k] = contrasted(color[k]!);
    } else {
      for (let k = 0; k < 3; k++) color[k] = read(first[k]!, light[at + k]! * scale * gains[k]!);
    }
    if (second) {
      const luminance = 0.2126 * color[0]! + 0.7152 * color[1]! + 0.0722 * color[2]!;
      for (let k = 0; k < 3; k++) color[k] = read(second[k]!, luminance + (color[k]! - luminance) * saturation);
    }
    if (amount > 0) {
      const [r, g, b] = color as unknown as [number, number, number];
      lookUpColor(lookup!, color);
      color[0] = r + (color[0]! - r) * amount;
      color[1] = g + (color[1]! - g) * amount;
      color[2] = b + (color[2]! - b) * amount;
    }
    out[at] = color[0]!;
    out[at + 1] = color[1]!;
    out[at + 2] = color[2]!;
    out[at + 3] = alpha;
  }
  return out;
}

/** What curves do to coded values of each channel: its own first, then that of all. */
function curvesOf({ curves }: Look): ((value: number) => number)[] {
  const all = isStraight(curves.all) ? null : curveThrough(curves.all);
  return [curves.red, curves.green, curves.blue].map((points) => {
    const own = isStraight(points) ? null : curveThrough(points);
    return (value) => {
      const mine = own ? own(value) : value;
      return all ? all(mine) : mine;
    };
  });
}

/** A function of the root of a value, for each channel, so that dark values have more entries. */
function table(of: (t: number, channel: number) => number): Float32Array[] {
  return [0, 1, 2].map((k) => Float32Array.from({ length: TABLE }, (_, at) => of(at / (TABLE - 1), k)));
}

/** @param value 0 to 1 for the whole table */
function read(values: Float32Array, value: number): number {
  const x = Math.sqrt(Math.min(1, Math.max(0, value))) * (TABLE - 1);
  const low = Math.floor(x);
  return values[low]! + (values[Math.min(TABLE - 1, low + 1)]! - values[low]!) * (x - low);
}
