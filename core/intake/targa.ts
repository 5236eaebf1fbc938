import { TGALoader } from 'three/examples/jsm/loaders/TGALoader.js';
import { UserProblem } from '../document';

/** Bytes of a TGA file before its pixels, its name and its palette. */
const HEADER = 18;
/** Most pixels that a packet of two bytes stands for where a picture is packed. */
const LONGEST_RUN = 128;

/** TGA files have no mark of their own to begin with. */
export const isTargaName = (name: string): boolean => /\.tga$/i.test(name);

/**
 * Unpacks a TGA picture (Truevision, TGA File Format Specification 2.0, 1991).
 * @returns 8-bit RGBA, first row on top
 * @throws UserProblem `picture-broken`
 */
export function readTarga(
  bytes: Uint8Array,
  name: string,
): { width: number; height: number; data: Uint8Array<ArrayBuffer> } {
  const problem = () =>
    new UserProblem('picture-broken', `The picture "${name}" cannot be unpacked. Export it as PNG.`, 422);
  if (bytes.length < HEADER) throw problem();
  const [kind, width, height] = [bytes[2]!, bytes[12]! + bytes[13]! * 256, bytes[14]! + bytes[15]! * 256];
  // What a header claims is made room for at once, so it must fit to what is behind it.
  const most = (bytes.length - HEADER) * (kind >= 8 ? LONGEST_RUN : 1);
  if (width * height > most || width > 16384 || height > 16384) throw problem();
  try {
    const { data } = new TGALoader().parse(bytes.slice().buffer);
    return { width, height, data: new Uint8Array(data as Uint8Array) };
  } catch {
    throw problem();
  }
}
