import { Grids } from './grids';
import { bevel, setPiece, size } from './kind';
import { QUARTER } from './lathe';

/** Of each side: the way out, and the directions in which its picture runs across and up. */
const SIDES = [
  { out: [1, 0, 0], across: [0, 0, -1], up: [0, 1, 0] },
  { out: [-1, 0, 0], across: [0, 0, 1], up: [0, 1, 0] },
  { out: [0, 1, 0], across: [1, 0, 0], up: [0, 0, -1] },
  { out: [0, -1, 0], across: [1, 0, 0], up: [0, 0, 1] },
  { out: [0, 0, 1], across: [1, 0, 0], up: [0, 1, 0] },
  { out: [0, 0, -1], across: [-1, 0, 0], up: [0, 1, 0] },
] as const;

/** A block, with rounded edges where its bevel is above zero. */
export const box = setPiece(
  'box',
  { width: size(), height: size(), depth: size(), bevel: bevel() },
  {
    title: 'Box',
    revision: 2,
    proportions: (part) => ({ width: part(1), height: part(0.4), depth: part(1), bevel: part(0.01) }),
    mesh({ width, height, depth, bevel: wished }) {
      const halves = [width / 2, height / 2, depth / 2] as const;
      const bevel = Math.min(wished, ...halves);
      const along = (direction: readonly number[], of: readonly number[]) =>
        direction.reduce((sum, v, k) => sum + Math.abs(v) * of[k]!, 0);
      const steps = profile(bevel > 0);
      const made = new Grids();
      for (const { out, across, up } of SIDES) {
        const [far, wide, high] = [out, across, up].map((each) => along(each, halves)) as [number, number, number];
        made.add(steps.length - 1, steps.length - 1, (u, v) => {
          const a = steps[Math.round(u * (steps.length - 1))]!;
          const b = steps[Math.round(v * (steps.length - 1))]!;
          // Sides meet half-way round an edge: the way out leans by as much as the place is round it.
          const size = Math.hypot(1, a.lean, b.lean);
          const normal = out.map((v, k) => (v + a.lean * across[k]! + b.lean * up[k]!) / size);
          const place = out.map(
            (v, k) =>
              v * (far - bevel) +
              a.side * (wide - bevel) * across[k]! +
              b.side * (high - bevel) * up[k]! +
              bevel * normal[k]!,
          );
          const [x, y, z] = place as [number, number, number];
          const run = (direction: readonly number[], half: number) =>
            0.5 + direction.reduce((sum, v, k) => sum + v * place[k]!, 0) / (2 * half);
          // v goes downwards in our pictures.
          const picture = [run(across, wide), 1 - run(up, high)] as const;
          return [x, y + height / 2, z, normal[0]!, normal[1]!, normal[2]!, ...picture];
        });
      }
      return made.finish();
    },
  },
);

/** Lines across a side: on which half of it, and the tangent of the angle that they have gone round its edge. */
function profile(round: boolean): { side: number; lean: number }[] {
  if (!round) return [-1, 1].map((side) => ({ side, lean: 0 }));
  const steps = Array.from({ length: QUARTER / 2 + 1 }, (_, k) => Math.tan((k / (QUARTER / 2)) * (Math.PI / 4)));
  return [...steps.map((lean) => ({ side: -1, lean: -lean })).reverse(), ...steps.map((lean) => ({ side: 1, lean }))];
}
