/// <reference lib="webworker" />
import { readSurroundings } from '@zippy/core/intake';

const WIDTH = 256;
const HEIGHT = 128;

/** Reads a surroundings picture away from the page and makes it small enough for the mirror ball. */
addEventListener('message', async ({ data }: MessageEvent<{ url: string; name: string }>) => {
  try {
    const response = await fetch(data.url);
    const { width, height, pixels } = readSurroundings(new Uint8Array(await response.arrayBuffer()), data.name);
    const small = new Float32Array(WIDTH * HEIGHT * 3);
    for (let y = 0; y < HEIGHT; y++) {
      for (let x = 0; x < WIDTH; x++) {
        const from = (Math.floor(((y + 0.5) * height) / HEIGHT) * width + Math.floor(((x + 0.5) * width) / WIDTH)) * 3;
        for (let k = 0; k < 3; k++) small[(y * WIDTH + x) * 3 + k] = pixels[from + k]!;
      }
    }
    postMessage({ url: data.url, width: WIDTH, height: HEIGHT, pixels: small }, { transfer: [small.buffer] });
  } catch {
    postMessage({ url: data.url });
  }
});
