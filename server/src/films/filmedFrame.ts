import sharp from 'sharp';
import type { LinearFrame } from '@zippy/core/develop';
import { decodeSrgb } from '@zippy/core/optics';

const LIGHT = Float32Array.from({ length: 256 }, (_, code) => decodeSrgb(code / 255));

/** A picture of a film as light, so that it can be developed like a frame that was rendered. */
export async function filmedFrame(path: string): Promise<LinearFrame> {
  const { data, info } = await sharp(path).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const { width, height } = info;
  const beauty = new Float32Array(4 * width * height);
  for (let at = 0; at < beauty.length; at += 4) {
    const alpha = data[at + 3]! / 255;
    beauty[at] = LIGHT[data[at]!]! * alpha;
    beauty[at + 1] = LIGHT[data[at + 1]!]! * alpha;
    beauty[at + 2] = LIGHT[data[at + 2]!]! * alpha;
    beauty[at + 3] = alpha;
  }
  return { width, height, beauty };
}
