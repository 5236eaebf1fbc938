// The demo's hero view at 32 samples and denoised against 512 samples as they are: structural similarity of the developed
// pictures to a reference of 1024 samples; and what flickers over 24 frames of a slow turn. Takes half an hour.
import { Darkroom, filmFrame, type LinearFrame, type Neighbours } from '@zippy/core/develop';
import { evaluate } from '@zippy/core/motion';
import { defaultRenderSettings } from '@zippy/core/trace';
import { demoScene } from './demoScene';
import { figure } from './figure';
import { kernelModule, LocalTracer } from './localTracer';

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

const HERO = { width: 480, height: 270 };
const TURN = { width: 160, height: 90 };
const FRAMES = 24;

export default async function denoise(): Promise<void> {
  const darkroom = await Darkroom.open(kernelModule);
  const { document } = demoScene();
  // A slow turn: a fifth of a degree a frame.
  for (const move of Object.values(document.shots['turn']!.moves)) if (move.kind === 'turntable') move.turns = 0.05;
  const tracer = await LocalTracer.open();
  const render = async (shot: string, frame: number, samples: number, seed: number, size: typeof HERO) => {
    const settings = { ...defaultRenderSettings(), ...size, samples, seed, layers: ['motion' as const] };
    const state = {
      ...evaluate(document, document.shots[shot]!, frame),
      next: evaluate(document, document.shots[shot]!, frame + 1),
    };
    const loaded = await tracer.load(state, settings);
    tracer.pass(loaded, samples);
    return filmFrame({ ...loaded, film: tracer.film(loaded) });
  };
  const develop = (frame: LinearFrame, amount: number, neighbours: Neighbours = { before: null, after: null }) =>
    luma(darkroom.develop(frame, { ...document.look, denoise: amount, specks: 1, bloomAmount: 0 }, { neighbours }));
  const hero = (samples: number, seed: number) => render('antenna', 60, samples, seed, HERO);
  const reference = develop(await hero(1024, 9), 0);
  const raw = similarity(develop(await hero(512, 1), 0), reference, HERO.width);
  const clean = similarity(develop(await hero(32, 1), 1), reference, HERO.width);
  figure('denoise.similarityOf512', raw);
  figure('denoise.similarityOf32', clean, { least: raw });
  // Second differences over frames: steady motion leaves little, noise that is new in each frame leaves much.
  const flicker = async (samples: number, amount: number, beside: boolean) => {
    const kept: LinearFrame[] = [];
    for (let k = 0; k < FRAMES; k++) kept.push(await render('turn', 1 + k, samples, k + 1, TURN));
    const frames = kept.map((frame, k) =>
      develop(frame, amount, beside ? { before: kept[k - 1] ?? null, after: kept[k + 1] ?? null } : undefined),
    );
    let sum = 0;
    for (let k = 1; k + 1 < FRAMES; k++)
      for (let p = 0; p < frames[0]!.length; p++)
        sum += (frames[k - 1]![p]! - 2 * frames[k]![p]! + frames[k + 1]![p]!) ** 2;
    return Math.sqrt(sum / ((FRAMES - 2) * frames[0]!.length));
  };
  const steady = await flicker(512, 0, false);
  figure('denoise.flickerOf512', steady);
  figure('denoise.flickerOf32alone', await flicker(32, 1, false));
  figure('denoise.flickerOf32', await flicker(32, 1, true), { most: steady });
}
