import * as L from '@zippy/kernel/layout';
import type { KernelHeap } from '@zippy/kernel/host';

/** A picture on a surface: four bytes a pixel, top row first. */
export interface TexturePicture {
  width: number;
  height: number;
  /** Red, green, blue, opacity. */
  pixels: Uint8Array;
  /** Colours are coded for a display; roughness, normals and the like are numbers. */
  coded: 'srgb' | 'linear';
}

/** What one picture does to a finish. */
export interface FinishMap {
  /** Address of a loaded texture. */
  texture: number;
  /** Parameter that it multiplies, as its place in the kernel's finish; FINISH_NORMAL turns the normal instead. */
  target: number;
  /** Three for a colour; one takes `channel` of the picture. */
  components: 1 | 3;
  channel: number;
  /** Rows of the matrix from the surface's coordinates to the picture's. */
  matrix: readonly [number, number, number, number, number, number];
  /** 0 leaves the finish as it is. */
  strength: number;
}

/** Copies a picture into kernel memory with levels each half the size of the one before. @returns its address */
export function loadTexture(heap: KernelHeap, { width, height, pixels, coded }: TexturePicture): number {
  const levels = [{ width, height, pixels }];
  while (levels.length < L.TEXTURE_LEVELS) {
    const last = levels.at(-1)!;
    if (last.width === 1 && last.height === 1) break;
    levels.push(halved(last, coded));
  }
  const at = heap.allocate(L.TEXTURE_SIZE);
  const places = levels.map((level) => {
    const place = heap.allocate(level.pixels.length);
    new Uint8Array(heap.memory.buffer, place, level.pixels.length).set(level.pixels);
    return place;
  });
  const { u32 } = heap.views();
  const encoding = coded === 'srgb' ? L.ENCODING_SRGB8 : L.ENCODING_LINEAR8;
  u32.set([width, height, levels.length, encoding, ...places], at / 4);
  return at;
}

/** Half the size by means of two by two pixels, of light rather than of codes where the picture holds colours. */
function halved(
  { width, height, pixels }: { width: number; height: number; pixels: Uint8Array },
  coded: TexturePicture['coded'],
): { width: number; height: number; pixels: Uint8Array } {
  const [w, h] = [Math.max(1, width >> 1), Math.max(1, height >> 1)];
  const out = new Uint8Array(w * h * 4);
  const gamma = coded === 'srgb' ? 2.2 : 1;
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      for (let c = 0; c < 4; c++) {
        const power = c < 3 ? gamma : 1;
        let sum = 0;
        for (const j of [0, 1])
          for (const i of [0, 1]) {
            const from = (Math.min(height - 1, 2 * y + j) * width + Math.min(width - 1, 2 * x + i)) * 4 + c;
            sum += pixels[from]! ** power;
          }
        out[(y * w + x) * 4 + c] = Math.round((sum / 4) ** (1 / power));
      }
    }
  }
  return { width: w, height: h, pixels: out };
}

/** Puts maps on a finish in kernel memory. */
export function writeMaps(heap: KernelHeap, finish: number, maps: FinishMap[]): void {
  const at = heap.allocate(Math.max(1, maps.length) * L.MAP_SIZE);
  const { u32, f32 } = heap.views();
  maps.forEach(({ texture, target, components, channel, matrix, strength }, k) => {
    const map = at + k * L.MAP_SIZE;
    u32.set([texture, target, components, channel], map / 4);
    f32.set([...matrix, strength], (map + L.MAP_MATRIX) / 4);
  });
  u32[(finish + L.FINISH_MAPS) / 4] = at;
  u32[(finish + L.FINISH_MAP_COUNT) / 4] = maps.length;
}
