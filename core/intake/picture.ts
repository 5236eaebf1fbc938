import { decode } from 'fast-png';
import { UserProblem } from '../document';

/** A picture on a surface: red, green, blue and opacity, top row first: eight bits each, or half floats by their bits. */
export interface SurfacePicture {
  width: number;
  height: number;
  pixels: Uint8Array | Uint16Array;
}

/** Longest edge of a picture on a surface, in pixels; larger ones are made smaller when they come in. */
export const MOST_PICTURE_PIXELS = 8192;

/**
 * Pixels of a picture that the server has normalised: a PNG with eight bits of red, green, blue and opacity, or one of sixteen whose
 * samples are half floats.
 * @throws UserProblem `picture-broken`
 */
export function readPicture(bytes: Uint8Array, name: string): SurfacePicture {
  try {
    const { width, height, data, depth, channels } = decode(bytes);
    if (depth === 8 && channels === 4) return { width, height, pixels: new Uint8Array(data) };
    if (depth === 16 && channels === 4) return { width, height, pixels: Uint16Array.from(data) };
  } catch {
    // Said below.
  }
  throw new UserProblem('picture-broken', `The picture "${name}" is damaged. Bring it in again.`, 422);
}
