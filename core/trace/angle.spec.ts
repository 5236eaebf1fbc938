import { mkdtempSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';

interface Angles {
  turn(share: number): void;
  turnSine: WebAssembly.Global;
  turnCosine: WebAssembly.Global;
  arc(y: number, x: number): number;
  arcOfCosine(c: number): number;
}

let angles: Angles;

// The file is compiled alone: within the kernel it is not reached from outside.
beforeAll(async () => {
  const kernel = dirname(createRequire(import.meta.url).resolve('@zippy/kernel/layout'));
  const out = join(mkdtempSync(join(tmpdir(), 'zippy-angle-')), 'angle.wasm');
  const { default: asc } = await import('assemblyscript/asc');
  const { error } = await asc.main([join(kernel, 'angle.ts'), '--outFile', out, '-O3', '--runtime', 'stub']);
  if (error) throw error;
  const { instance } = await WebAssembly.instantiate(readFileSync(out), {});
  angles = instance.exports as unknown as Angles;
}, 60_000);

const single = Math.fround;

describe('angles in single precision', () => {
  it('turn to sines and cosines within 3 parts in 10 million, three turns either way', () => {
    let worst = 0;
    for (let k = -30_000; k <= 30_000; k++) {
      const share = single(k / 10_000);
      angles.turn(share);
      worst = Math.max(worst, Math.abs(angles.turnSine.value - Math.sin(2 * Math.PI * share)));
      worst = Math.max(worst, Math.abs(angles.turnCosine.value - Math.cos(2 * Math.PI * share)));
    }
    expect(worst).toBeLessThan(3e-7);
  });

  it('are found from a point in every quarter, and on the axes', () => {
    for (let k = 0; k < 3600; k++) {
      const angle = ((k + 0.5) / 3600) * 2 * Math.PI - Math.PI;
      for (const reach of [1e-6, 1, 1e6]) {
        const [x, y] = [single(reach * Math.cos(angle)), single(reach * Math.sin(angle))];
        expect(Math.abs(angles.arc(y, x) - Math.atan2(y, x))).toBeLessThan(5e-7);
      }
    }
    expect(angles.arc(0, 0)).toBe(0);
    expect(angles.arc(0, -1)).toBeCloseTo(Math.PI, 6);
    expect(angles.arc(1, 0)).toBeCloseTo(Math.PI / 2, 6);
    expect(angles.arc(-1, 0)).toBeCloseTo(-Math.PI / 2, 6);
  });

  it('have their cosine, which is held within its bounds', () => {
    for (let k = -1000; k <= 1000; k++)
      expect(Math.abs(angles.arcOfCosine(single(k / 1000)) - Math.acos(single(k / 1000)))).toBeLessThan(5e-7);
    expect(angles.arcOfCosine(1.00001)).toBe(0);
    expect(angles.arcOfCosine(-1.00001)).toBeCloseTo(Math.PI, 6);
  });
});
