import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { createWriteStream } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import sharp from 'sharp';
import yazl from 'yazl';
import { hexFromLinear } from '@zippy/core/optics';
import {
  heardSounds,
  mixArguments,
  spinEnd,
  spinHead,
  spinOrder,
  spinPicture,
  spinRows,
  type FilmSettings,
  type Pixels,
} from '@zippy/core/reel';
import { blobPath } from '../storage/blobs';
import type { FilmFrames } from './filmFrames';
import type { FilmJob } from './filmJob';

/** What makes a file of a film's pictures. */
export interface Delivering {
  job: FilmJob;
  frames: FilmFrames;
  /** Where it is written to. */
  part: string;
  /** Whether somebody stopped it. */
  stopped(): boolean;
  /** How to end what is at work, when it is stopped. */
  onStop(end: () => void): void;
  tell(encoded: number): void;
}

type Arguments = (settings: FilmSettings, output: string) => string[];

/** Has the encoder make a film. @throws what the encoder says where it fails */
export async function encodeFilm({ job, frames, part, ...at }: Delivering, plan: Arguments): Promise<void> {
  const { delivery, document } = job;
  const { numerator, denominator } = document.frameRate;
  const rate = { numerator, denominator: denominator * delivery.every };
  const seconds = (job.frames.length * rate.denominator) / rate.numerator;
  const heard = heardSounds(document, frames.film.rate, seconds);
  const paths = heard.map(({ hash }) => blobPath(job.blobs, hash));
  const sound = mixArguments(heard, paths, seconds);
  const { quality, colors, open } = delivery;
  const encoder = spawn(job.ffmpeg, plan({ ...frames.size, rate, quality, colors, open, sound }, part), {
    stdio: ['pipe', 'ignore', 'pipe'],
  });
  at.onStop(() => encoder.kill('SIGKILL'));
  let said = '';
  encoder.stderr.on('data', (chunk: Buffer) => (said = (said + chunk.toString()).slice(-800)));
  const ended = once(encoder, 'close') as Promise<[number | null]>;
  encoder.stdin.on('error', () => undefined);
  // The next picture is made while the encoder takes the one before.
  let coming = frames.picture(job.frames[0]!);
  for (const k of job.frames.keys()) {
    if (at.stopped()) break;
    const pixels = await coming;
    const next = job.frames[k + 1];
    if (next !== undefined) {
      coming = frames.picture(next);
      // Told when it is waited for: until then nobody hears it.
      coming.catch(() => undefined);
    }
    const bytes = new Uint8Array(pixels.buffer, pixels.byteOffset, pixels.byteLength);
    if (!encoder.stdin.write(bytes)) await Promise.race([once(encoder.stdin, 'drain').catch(() => undefined), ended]);
    if (encoder.exitCode !== null || encoder.signalCode !== null) break;
    at.tell(k + 1);
  }
  encoder.stdin.end();
  const [code] = await ended;
  if (!at.stopped() && code !== 0)
    throw new Error(said.trim().split('\n').at(-1) || `the encoder ended with ${code ?? 'a signal'}`);
}

type As = 'png' | 'jpeg' | 'tiff' | 'webp';

/** A picture as a file. */
function picture(pixels: Pixels, { size }: FilmFrames, as: As, quality: number): Promise<Buffer> {
  const raw = { ...size, channels: 4 as const };
  const deep = pixels instanceof Uint16Array;
  const made = deep ? sharp(pixels, { raw }).toColourspace('rgb16') : sharp(pixels, { raw });
  if (as === 'jpeg') return made.removeAlpha().jpeg({ quality: 92 }).toBuffer();
  if (as === 'webp') return made.webp({ quality }).toBuffer();
  return made.toFormat(as, as === 'tiff' ? { compression: 'deflate' } : {}).toBuffer();
}

/** Packs numbered pictures as they are made. */
export async function packPictures({ job, frames, part, ...at }: Delivering, as: As): Promise<void> {
  const zip = new yazl.ZipFile();
  const written = pipeline(zip.outputStream, createWriteStream(part));
  const digits = Math.max(4, String(job.frames.length).length);
  for (const [k, frame] of job.frames.entries()) {
    if (at.stopped()) break;
    const bytes = await picture(await frames.picture(frame), frames, as, 92);
    const name = `frame-${String(k + 1).padStart(digits, '0')}.${as === 'jpeg' ? 'jpg' : as}`;
    zip.addBuffer(bytes, name, { compress: false, mtime: new Date(2026, 0, 1) });
    at.tell(k + 1);
  }
  zip.end();
  await written;
}

/** Writes one picture. */
export async function writePoster({ job, frames, part, ...at }: Delivering, as: As): Promise<void> {
  await writeFile(part, await picture(await frames.picture(job.frames[0]!), frames, as, 92));
  at.tell(1);
}

const QUALITIES = { fine: 88, good: 76, small: 60 };

/** Writes a page that turns the product, its first picture first. */
export async function writeViewer({ job, frames, part, ...at }: Delivering): Promise<void> {
  const { delivery, name } = job;
  const rows = spinRows(frames.film, delivery.pictures);
  const [first] = frames.film.clips;
  const ground = first && !delivery.open ? hexFromLinear(first.clip.ground) : null;
  const file = createWriteStream(part);
  const write = async (text: string) => void (file.write(text) || (await once(file, 'drain')));
  const rowLengths = rows.map(({ length }) => length);
  await write(spinHead({ title: name, ...frames.size, rows: rowLengths, ground }));
  // Of a page that is only tried not all are asked for.
  for (const [k, { row, column, frame }] of spinOrder(rows).slice(0, job.frames.length).entries()) {
    if (at.stopped()) break;
    const bytes = await picture(await frames.picture(frame), frames, 'webp', QUALITIES[delivery.quality]);
    await write(spinPicture(row, column, `data:image/webp;base64,${bytes.toString('base64')}`));
    at.tell(k + 1);
  }
  file.end(spinEnd());
  await once(file, 'finish');
}
