import sharp from 'sharp';
import { LIMITS, UserProblem } from '@zippy/core/document';

/** A GIF or WebP that moves. */
export interface Animation {
  width: number;
  height: number;
  /** Frames a second by which the times of all of its pictures can be told. */
  rate: number;
  /** Frames at that rate. */
  of: number;
  notes: string[];
  /** Its pictures, each with the number of frames for which it stands. */
  pages(): AsyncGenerator<{ pixels: Uint8Array; times: number }>;
}

/** Longest side of a frame that is kept. */
const MOST_PIXELS = 2048;
/** Pictures that are unpacked at once. */
const AT_ONCE = 16;
/** Browsers show pictures with less than this as if it were a tenth of a second. */
const LEAST_DELAY = 20;
const MOST_RATE = 60;

const isAnimated = (bytes: Uint8Array): boolean => {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 12));
  return head.startsWith('GIF8') || (head.startsWith('RIFF') && head.endsWith('WEBP'));
};

/**
 * Null of what is neither GIF nor WebP.
 * @throws UserProblem `footage-broken`
 */
export async function readAnimation(bytes: Uint8Array, name: string): Promise<Animation | null> {
  if (!isAnimated(bytes)) return null;
  const options = { failOn: 'error', limitInputPixels: 1e9 } as const;
  const about = await sharp(bytes, options)
    .metadata()
    .catch(() => null);
  if (!about?.width || !about.height)
    throw new UserProblem('footage-broken', `"${name}" is damaged. Export it again.`, 422);
  const count = Math.min(about.pages ?? 1, LIMITS.footageFrames);
  const delays = Array.from({ length: count }, (_, k) => {
    const delay = about.delay?.[k] ?? 100;
    return delay < LEAST_DELAY ? 100 : delay;
  });
  // By their common measure, unless that is much finer than any of them.
  const exact = delays.reduce(commonDivisor);
  const shortest = Math.min(...delays);
  const rate = Math.min(MOST_RATE, 1000 / (shortest <= 2 * exact ? exact : shortest));
  const ends = delays.reduce<number[]>((all, delay) => [...all, (all.at(-1) ?? 0) + delay], []);
  const shrink = Math.min(1, MOST_PIXELS / Math.max(about.width, about.height));
  const [width, height] = [about.width, about.height].map((side) => Math.max(1, Math.round(side * shrink))) as [
    number,
    number,
  ];
  const frameAt = (milliseconds: number) => Math.round((milliseconds * rate) / 1000);
  return {
    width,
    height,
    rate,
    of: frameAt(ends.at(-1)!),
    notes: (about.pages ?? 1) > count ? [`"${name}" has more than ${count} pictures: the others were left out.`] : [],
    async *pages() {
      for (let first = 0; first < count; first += AT_ONCE) {
        const pages = Math.min(AT_ONCE, count - first);
        const { data, info } = await sharp(bytes, { ...options, page: first, pages })
          .ensureAlpha()
          .raw()
          .toBuffer({ resolveWithObject: true })
          .catch(() => {
            throw new UserProblem(
              'footage-broken',
              `"${name}" is damaged after ${first} pictures. Export it again.`,
              422,
            );
          });
        const each = data.length / pages;
        for (let k = 0; k < pages; k++) {
          const own = data.subarray(k * each, (k + 1) * each);
          const raw = { width: info.width, height: info.height / pages, channels: 4 as const };
          const pixels = shrink < 1 ? await sharp(own, { raw }).resize(width, height).raw().toBuffer() : own;
          const at = first + k;
          yield { pixels, times: Math.max(1, frameAt(ends[at]!) - frameAt(ends[at - 1] ?? 0)) };
        }
      }
    },
  };
}

/** Of times in milliseconds, which files tell in tenths of one. */
function commonDivisor(a: number, b: number): number {
  return b === 0 ? a : commonDivisor(b, a % b);
}
