import { spawnSync } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { createReadStream } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { FootageJob } from '@zippy/core/wire';
import { Blobs } from '../storage/blobs';
import { Footages } from './footages';

let folder: string;
let blobs: Blobs;
let footages: Footages;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'zippy-footage-'));
  blobs = new Blobs(join(folder, 'blobs'));
  await blobs.prepare();
  footages = new Footages(blobs, join(folder, 'blobs'), 'ffmpeg');
});
afterAll(async () => {
  await footages.close();
  await rm(folder, { recursive: true, force: true });
});

/** Has a film made of pictures that go from dark to bright, and gives its path. */
function film(name: string, args: string[], { size = '96x64', rate = '10', seconds = 2, bars = false } = {}): string {
  const path = join(folder, name);
  const of = `s=${size}:r=${rate}:d=${seconds}`;
  const source = bars ? `testsrc=${of}` : `color=c=black:${of},geq=lum='20+N*11':cb=128:cr=128`;
  const { status, stderr } = spawnSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', source, ...args, path]);
  expect(stderr.toString()).toBe('');
  expect(status).toBe(0);
  return path;
}

async function read(paths: string[], { rate = 24, names = paths } = {}): Promise<FootageJob> {
  const files = [];
  for (const [k, path] of paths.entries())
    files.push({ name: names[k]!.split('/').at(-1)!, hash: (await blobs.store(createReadStream(path))).hash });
  let job = footages.start(files, rate);
  while (job.state === 'reading') {
    await new Promise((resolve) => setTimeout(resolve, 30));
    job = footages.show(job.id);
  }
  return job;
}

const pixel = async (hash: string): Promise<number[]> => [
  ...(await sharp(blobs.path(hash)).extract({ left: 5, top: 5, width: 1, height: 1 }).raw().toBuffer()),
];

describe('footage', () => {
  it.each([
    ['clip.mp4', ['-c:v', 'libx264', '-pix_fmt', 'yuv420p']],
    ['clip.mov', ['-c:v', 'prores_ks']],
    ['clip.webm', ['-c:v', 'libvpx-vp9', '-b:v', '1M']],
  ])('is read from %s frame by frame, each brighter than the one before', async (name, args) => {
    const { footage, message } = await read([film(name, args)]);
    expect(message).toBe('');
    expect(footage).toMatchObject({ rate: 10, size: { width: 96, height: 64 }, notes: [] });
    expect(footage!.frames).toHaveLength(20);
    const { brightness } = footage!;
    for (let k = 1; k < 20; k++) expect(brightness[k]!).toBeGreaterThan(brightness[k - 1]!);
    const [red, green, blue, opacity] = await pixel(footage!.frames[10]!);
    expect(opacity).toBe(255);
    // Films keep dark as 16 and bright as 235.
    const shade = ((20 + 110 - 16) / 219) * 255;
    for (const channel of [red, green, blue]) expect(Math.abs(channel! - shade)).toBeLessThan(8);
  });

  it('keeps the opacity of a WebM', async () => {
    const path = join(folder, 'clear.webm');
    const source = 'color=c=red@0.5:s=64x64:r=5:d=1,format=yuva420p';
    spawnSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', source, '-c:v', 'libvpx-vp9', path]);
    const { footage } = await read([path]);
    expect(Math.abs((await pixel(footage!.frames[0]!))[3]! - 128)).toBeLessThan(6);
  });

  it('of odd sizes and rates keeps both, and of more than it can keep says so', async () => {
    const odd = await read([
      film('odd.mov', ['-c:v', 'png'], { size: '37x19', rate: '30000/1001', seconds: 1, bars: true }),
    ]);
    expect(odd.footage).toMatchObject({ size: { width: 37, height: 19 } });
    expect(odd.footage!.rate).toBeCloseTo(29.97, 2);
    const quick = await read([film('quick.mp4', ['-c:v', 'libx264'], { rate: '120', seconds: 1 })]);
    expect(quick.footage!.rate).toBe(60);
    expect(quick.footage!.notes[0]).toMatch(/60 of its 120 frames a second/);
    const wide = await read([film('wide.mp4', ['-c:v', 'libx264'], { size: '4096x32', rate: '2', seconds: 1 })]);
    expect(wide.footage).toMatchObject({ size: { width: 2048, height: 16 } });
    expect(wide.footage!.notes[0]).toMatch(/2048 pixels/);
  });

  it('without a duration, and one that breaks off, gives what is there', async () => {
    const piped = join(folder, 'piped.webm');
    const whole = film('whole.webm', ['-c:v', 'libvpx', '-g', '5']);
    const { stdout } = spawnSync('ffmpeg', ['-v', 'error', '-i', whole, '-c', 'copy', '-f', 'webm', 'pipe:1']);
    await writeFile(piped, stdout);
    expect((await read([piped])).footage!.frames).toHaveLength(20);
    const broken = join(folder, 'broken.webm');
    const bytes = await readFile(whole);
    await writeFile(broken, bytes.subarray(0, Math.round(bytes.length * 0.6)));
    const { footage } = await read([broken]);
    expect(footage!.frames.length).toBeGreaterThan(3);
    expect(footage!.frames.length).toBeLessThan(18);
    expect(footage!.notes.join()).toMatch(/broken after \d+ frames/);
  });

  it('of a GIF and a WebP keeps the time of each picture', async () => {
    const shades = await Promise.all(
      [40, 120, 220].map((shade) =>
        sharp({ create: { width: 20, height: 10, channels: 3, background: { r: shade, g: shade, b: shade } } })
          .png()
          .toBuffer(),
      ),
    );
    for (const kind of ['gif', 'webp'] as const) {
      const joined = sharp(shades, { join: { animated: true } });
      const path = join(folder, `shades.${kind}`);
      await writeFile(path, await joined[kind]({ delay: [100, 200, 100], loop: 0 }).toBuffer());
      const { footage } = await read([path]);
      expect(footage).toMatchObject({ rate: 10, size: { width: 20, height: 10 } });
      const [a, b, c, d] = footage!.frames;
      expect([footage!.frames.length, b === c, a === b, c === d]).toEqual([4, true, false, false]);
      expect(Math.abs((await pixel(b!))[0]! - 120)).toBeLessThan(8);
    }
  });

  it('is made of pictures that follow each other, which must have one size', async () => {
    const paths = [];
    for (const [k, width] of [8, 8, 9].entries()) {
      const path = join(folder, `row${k}.png`);
      const background = { r: 0, g: 60 * k, b: 0 };
      await sharp({ create: { width, height: 8, channels: 3, background } })
        .png()
        .toFile(path);
      paths.push(path);
    }
    const { footage } = await read(paths.slice(0, 2), { rate: 12 });
    expect([footage!.frames.length, footage!.rate]).toEqual([2, 12]);
    const uneven = await read(paths);
    expect([uneven.state, uneven.message]).toEqual(['failed', expect.stringMatching(/"row2.png" has 9 × 8 pixels/)]);
  });

  it('of what is no film fails with a sentence, and reads no file that a list names', async () => {
    const list = join(folder, 'list.mp4');
    await writeFile(list, `#EXTM3U\n#EXTINF:1,\nfile://${film('secret.ts', ['-c:v', 'mpeg2video'])}\n`);
    const noise = join(folder, 'noise.mp4');
    await writeFile(noise, Buffer.alloc(5000, 7));
    const gif = join(folder, 'broken.gif');
    await writeFile(gif, Buffer.from('GIF89a\x20\x00'));
    for (const path of [list, noise, gif]) {
      const { state, message } = await read([path]);
      expect(state).toBe('failed');
      expect(message).toMatch(/^".*" (cannot be read as a film|is damaged)/);
    }
  });

  it('is stopped, and the next one is read', async () => {
    const long = film('long.mp4', ['-c:v', 'libx264', '-preset', 'ultrafast'], {
      size: '1280x720',
      rate: '30',
      seconds: 30,
      bars: true,
    });
    const { hash } = await blobs.store(createReadStream(long));
    const job = footages.start([{ name: 'long.mp4', hash }], 24);
    await new Promise((resolve) => setTimeout(resolve, 1500));
    await footages.stop(job.id);
    expect(footages.show(job.id).state).toBe('stopped');
    expect((await read([film('next.mp4', ['-c:v', 'libx264'])])).state).toBe('read');
  });

  it('is told to be missing where no decoder is', async () => {
    const without = new Footages(blobs, join(folder, 'blobs'), null);
    const { hash } = await blobs.store(createReadStream(film('any.mp4', ['-c:v', 'libx264'])));
    let job = without.start([{ name: 'any.mp4', hash }], 24);
    while (job.state === 'reading') {
      await new Promise((resolve) => setTimeout(resolve, 30));
      job = without.show(job.id);
    }
    expect(job.message).toMatch(/ffmpeg is not installed/);
  });
});
