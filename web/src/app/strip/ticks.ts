import type { ScaleLinear } from 'd3';

/** Steps between numbered frames: what one counts frames by. */
const STEPS = [1, 2, 6, 12, 24, 48, 120, 240, 1200, 2400, 12_000, 24_000];

/** Frames that are numbered above lanes. @param room pixels that a number takes */
export function ticksOf(x: ScaleLinear<number, number>, room: number): number[] {
  const [first, last] = x.domain() as [number, number];
  const every = STEPS.find((step) => x(1 + step) - x(1) > room) ?? STEPS.at(-1)!;
  const begin = Math.floor(first / every);
  const all = Array.from({ length: Math.floor(last / every) - begin + 1 }, (_, k) => Math.max(1, (begin + k) * every));
  return [...new Set(all)].filter((tick) => tick >= first - 0.5 && tick <= last + 0.5);
}
