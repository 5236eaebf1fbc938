// Takes films, animated pictures and rows of pictures apart into frames of one size, each kept by its content.
import { execFile, spawn } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { promisify } from 'node:util';
import { parentPort, workerData } from 'node:worker_threads';
import sharp from 'sharp';
import { LIMITS, UserProblem } from '@zippy/core/document';
import { decodeSrgb } from '@zippy/core/optics';
import type { FootageNews, ReadFootage } from '@zippy/core/wire';
import { readAnimation } from '../footage/animation';
import { filmArguments, probeFilm, type FilmStream } from '../footage/film';
import { normalizePicture } from '../imports/picture';
import { Blobs } from '../storage/blobs';

export interface FootageTask {
  /** One film or animated picture, or pictures in their order. */
  sources: { name: string; path: string }[];
  /** Of pictures, frames a second. */
  rate: number;
  folder: string;
  decoder: string | null;
}

const { sources, rate, folder, decoder } = workerData as FootageTask;
const blobs = new Blobs(folder);
/** Seconds without a frame after which a film is given up. */
const PATIENCE = 60;
const LIGHT = Float64Array.from({ length: 256 }, (_, code) => decodeSrgb(code / 255));

let stopped = false;
let stopDecoder = () => {};
parentPort!.on('message', () => {
  stopped = true;
  stopDecoder();
});
const tell = (news: FootageNews) => parentPort!.postMessage(news);

/** What has been read so far. */
const read: ReadFootage = { frames: [], rate, brightness: [], size: null, notes: [] };

/** Mean light of pixels with eight bits of red, green, blue and opacity, of some thousand of them. */
function meanLight(pixels: Uint8Array): number {
  const step = 4 * Math.max(1, Math.floor(pixels.length / 4 / 20_000));
  let sum = 0;
  let count = 0;
  for (let k = 0; k + 3 < pixels.length; k += step, count++) {
    const light = 0.2126 * LIGHT[pixels[k]!]! + 0.7152 * LIGHT[pixels[k + 1]!]! + 0.0722 * LIGHT[pixels[k + 2]!]!;
    sum += (light * pixels[k + 3]!) / 255;
  }
  return count > 0 ? Math.min(1, sum / count) : 0;
}

async function keep(pixels: Uint8Array, width: number, height: number, of: number | null): Promise<void> {
  const png = await sharp(pixels, { raw: { width, height, channels: 4 } })
    .png({ compressionLevel: 3 })
    .toBuffer();
  read.frames.push((await blobs.store(Readable.from([png]))).hash);
  read.brightness.push(meanLight(pixels));
  if (read.frames.length % 5 === 0) tell({ frames: read.frames.length, of });
}

async function readFilm(name: string, path: string): Promise<void> {
  if (!decoder)
    throw new UserProblem(
      'decoder-missing',
      `ffmpeg is not installed on this machine, so "${name}" cannot be read. Install it (on Debian: apt install ffmpeg), or bring the frames as pictures.`,
      501,
    );
  const film = await probeFilm(promisify(execFile), decoder, path, name);
  Object.assign(read, { rate: film.rate, size: { width: film.width, height: film.height }, notes: film.notes });
  const { said, code } = await decode(decoder, path, film);
  if (stopped) return;
  const { length } = read.frames;
  if (length === 0)
    throw new UserProblem('footage-broken', `"${name}" holds no picture that can be read: ${said || 'it is empty'}. Export it again, perhaps as MP4.`, 422); // prettier-ignore
  if (length === LIMITS.footageFrames && (film.of ?? length + 1) > length)
    read.notes.push(`"${name}" is longer than ${LIMITS.footageFrames} frames: what comes after them was left out.`);
  else if (code !== 0 || (film.of !== null && length < 0.9 * film.of))
    read.notes.push(`"${name}" is broken after ${length} frames: what comes before is there.`);
}

/** Runs the decoder and keeps what it gives, frame by frame. */
async function decode(program: string, path: string, film: FilmStream): Promise<{ said: string; code: number | null }> {
  const { width, height, of } = film;
  const child = spawn(program, filmArguments(path, film), { stdio: ['ignore', 'pipe', 'pipe'] });
  stopDecoder = () => child.kill('SIGKILL');
  let said = '';
  child.stderr.on('data', (chunk: Buffer) => (said = (said + chunk.toString()).slice(-300)));
  const ended = new Promise<number | null>((resolve) => child.on('close', resolve));
  const bytes = width * height * 4;
  let clock = setTimeout(stopDecoder, PATIENCE * 1000);
  let held: Buffer[] = [];
  let size = 0;
  for await (const chunk of child.stdout as AsyncIterable<Buffer>) {
    held.push(chunk);
    size += chunk.length;
    if (size < bytes) continue;
    const all = Buffer.concat(held);
    let at = 0;
    for (; at + bytes <= all.length && read.frames.length < LIMITS.footageFrames && !stopped; at += bytes) {
      await keep(all.subarray(at, at + bytes), width, height, of);
      clearTimeout(clock);
      clock = setTimeout(stopDecoder, PATIENCE * 1000);
    }
    if (read.frames.length >= LIMITS.footageFrames || stopped) break;
    held = [all.subarray(at)];
    size = all.length - at;
  }
  clearTimeout(clock);
  if (read.frames.length >= LIMITS.footageFrames) stopDecoder();
  const code = await ended;
  return { said: said.trim().split('\n').at(-1) ?? '', code: read.frames.length >= LIMITS.footageFrames ? 0 : code };
}

async function readRow(): Promise<void> {
  let repeated = 0;
  for (const { name, path } of sources) {
    if (stopped) return;
    const { png } = await normalizePicture(new Uint8Array(await readFile(path)), name);
    const { data, info } = await sharp(png).raw().toBuffer({ resolveWithObject: true });
    const { width, height } = (read.size ??= { width: info.width, height: info.height });
    if (info.width !== width || info.height !== height)
      throw new UserProblem(
        'footage-broken',
        `"${name}" has ${info.width} × ${info.height} pixels, the pictures before it ${width} × ${height}. All pictures of a row must have one size.`,
        422,
      );
    await keep(data, info.width, info.height, sources.length);
    repeated++;
  }
  tell({ frames: repeated, of: sources.length });
}

async function readAll(): Promise<void> {
  const [{ name, path } = { name: '', path: '' }, ...others] = sources;
  if (others.length > 0) return readRow();
  const bytes = new Uint8Array(await readFile(path));
  const animation = await readAnimation(bytes, name);
  if (!animation) return readFilm(name, path);
  const { width, height, of, notes } = animation;
  Object.assign(read, { rate: animation.rate, size: { width, height }, notes });
  for await (const { pixels, times } of animation.pages()) {
    if (stopped) return;
    await keep(pixels, width, height, of);
    const [frame, brightness] = [read.frames.at(-1)!, read.brightness.at(-1)!];
    for (let k = 1; k < times && read.frames.length < LIMITS.footageFrames; k++) {
      read.frames.push(frame);
      read.brightness.push(brightness);
    }
    if (read.frames.length >= LIMITS.footageFrames) break;
  }
}

try {
  await readAll();
  if (!stopped) tell({ footage: read });
} catch (error) {
  const known = error instanceof UserProblem ? error.message : null;
  tell({
    failure: known ?? `"${sources[0]?.name}" cannot be read: ${error instanceof Error ? error.message : error}.`,
  });
}
parentPort!.close();
