import { mkdir, open, readFile, rename, rm } from 'node:fs/promises';
import { dirname } from 'node:path';
import * as z from 'zod';
import type { Interrupted } from '@zippy/core/trace';

/** Bytes of a frame in the middle beyond which it is not kept: it begins anew. */
const MOST_KEPT = 2_000_000_000;

const whole = z.number().int().min(0);
const headSchema = z.object({
  pass: z.object({
    number: whole,
    samples: whole,
    masked: z.boolean(),
    has: z.number(),
    adds: z.number(),
    spent: z.number(),
  }),
  tiles: whole,
  elapsed: z.number(),
  film: whole,
  mask: whole,
});

/** Where a frame that was left in the middle is kept: beside the file that it will be. */
const placeOf = (output: string): string => `${output}.left`;

/**
 * Keeps a frame that was left in the middle: a line of JSON, the film's sums, the mask. What does not fit on the disk is not kept, which
 * costs the time of one frame.
 */
export async function writeLeft(output: string, { film, mask, ...at }: Interrupted): Promise<void> {
  if (film.length + mask.length > MOST_KEPT) return;
  const place = placeOf(output);
  try {
    await mkdir(dirname(place), { recursive: true });
    const file = await open(`${place}.part`, 'w');
    try {
      await file.write(`${JSON.stringify({ ...at, film: film.length, mask: mask.length })}\n`);
      await file.write(film);
      await file.write(mask);
    } finally {
      await file.close();
    }
    await rename(`${place}.part`, place);
  } catch {
    await rm(`${place}.part`, { force: true });
    await forgetLeft(output);
  }
}

/** A frame that was left in the middle; null where there is none, or none that is whole. */
export async function readLeft(output: string): Promise<Interrupted | null> {
  try {
    const bytes = new Uint8Array(await readFile(placeOf(output)));
    const end = bytes.indexOf(10);
    const { film, mask, ...at } = headSchema.parse(JSON.parse(new TextDecoder().decode(bytes.subarray(0, end))));
    const from = end + 1;
    if (bytes.length !== from + film + mask) return null;
    return { ...at, film: bytes.slice(from, from + film), mask: bytes.slice(from + film) };
  } catch {
    return null;
  }
}

export const forgetLeft = (output: string): Promise<void> => rm(placeOf(output), { force: true });
