import type { Look } from '../document';
import { addBloom } from './bloom';
import type { LinearFrame } from './frame';
import { luminance } from './luminance';
import { NoiseFilter } from './noiseFilter';
import { steadyFrame, type Neighbours } from './steady';
import { toneCurve } from './tone';

const TABLE = 4096;
/** Exposed light that the table reaches; beyond it every curve is full white. */
const REACH = 16;

const ALONE: Neighbours = { before: null, after: null };

/** Where kept frames become pictures. */
export class Darkroom {
  private constructor(private readonly noiseFilter: NoiseFilter) {}

  /** @param module the compiled kernel, in its form for memory that is shared or not */
  static async open(module: WebAssembly.Module, shared = true): Promise<Darkroom> {
    return new Darkroom(await NoiseFilter.open(module, { shared }));
  }

  /**
   * Develops a linear frame: specks, neighbouring frames, denoise, bloom, exposure, tone, display transfer, dither.
   * @param neighbours frames of the same take beside it, so that a film does not crawl; see steady.ts
   * @returns 8-bit RGBA, alpha straight (not premultiplied), top row first
   */
  develop(frame: LinearFrame, look: Look, neighbours: Neighbours = ALONE): Uint8Array<ArrayBuffer> {
    const gain = 2 ** look.exposure;
    const evened = (each: LinearFrame) =>
      look.specks > 0 && each.specks ? { ...each, beauty: weighSpecks(each, look.specks) } : each;
    const { before, after } = neighbours;
    const beside = { before: before && evened(before), after: after && evened(after) };
    const steady = steadyFrame(evened(frame), beside, look.denoise);
    const clean =
      look.denoise > 0 && steady.guides
        ? { ...steady, beauty: this.noiseFilter.filter(steady, steady.guides, look.denoise) }
        : steady;
    const light = look.bloomAmount > 0 ? addBloom(clean, look, gain) : clean.beauty;
    return display(light, gain, transferTable(look));
  }
}

/**
 * The frame's light with what few samples carry weighed down; alpha stays. Two neighbours as bright bear a pixel out: a thin
 * highlight is met by few samples too, but all along it.
 */
function weighSpecks({ width, height, beauty, specks }: LinearFrame, amount: number): Float32Array {
  const out = beauty.slice();
  const brightness = (x: number, y: number): number => {
    if (x < 0 || y < 0 || x >= width || y >= height) return 0;
    const at = (y * width + x) * 4;
    return luminance(beauty[at]!, beauty[at + 1]!, beauty[at + 2]!);
  };
  for (let k = 0; k < specks!.length; k++) {
    if (specks![k]! >= 1) continue;
    const [x, y] = [k % width, Math.floor(k / width)];
    const own = brightness(x, y);
    let [first, second] = [0, 0];
    for (const [i, j] of AROUND) {
      const other = brightness(x + i, y + j);
      if (other > first) [first, second] = [other, first];
      else if (other > second) second = other;
    }
    const borne = own > 0 ? Math.min(1, second / own) : 1;
    const share = 1 + amount * (Math.max(specks![k]!, borne) - 1);
    for (let c = k * 4; c < k * 4 + 3; c++) out[c]! *= share;
  }
  return out;
}

const AROUND = [[-1, -1], [0, -1], [1, -1], [-1, 0], [1, 0], [-1, 1], [0, 1], [1, 1]] as const; // prettier-ignore

/** Exposed light through the table to display values, with dither. */
function display(light: Float32Array, gain: number, table: Float32Array): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(light.length);
  for (let at = 0; at < light.length; at += 4) {
    const alpha = Math.min(1, Math.max(0, light[at + 3]!));
    const scale = alpha > 0 ? gain / alpha : gain;
    // A frame's dither is always the same, so that a held frame stands still in the film.
    const dither = noise(at >> 2) - 0.5;
    for (let k = at; k < at + 3; k++) {
      const exposed = Math.min(REACH, Math.max(0, light[k]! * scale));
      const x = Math.sqrt(exposed / REACH) * (TABLE - 1);
      const low = Math.floor(x);
      const value = table[low]! + (table[Math.min(TABLE - 1, low + 1)]! - table[low]!) * (x - low);
      out[k] = Math.min(255, Math.max(0, Math.round(value * 255 + dither)));
    }
    out[at + 3] = Math.round(alpha * 255);
  }
  return out;
}

function transferTable(look: Look): Float32Array {
  return Float32Array.from({ length: TABLE }, (_, k) => {
    const display = toneCurve(look.tone, (k / (TABLE - 1)) ** 2 * REACH);
    return display <= 0.0031308 ? 12.92 * display : 1.055 * display ** (1 / 2.4) - 0.055;
  });
}

/** A fixed number in [0, 1) for every pixel. */
function noise(index: number): number {
  let x = Math.imul(index ^ (index >>> 16), 0x21f0aaad);
  x = Math.imul(x ^ (x >>> 15), 0x735a2d97);
  return ((x ^ (x >>> 15)) >>> 8) / 16777216;
}
