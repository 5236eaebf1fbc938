// Scopes of a developed picture, in one thread as the page's worker has it.
import { clipping, histogram, parade, vectorscope, waveform, type ShownPicture } from '@zippy/core/develop';
import { figure, median } from './figure';

const [WIDTH, HEIGHT] = [960, 540];
const ACROSS = 256;
const RUNS = 30;

/** Smooth tones with noise, as a frame has them. */
function picture(): ShownPicture {
  const pixels = new Uint8ClampedArray(WIDTH * HEIGHT * 4);
  let seed = 1;
  const random = () => (seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0) / 2 ** 32;
  for (let k = 0; k < WIDTH * HEIGHT; k++) {
    const [x, y] = [(k % WIDTH) / WIDTH, Math.floor(k / WIDTH) / HEIGHT];
    const grain = random() * 20;
    pixels.set([200 * x + grain, 160 * y + grain, 90 * (1 - x) + grain, 255], k * 4);
  }
  return { width: WIDTH, height: HEIGHT, pixels };
}

export default async function scopes(): Promise<void> {
  const shown = picture();
  const kinds = {
    levels: () => histogram(shown),
    luma: () => waveform(shown, ACROSS),
    rgb: () => parade(shown, Math.floor(ACROSS / 3)),
    colours: () => vectorscope(shown),
  };
  for (const [name, measure] of Object.entries(kinds)) {
    const times: number[] = [];
    for (let k = 0; k < RUNS + 5; k++) {
      const start = performance.now();
      measure();
      clipping(shown);
      if (k >= 5) times.push(performance.now() - start);
    }
    figure(`scopes.${name}Milliseconds`, median(times), { most: 12 });
  }
}
