import type { Look } from '../document';
import { addBloom } from './bloom';
import type { LinearFrame } from './frame';
import { grade } from './grade';
import { keepLight } from './keepLight';
import { throughLens } from './lens';
import type { LookupTable } from './lookupTable';
import { luminance } from './luminance';
import { NoiseFilter } from './noiseFilter';
import { forDisplay, type Display } from './primaries';
import { finishPrint } from './print';
import { toBytes } from './quantise';
import { steadyFrame, type Neighbours } from './steady';

/** What developing a frame needs besides it. */
export interface Besides {
  /** Frames of the same take beside it, so that a film does not crawl; see steady.ts. */
  neighbours?: Neighbours;
  /** The look's look-up table; without it, the look does without. */
  lookup?: LookupTable | null;
  /** What shows it; BT.709 where nothing is said. */
  display?: Display;
  /** Number of the frame: grain is another one on each. */
  frame?: number;
}

const ALONE: Neighbours = { before: null, after: null };

/** Where kept frames become pictures. */
export class Darkroom {
  private constructor(private readonly noiseFilter: NoiseFilter) {}

  /** @param module the compiled kernel, in its form for memory that is shared or not */
  static async open(module: WebAssembly.Module, shared = true): Promise<Darkroom> {
    return new Darkroom(await NoiseFilter.open(module, { shared }));
  }

  /**
   * Develops a linear frame: specks, neighbouring frames, denoise; bloom, zoom blur, fringing; exposure, white balance, tone curve;
   * contrast, saturation, curves, look-up table; vignette, sharpen, grain; dither.
   * @returns 8-bit RGBA, alpha straight (not premultiplied), top row first
   */
  develop(frame: LinearFrame, look: Look, besides: Besides = {}): Uint8Array<ArrayBuffer> {
    return toBytes(this.print(frame, look, besides));
  }

  /** The same as coded display values before they are rounded: 0 to 1 and a little beyond. */
  print(frame: LinearFrame, look: Look, besides: Besides = {}): Float32Array {
    const clean = this.clean(frame, look, besides.neighbours);
    const { width, height } = frame;
    const bloomed = look.bloomAmount > 0 ? addBloom(clean, look, 2 ** look.exposure) : clean.beauty;
    const light = throughLens({ width, height, pixels: bloomed }, look);
    const shown = forDisplay(light, besides.display ?? 'bt709');
    const print = { width, height, pixels: grade(shown, look, besides.lookup ?? null) };
    finishPrint(print, look, besides.frame ?? 0);
    return print.pixels;
  }

  /**
   * The frame's linear light without specks and noise, as much as the look asks for. Over areas of some thirty pixels each part keeps its
   * light: see `keepLight`.
   */
  clean(frame: LinearFrame, look: Pick<Look, 'specks' | 'denoise'>, neighbours = ALONE): LinearFrame {
    if (look.specks <= 0 && look.denoise <= 0) return frame;
    const evened = (each: LinearFrame) =>
      look.specks > 0 && each.specks ? { ...each, beauty: weighSpecks(each, look.specks) } : each;
    const { before, after } = neighbours;
    const beside = { before: before && evened(before), after: after && evened(after) };
    const steady = steadyFrame(evened(frame), beside, look.denoise);
    const smooth =
      look.denoise > 0 && steady.guides ? this.noiseFilter.filter(steady, steady.guides, look.denoise) : steady.beauty;
    if (frame.learned && look.denoise > 0) blendLearned(smooth, frame, neighbours, look.denoise);
    const beauty = keepLight(frame.beauty, smooth, frame.width, frame.parts);
    if (look.denoise > 0 && steady.guides && isShaded(steady)) this.smoothAlpha(beauty, steady, look.denoise);
    return { ...steady, beauty };
  }

  /** Shadows on what is open are as noisy as light is. */
  private smoothAlpha(beauty: Float32Array, frame: LinearFrame, amount: number): void {
    const { normal, depth, spread } = frame.guides!;
    const alpha = frame.beauty.map((_, k) => frame.beauty[k | 3]!);
    const even = new Float32Array(depth.length).fill(1);
    const guides = { normal, depth, albedo: [even, even, even], ...(spread ? { spread } : {}) };
    const smooth = this.noiseFilter.filter({ ...frame, beauty: alpha }, guides, amount);
    for (let k = 3; k < beauty.length; k += 4) beauty[k] = Math.min(1, Math.max(0, smooth[k - 1]!));
  }
}

/** Share of the learned filter in what both make: between a half and three quarters, which came out best; see the decision. */
const LEARNED = 0.6;
/** What the learned filter is taken to leave of the noise. */
const LEFT = 0.3;

/** Blends what the learned filter makes of a frame into the light that the other filter has smoothed, by half of each and some more. */
function blendLearned(smooth: Float32Array, frame: LinearFrame, { before, after }: Neighbours, amount: number): void {
  // By itself it makes something else of each frame: laid over its neighbours it stands still.
  const open = (each: LinearFrame | null) => each && asFrame(each);
  const { beauty } = steadyFrame(asFrame(frame)!, { before: open(before), after: open(after) }, amount);
  const share = LEARNED * amount;
  for (let k = 0; k < smooth.length; k++) if (k % 4 !== 3) smooth[k]! += share * (beauty[k]! - smooth[k]!);
}

/** A frame whose light is what the learned filter made of it; null where it has not been at it. */
function asFrame(frame: LinearFrame): LinearFrame | null {
  const { learned, guides } = frame;
  if (!learned) return null;
  const beauty = frame.beauty.slice();
  for (let p = 0; p < beauty.length / 4; p++) beauty.set(learned.subarray(p * 3, p * 3 + 3), p * 4);
  return { ...frame, beauty, guides: guides && { ...guides, noise: guides.noise?.map((each) => each * LEFT) } };
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

/** Whether parts leave something open within them, and not along their edges alone. */
function isShaded({ width, height, beauty, parts }: LinearFrame): boolean {
  if (!parts) return false;
  const within = (k: number) => parts[k] !== 0 && beauty[k * 4 + 3]! < 1;
  for (let y = 1; y < height - 1; y++) {
    for (let k = y * width + 1; k < (y + 1) * width - 1; k++)
      if (within(k) && within(k - 1) && within(k + 1) && within(k - width) && within(k + width)) return true;
  }
  return false;
}

const AROUND = [[-1, -1], [0, -1], [1, -1], [-1, 0], [1, 0], [-1, 1], [0, 1], [1, 1]] as const; // prettier-ignore
