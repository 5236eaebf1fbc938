// Renders every finish of the shelf: the sheet of small pictures that the page shows, and docs/screenshots/finishes.png with names.
import { fork } from 'node:child_process';
import { createHash } from 'node:crypto';
import { writeFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import sharp, { type OverlayOptions, type Sharp } from 'sharp';
import { FINISH_SHELF, SAMPLE_ASPECT } from '@zippy/core/shelf';

const WIDTH = 168;
const HEIGHT = WIDTH / SAMPLE_ASPECT;
const SAMPLES = 32;
const ACROSS = 10;
const LABEL = 20;

const finishes = FINISH_SHELF.flatMap((family) => family.finishes);
const begun = performance.now();
const pictures = await drawAll();
console.log(`${finishes.length} finishes in ${((performance.now() - begun) / 1000).toFixed(0)} s`);

/** All finishes, each by the next process that is free. */
async function drawAll(): Promise<Buffer[]> {
  const drawn = new Array<Buffer>(finishes.length);
  let next = 0;
  await Promise.all(
    Array.from({ length: availableParallelism() }, async () => {
      const drawer = fork(new URL('./drawer.ts', import.meta.url), [WIDTH, HEIGHT, SAMPLES].map(String), {
        execArgv: ['--import', 'tsx'],
        serialization: 'advanced',
      });
      await new Promise<void>((resolve, reject) => {
        drawer.on('error', reject);
        drawer.on('exit', (code) => code && reject(new Error(`a drawer ended with ${code}`)));
        drawer.on('message', (message: 'ready' | { index: number; pixels: Uint8Array }) => {
          if (message !== 'ready') drawn[message.index] = Buffer.from(message.pixels);
          if (next < finishes.length) drawer.send(next++);
          else resolve();
        });
      });
      drawer.kill();
    }),
  );
  return drawn;
}

async function sheet(height: number, label: (name: string) => Buffer | null): Promise<Sharp> {
  const tiles: OverlayOptions[] = [];
  for (const [k, pixels] of pictures.entries()) {
    const [left, top] = [(k % ACROSS) * WIDTH, Math.floor(k / ACROSS) * height];
    const picture = await sharp(pixels, { raw: { width: WIDTH, height: HEIGHT, channels: 4 } })
      .removeAlpha()
      .png()
      .toBuffer();
    tiles.push({ input: picture, left, top });
    const text = label(finishes[k]!.name);
    if (text) tiles.push({ input: text, left, top: top + HEIGHT });
  }
  const rows = Math.ceil(finishes.length / ACROSS);
  const background = '#1d1e20';
  return sharp({ create: { width: ACROSS * WIDTH, height: rows * height, channels: 3, background } }).composite(tiles);
}

/** Mean colour of the block's top and front, by which the shelf is filtered. */
function colorOf(pixels: Buffer): string {
  const sums = [0, 0, 0];
  let count = 0;
  for (let y = Math.floor(HEIGHT * 0.58); y < HEIGHT * 0.82; y++) {
    for (let x = Math.floor(WIDTH * 0.12); x < WIDTH * 0.5; x++, count++)
      for (let c = 0; c < 3; c++) sums[c]! += pixels[(y * WIDTH + x) * 4 + c]!;
  }
  const code = sums.map((sum) =>
    Math.round(sum / count)
      .toString(16)
      .padStart(2, '0'),
  );
  return `#${code.join('')}`;
}

const page = new URL('../../web/src/app/desks/finish/shelf/', import.meta.url).pathname;
await (await sheet(HEIGHT, () => null)).webp({ quality: 84 }).toFile(`${page}finishes.webp`);
const digest = (finish: object) => createHash('sha256').update(JSON.stringify(finish)).digest('hex').slice(0, 12);
const told = {
  width: WIDTH,
  height: HEIGHT,
  across: ACROSS,
  finishes: finishes.map((finish, k) => ({ name: finish.name, digest: digest(finish), color: colorOf(pictures[k]!) })),
};
writeFileSync(`${page}finishes.json`, `${JSON.stringify(told, null, 2)}\n`);
const named = await sheet(HEIGHT + LABEL, (name) =>
  Buffer.from(
    `<svg width="${WIDTH}" height="${LABEL}"><text x="6" y="14" font-family="sans-serif" font-size="12" fill="#ddd">${name}</text></svg>`,
  ),
);
await named
  .png({ compressionLevel: 9, palette: true, quality: 90 })
  .toFile(new URL('../../docs/screenshots/finishes.png', import.meta.url).pathname);
