import { execFileSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { newCamera, type Camera } from '@zippy/core/document';
import { pinholeOf, rayThrough, sightOf, type Pinhole } from '@zippy/core/solve';

/** A bright sheet on grainy ground, filmed by a camera that is carried past. Lengths in mm. */
export const SHEET = { width: 600, depth: 400 };
export const FILMED = { width: 480, height: 270, frames: 16 };

export const filmedBy = (frame: number): Camera =>
  newCamera({ position: [-300 + 30 * frame, 900, 1500 - 8 * frame], target: [0, 0, 0], roll: 0.02, focalLength: 40 });

/** Places of the sheet's corners in the film's frame, from its left and top, near left first. */
export function cornersOn(frame: number): { x: number; y: number }[] {
  const [w, d] = [SHEET.width / 2, SHEET.depth / 2];
  const camera = pinholeOf(filmedBy(frame));
  return [[-w, d], [w, d], [w, -d], [-w, -d]].map(([x, z]) => {
    const [u, v] = sightOf(camera, [x!, 0, z!])!;
    return { x: (u + 1) / 2, y: (1 - (v * FILMED.width) / FILMED.height) / 2 };
  }); // prettier-ignore
}

/** Brightness of the ground there: cells of one value each, softened. */
function groundAt(x: number, z: number): number {
  if (Math.abs(x) < SHEET.width / 2 && Math.abs(z) < SHEET.depth / 2) return 225;
  const cell = (i: number, j: number) => {
    const mixed = Math.imul(Math.imul(i, 73856093) ^ Math.imul(j, 19349663), 0x9e3779b1) >>> 8;
    return (mixed % 1000) / 1000;
  };
  const [u, v] = [x / 70, z / 70];
  const [i, j] = [Math.floor(u), Math.floor(v)];
  const soft = (t: number) => t * t * (3 - 2 * t);
  const [a, b] = [soft(u - i), soft(v - j)];
  const along = (k: number) => cell(i, k) * (1 - a) + cell(i + 1, k) * a;
  return 40 + 110 * (along(j) * (1 - b) + along(j + 1) * b);
}

function drawn(camera: Pinhole): Buffer {
  const { width, height } = FILMED;
  const pixels = Buffer.alloc(width * height * 3);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (const [i, j] of [[0.25, 0.25], [0.75, 0.25], [0.25, 0.75], [0.75, 0.75]] as const) {
        const ray = rayThrough(camera, [(2 * (x + i)) / width - 1, (height - 2 * (y + j)) / width]);
        const t = -camera.position[1] / ray[1];
        sum += t > 0 ? groundAt(camera.position[0] + t * ray[0], camera.position[2] + t * ray[2]) / 4 : 50;
      }
      pixels.fill(Math.round(sum), (y * width + x) * 3, (y * width + x) * 3 + 3);
    }
  } // prettier-ignore
  return pixels;
}

/** Writes the film into a folder. @returns its path */
export async function filmGround(folder: string): Promise<string> {
  const frames = join(folder, 'ground');
  mkdirSync(frames);
  const { width, height } = FILMED;
  for (let frame = 1; frame <= FILMED.frames; frame++)
    await sharp(drawn(pinholeOf(filmedBy(frame))), { raw: { width, height, channels: 3 } }).png().toFile(join(frames, `${frame}.png`)); // prettier-ignore
  const path = join(folder, 'ground.mp4');
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-framerate', '24', '-i', join(frames, '%d.png'), '-crf', '4', '-pix_fmt', 'yuv420p', path]); // prettier-ignore
  return path;
}
