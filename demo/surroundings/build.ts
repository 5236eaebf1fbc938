// Paints the three studio surroundings as EXR pictures.
import { writeFileSync } from 'node:fs';
import { writeExr } from '@zippy/core/develop';

const WIDTH = 512;
const HEIGHT = 256;

type Direction = [number, number, number];

/** A soft-edged rectangle of light on the sphere. `x`, `y`: degrees from straight ahead (+z) towards +x and above the horizon. */
interface Patch {
  x: number;
  y: number;
  width: number;
  height: number;
  soft: number;
  light: Direction;
}

function paint(name: string, base: (up: number) => Direction, patches: Patch[]): void {
  const planes = [0, 1, 2].map(() => new Float32Array(WIDTH * HEIGHT));
  for (let row = 0; row < HEIGHT; row++) {
    for (let column = 0; column < WIDTH; column++) {
      const towards = (0.5 - (column + 0.5) / WIDTH) * 360;
      const up = 90 - ((row + 0.5) / HEIGHT) * 180;
      const light = base(up);
      for (const patch of patches) {
        const dx = Math.abs(((towards - patch.x + 540) % 360) - 180) * Math.max(0.2, Math.cos((up * Math.PI) / 180));
        const dy = Math.abs(up - patch.y);
        const edge = (d: number, half: number) => 1 - smooth((d - half + patch.soft) / (2 * patch.soft));
        const share = edge(dx, patch.width / 2) * edge(dy, patch.height / 2);
        for (let k = 0; k < 3; k++) light[k]! += patch.light[k]! * share;
      }
      for (let k = 0; k < 3; k++) planes[k]![row * WIDTH + column] = light[k]!;
    }
  }
  const channels = ['R', 'G', 'B'].map((channel, k) => ({ name: channel, type: 'half' as const, data: planes[k]! }));
  writeFileSync(new URL(`../made/${name}.exr`, import.meta.url), writeExr({ width: WIDTH, height: HEIGHT, channels }));
}

const smooth = (t: number): number => {
  const u = Math.min(1, Math.max(0, t));
  return u * u * (3 - 2 * u);
};

const grade =
  (low: number, high: number) =>
  (up: number): Direction => {
    const v = low + (high - low) * smooth((up + 90) / 180);
    return [v, v, v * 1.02];
  };

paint('soft-three-sides', grade(0.16, 0.34), [
  { x: -78, y: 22, width: 70, height: 80, soft: 14, light: [2.1, 2.05, 1.95] },
  { x: 82, y: 18, width: 56, height: 74, soft: 14, light: [1.25, 1.3, 1.4] },
  { x: 176, y: 34, width: 80, height: 46, soft: 16, light: [1.0, 1.02, 1.08] },
]);
paint('dark-two-strips', grade(0.012, 0.03), [
  { x: -64, y: 20, width: 9, height: 120, soft: 3, light: [11, 10.8, 10.4] },
  { x: 108, y: 24, width: 11, height: 124, soft: 3, light: [7.2, 7.6, 8.4] },
]);
paint('bright-overhead', grade(0.3, 0.62), [
  { x: 0, y: 74, width: 220, height: 50, soft: 18, light: [4.2, 4.2, 4.15] },
  { x: -40, y: 8, width: 46, height: 30, soft: 12, light: [0.5, 0.5, 0.5] },
]);
