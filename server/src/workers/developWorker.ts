// Develops one kept frame into a picture file.
import { readFile } from 'node:fs/promises';
import { inflateSync, deflateSync } from 'node:zlib';
import sharp from 'sharp';
import { Darkroom, decodeFrame, type LinearFrame } from '@zippy/core/develop';
import { UserProblem, type Look } from '@zippy/core/document';
import type { Answer } from './answering';
import { learnedFilter } from './learnedFilter';
import { compileKernel } from './compileKernel';
import { readLookup } from './readLookup';

const deflate = { pack: (bytes: Uint8Array) => deflateSync(bytes), unpack: (bytes: Uint8Array) => inflateSync(bytes) };

const darkroom = await Darkroom.open(await compileKernel());

export interface DevelopRequest {
  path: string;
  /** Frames of the same take beside it; null where there is none, or the same picture. */
  before: string | null;
  after: string | null;
  look: Look;
  /** Path of the look's look-up table. */
  lookup: string | null;
  /** Number of the frame. */
  frame: number;
  format: 'png' | 'webp';
  /** Longest width of a small picture; null keeps the size. */
  width: number | null;
}

/** Width of a picture in pixels from which on the learned filter is used. */
const LEARNED_FROM = 400;

const read = async (path: string, { lights }: Look): Promise<LinearFrame> =>
  decodeFrame(new Uint8Array(await readFile(path)), deflate, lights);

async function develop({
  path,
  before,
  after,
  look,
  lookup,
  frame: number,
  format,
  width,
}: DevelopRequest): Promise<Uint8Array> {
  const frame = await read(path, look);
  const steady = look.denoise > 0;
  const neighbours = {
    before: steady && before ? await read(before, look) : null,
    after: steady && after ? await read(after, look) : null,
  };
  // Small pictures show no noise that would be worth its time.
  if (steady && frame.guides && (width === null || width >= LEARNED_FROM))
    frame.learned = await (await learnedFilter(1))?.filter(frame, frame.guides);
  const besides = { neighbours, lookup: await readLookup(lookup), frame: number };
  let picture = sharp(darkroom.develop(frame, look, besides), {
    raw: { width: frame.width, height: frame.height, channels: 4 },
  });
  if (width !== null && width < frame.width) picture = picture.resize({ width });
  return format === 'png' ? picture.png({ compressionLevel: 6 }).toBuffer() : picture.webp({ quality: 90 }).toBuffer();
}

/** Answers a frame that is damaged as such. */
export default async function developFrame(request: DevelopRequest): Promise<Answer<Uint8Array>> {
  try {
    return { result: await develop(request) };
  } catch (error) {
    if (!(error instanceof UserProblem)) throw error;
    return { problem: { code: error.code, message: error.message, status: error.status } };
  }
}
