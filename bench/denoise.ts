// The demo's hero view at 32 samples and denoised against 512 samples as they are: structural similarity of the developed
// pictures to a reference of 1024 samples; and what flickers over frames of a slow turn.
import { Darkroom, filmFrame } from '@zippy/core/develop';
import { evaluate } from '@zippy/core/motion';
import { defaultRenderSettings } from '@zippy/core/trace';
import { demoScene } from './demoScene';
import { figure } from './figure';
import { kernelModule, LocalTracer } from './localTracer';

const SIZE = { width: 160, height: 90 };

/** Luma planes of a developed picture. */
const luma = (pixels: Uint8Array): Float32Array =>
  Float32Array.from(
    { length: pixels.length / 4 },
    (_, k) => (0.2126 * pixels[k * 4]! + 0.7152 * pixels[k * 4 + 1]! + 0.0722 * pixels[k * 4 + 2]!) / 255,
  );

/** Mean structural similarity over windows of 8 × 8 (Wang, Bovik, Sheikh and Simoncelli, Image Quality Assessment, 2004). */
function similarity(a: Float32Array, b: Float32Array, width: number): number {
  const height = a.length / width;
  let sum = 0;
  let count = 0;
  for (let y = 0; y + 8 <= height; y += 4) {
    for (let x = 0; x + 8 <= width; x += 4) {
      let [ma, mb, aa, bb, ab] = [0, 0, 0, 0, 0];
      for (let j = 0; j < 8; j++) {
        for (let i = 0; i < 8; i++) {
          const [va, vb] = [a[(y + j) * width + x + i]!, b[(y + j) * width + x + i]!];
          ma += va / 64;
          mb += vb / 64;
          aa += (va * va) / 64;
          bb += (vb * vb) / 64;
          ab += (va * vb) / 64;
        }
      }
      const [c1, c2] = [0.01 ** 2, 0.03 ** 2];
      sum +=
        ((2 * ma * mb + c1) * (2 * (ab - ma * mb) + c2)) /
        ((ma * ma + mb * mb + c1) * (aa - ma * ma + bb - mb * mb + c2));
      count++;
    }
  }
  return sum / count;
}

export default async function denoise(): Promise<void> {
  const darkroom = await Darkroom.open(kernelModule);
  const { document } = demoScene();
  const tracer = await LocalTracer.open();
  const picture = async (shot: string, frame: number, samples: number, denoise: number, seed: number) => {
    const settings = { ...defaultRenderSettings(), ...SIZE, samples, seed };
    const loaded = await tracer.load(evaluate(document, document.shots[shot]!, frame), settings);
    tracer.pass(loaded, 0, samples);
    const kept = { ...loaded, film: tracer.film(loaded) };
    return luma(darkroom.develop(filmFrame(kept), { ...document.look, denoise, specks: 1, bloomAmount: 0 }));
  };
  const reference = await picture('antenna', 60, 1024, 0, 9);
  const raw = similarity(await picture('antenna', 60, 512, 0, 1), reference, SIZE.width);
  const clean = similarity(await picture('antenna', 60, 32, 1, 1), reference, SIZE.width);
  figure('denoise.similarityOf512', raw);
  figure('denoise.similarityOf32', clean, { least: raw });
  // Second differences over frames: steady motion leaves little, noise that is new in each frame leaves much.
  const flicker = async (samples: number, amount: number) => {
    const frames: Float32Array[] = [];
    for (let k = 0; k < 5; k++) frames.push(await picture('turn', 1 + k * 0.05, samples, amount, k + 1));
    let sum = 0;
    for (let k = 1; k < 4; k++)
      for (let p = 0; p < frames[0]!.length; p++)
        sum += (frames[k - 1]![p]! - 2 * frames[k]![p]! + frames[k + 1]![p]!) ** 2;
    return Math.sqrt(sum / (3 * frames[0]!.length));
  };
  const [steady, filtered] = [await flicker(512, 0), await flicker(32, 1)];
  figure('denoise.flickerOf512', steady);
  figure('denoise.flickerOf32', filtered, { most: steady });
}
