// Develops the frames of a film and hands them to the encoder, or packs them as PNG pictures.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { availableParallelism } from 'node:os';
import { createWriteStream } from 'node:fs';
import { readFile, rename, rm } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { parentPort, workerData } from 'node:worker_threads';
import { inflateSync, deflateSync } from 'node:zlib';
import sharp from 'sharp';
import yazl from 'yazl';
import { Darkroom, decodeFrame, type LinearFrame } from '@zippy/core/develop';
import type { Look } from '@zippy/core/document';
import { filmFormat, type FilmFormatName, type FilmQuality, type FilmSettings } from '@zippy/core/reel';
import { learnedFilter } from './learnedFilter';
import { compileKernel } from './compileKernel';
import { readLookup } from './readLookup';

export interface FilmJob {
  format: FilmFormatName;
  quality: FilmQuality;
  /** With the path of the look's look-up table. */
  frames: { path: string; before: string | null; after: string | null; look: Look; lookup: string | null }[];
  rate: { numerator: number; denominator: number };
  output: string;
  ffmpeg: string;
}

const job = workerData as FilmJob;
const deflate = { pack: (bytes: Uint8Array) => deflateSync(bytes), unpack: (bytes: Uint8Array) => inflateSync(bytes) };
const { encode, extension } = filmFormat(job.format);
const part = `${job.output}.part.${extension}`;
const darkroom = await Darkroom.open(await compileKernel());
let stopped = false;
let stopEncoder = () => {};

parentPort!.on('message', () => {
  stopped = true;
  stopEncoder();
});

/** The last few frames that were read: each is its neighbours' neighbour. */
const kept = new Map<string, LinearFrame>();
async function read(path: string, { lights, denoise }: Look): Promise<LinearFrame> {
  const key = JSON.stringify([path, lights]);
  const frame = kept.get(key) ?? decodeFrame(new Uint8Array(await readFile(path)), deflate, lights);
  if (denoise > 0 && frame.guides)
    frame.learned ??= await (await learnedFilter(availableParallelism()))?.filter(frame, frame.guides);
  kept.delete(key);
  kept.set(key, frame);
  if (kept.size > 3) kept.delete(kept.keys().next().value!);
  return frame;
}

/** Neighbouring frames are often the same one (slow motion, holds): it is developed once. */
let last: { key: string; frame: LinearFrame; pixels: Uint8Array } | null = null;
async function developed(index: number): Promise<{ frame: LinearFrame; pixels: Uint8Array }> {
  const { path, before, after, look, lookup } = job.frames[index]!;
  // Grain goes on over a frame that is held.
  const key = JSON.stringify([path, before, after, look, look.grain > 0 ? index : null]);
  if (last?.key !== key) {
    const frame = await read(path, look);
    const neighbours = {
      before: before ? await read(before, look) : null,
      after: after ? await read(after, look) : null,
    };
    const besides = { neighbours, lookup: await readLookup(lookup), frame: index };
    last = { key, frame, pixels: darkroom.develop(frame, look, besides) };
  }
  return last;
}

async function encodeFilm(plan: (settings: FilmSettings, output: string) => string[]): Promise<void> {
  const { frame } = await developed(0);
  const { width, height } = frame;
  const settings = { width, height, rate: job.rate, quality: job.quality };
  const encoder = spawn(job.ffmpeg, plan(settings, part), { stdio: ['pipe', 'ignore', 'pipe'] });
  stopEncoder = () => encoder.kill('SIGKILL');
  let said = '';
  encoder.stderr.on('data', (chunk: Buffer) => (said = (said + chunk.toString()).slice(-800)));
  const ended = once(encoder, 'close') as Promise<[number | null]>;
  encoder.stdin.on('error', () => undefined);
  for (let k = 0; k < job.frames.length && !stopped; k++) {
    const { frame: each, pixels } = await developed(k);
    const fitted = each.width === width && each.height === height ? pixels : await fit(each, pixels, width, height);
    if (!encoder.stdin.write(fitted)) await Promise.race([once(encoder.stdin, 'drain'), ended]);
    if (encoder.exitCode !== null) break;
    parentPort!.postMessage({ encoded: k + 1 });
  }
  encoder.stdin.end();
  const [code] = await ended;
  if (!stopped && code !== 0) throw new Error(said.trim().split('\n').at(-1) || `the encoder ended with ${code}`);
}

/** Takes of another size are fitted into the film's, black beside them. */
async function fit(frame: LinearFrame, pixels: Uint8Array, width: number, height: number): Promise<Uint8Array> {
  return sharp(pixels, { raw: { width: frame.width, height: frame.height, channels: 4 } })
    .resize({ width, height, fit: 'contain', background: '#000' })
    .raw()
    .toBuffer();
}

async function packPictures(): Promise<void> {
  const zip = new yazl.ZipFile();
  const written = pipeline(zip.outputStream, createWriteStream(part));
  const digits = Math.max(4, String(job.frames.length).length);
  for (let k = 0; k < job.frames.length && !stopped; k++) {
    const { frame, pixels } = await developed(k);
    const picture = await sharp(pixels, { raw: { width: frame.width, height: frame.height, channels: 4 } })
      .png()
      .toBuffer();
    zip.addBuffer(picture, `frame-${String(k + 1).padStart(digits, '0')}.png`, {
      compress: false,
      mtime: new Date(2026, 0, 1),
    });
    parentPort!.postMessage({ encoded: k + 1 });
  }
  zip.end();
  await written;
}

try {
  await (encode ? encodeFilm(encode) : packPictures());
  if (!stopped) await rename(part, job.output);
  parentPort!.postMessage(stopped ? { stopped } : { done: true });
} catch (error) {
  const { message, code } = error as NodeJS.ErrnoException;
  parentPort!.postMessage({
    failure: code === 'ENOSPC' ? 'The disk is full. Free some space and export again.' : message,
  });
} finally {
  await rm(part, { force: true });
  parentPort!.close();
}
