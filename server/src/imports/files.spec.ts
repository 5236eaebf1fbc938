import { once } from 'node:events';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import sharp from 'sharp';
import { afterAll, describe, expect, it } from 'vitest';
import { UserProblem } from '@zippy/core/document';
import { writeExr } from '@zippy/core/develop';
import { mutate } from '../../../core/intake/testing/broken';
import { Files } from './files';

type Bytes = Uint8Array<ArrayBuffer>;
const folder = mkdtempSync(join(tmpdir(), 'zippy-files-'));
const files = new Files();
afterAll(async () => {
  await files.close();
  rmSync(folder, { recursive: true, force: true });
});

let count = 0;
function stored(bytes: Uint8Array): string {
  const path = join(folder, String(count++));
  writeFileSync(path, bytes);
  return path;
}

const sky = (over = 1): Bytes => {
  const data = Float32Array.from({ length: 64 * 32 }, (_, k) => (k % 7) * 0.3 * over);
  return writeExr({ width: 64, height: 32, channels: ['R', 'G', 'B'].map((name) => ({ name, type: 'half', data })) });
};
const radiance = (): Bytes => {
  const head = new TextEncoder().encode('#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 32 +X 64\n');
  const bytes = new Uint8Array(head.length + 64 * 32 * 4);
  bytes.set(head);
  for (let k = head.length; k < bytes.length; k++) bytes[k] = (k * 37) % 140;
  return bytes;
};
const cube = (): Bytes =>
  new TextEncoder().encode(`LUT_3D_SIZE 2\n${'0 0 0\n1 0 0\n0 1 0\n1 1 0\n0 0 1\n1 0 1\n0 1 1\n1 1 1\n'}`) as Bytes;

/** A thread that does nothing but beat: what keeps it waiting is the machine, not the work that is measured. */
const BEAT = `
  const { workerData } = require('node:worker_threads');
  const longest = new Float64Array(workerData);
  let last = performance.now();
  setInterval(() => {
    const now = performance.now();
    longest[0] = Math.max(longest[0], now - last);
    last = now;
  }, 5);
`;

/** How long the main thread was kept from anything else at the most, in milliseconds, beyond what an idle thread waits meanwhile. */
async function longestPause(work: () => Promise<unknown>): Promise<number> {
  const idle = new Float64Array(new SharedArrayBuffer(8));
  const thread = new Worker(BEAT, { eval: true, workerData: idle.buffer });
  await once(thread, 'online');
  let [last, longest] = [performance.now(), 0];
  const beat = setInterval(() => {
    const now = performance.now();
    longest = Math.max(longest, now - last);
    last = now;
  }, 5);
  await work();
  clearInterval(beat);
  await thread.terminate();
  return longest - idle[0]!;
}

const MUTATIONS = Number(process.env['MUTATIONS'] ?? 150);

describe('files besides models', () => {
  it('that are sound are read, and tell what was brought into range', async () => {
    expect(await files.surroundings(stored(sky()), 'sky.exr')).toEqual({ width: 64, height: 32, clipped: 0 });
    const negative = await files.surroundings(stored(sky(-1)), 'below.exr');
    expect(negative.clipped).toBeGreaterThan(1500);
    expect(await files.surroundings(stored(radiance()), 'sky.hdr')).toMatchObject({ width: 64, height: 32 });
    await files.lookup(stored(cube()), 'look.cube');
  });

  it('whose header claims too much are refused before anything is unpacked', async () => {
    const bytes = sky();
    const at = Buffer.from(bytes).indexOf('dataWindow') + 'dataWindow'.length + 1 + 'box2i'.length + 1 + 4;
    new DataView(bytes.buffer).setInt32(at + 8, 2_000_000_000, true);
    await expect(files.surroundings(stored(bytes), 'vast.exr')).rejects.toThrow(/larger than 8192/);
    const text = new TextEncoder().encode('#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 999999 +X 999999\n');
    await expect(files.surroundings(stored(text), 'vast.hdr')).rejects.toThrow(/larger than 8192/);
  });

  it('that are drawings become pixels, as large as they are of use, and fetch nothing', async () => {
    const inner = '<image href="file:///etc/hostname" width="4" height="2"/><rect width="2" height="2" fill="#f00"/>';
    const drawing = `<svg xmlns="http://www.w3.org/2000/svg" width="4" height="2">${inner}</svg>`;
    const { png } = await files.picture(stored(new TextEncoder().encode(drawing)), 'logo.svg');
    const { data, info } = await sharp(png).raw().toBuffer({ resolveWithObject: true });
    expect([info.width, info.height]).toEqual([4096, 2048]);
    const at = (x: number) => [...data.subarray(4 * (1024 * 4096 + x)).subarray(0, 4)];
    expect([at(1000), at(3000)]).toEqual([[255, 0, 0, 255], [0, 0, 0, 0]]); // prettier-ignore
  });

  it('that are damaged drawings are refused with what to do', async () => {
    for (const head of [
      '<svg xmlns="http://www.w3.org/2000/svg">',
      '<?xml version="1.0"?><svg>',
      '  \n<SVG>',
      '<!DOCTYPE svg>',
    ])
      await expect(files.picture(stored(new TextEncoder().encode(head)), 'logo.svg')).rejects.toThrow(/drawing.*PNG/);
  });

  it('in every way damaged end in a sentence, hold up nothing else, and the next one is read', async () => {
    const png = new Uint8Array(
      await sharp({ create: { width: 40, height: 30, channels: 4, background: '#456' } })
        .png()
        .toBuffer(),
    );
    const kinds: [string, Bytes, (path: string, name: string) => Promise<unknown>][] = [
      ['exr', sky(), (path, name) => files.surroundings(path, name)],
      ['hdr', radiance(), (path, name) => files.surroundings(path, name)],
      ['png', png, (path, name) => files.picture(path, name)],
      ['cube', cube(), (path, name) => files.lookup(path, name)],
    ];
    const pause = await longestPause(async () => {
      for (const [kind, sound, read] of kinds) {
        // A quarter of damaged EXR files keep their reader busy until the clock ends it.
        for (let seed = 1; seed <= (kind === 'exr' ? MUTATIONS / 5 : MUTATIONS); seed++) {
          const name = `${seed}.${kind}`;
          await read(stored(mutate(sound, seed)), name).catch((error: unknown) => {
            expect(error, name).toBeInstanceOf(UserProblem);
            expect((error as Error).message).toMatch(/\.$/);
          });
        }
        await read(stored(sound), `sound.${kind}`);
      }
    });
    expect(pause).toBeLessThan(200);
  }, 900_000);
});
