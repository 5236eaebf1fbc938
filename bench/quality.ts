// Error of the demo's four shots after developing, against long references: samples spread evenly and where they are needed, with
// the filters of the look and without; and how much of the light of regions is lost.
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ssim } from 'ssim.js';
import { Darkroom, filmFrame, type LinearFrame } from '@zippy/core/develop';
import { evaluate } from '@zippy/core/motion';
import { allocateSamples, defaultRenderSettings, PILOT, sampleRounds, type LoadedFrame } from '@zippy/core/trace';
import { learnedFilter } from '../server/src/workers/learnedFilter';
import { demoScene } from './demoScene';
import { figure } from './figure';
import { kernelModule, LocalTracer } from './localTracer';

const SIZE = { width: 240, height: 136 };
const REFERENCE = Number(process.env['REFERENCE'] ?? 1024);
const FRAMES = { turn: 30, grille: 40, dial: 60, antenna: 60 } as const;
const SEEDS = Number(process.env['SEEDS'] ?? 2);
const COUNTS = (process.env['COUNTS'] ?? '8,16,32,64').split(',').map(Number);

export default async function quality(): Promise<void> {
  const darkroom = await Darkroom.open(kernelModule);
  const { document } = demoScene();
  const tracer = await LocalTracer.open();
  const learned = await learnedFilter(1);
  const kept = join(tmpdir(), `references-${REFERENCE}`);
  mkdirSync(kept, { recursive: true });
  const load = (shot: string, samples: number, seed: number): Promise<LoadedFrame> =>
    tracer.load(evaluate(document, document.shots[shot]!, FRAMES[shot as keyof typeof FRAMES]), {
      ...defaultRenderSettings(),
      ...SIZE,
      samples,
      seed,
    });
  const frameOf = (loaded: LoadedFrame) => filmFrame({ ...loaded, film: tracer.film(loaded) });
  const even = async (shot: string, samples: number, seed: number) => {
    const loaded = await load(shot, samples, seed);
    const began = performance.now();
    tracer.pass(loaded, samples);
    return { frame: frameOf(loaded), seconds: (performance.now() - began) / 1000 };
  };
  const spread = async (shot: string, samples: number, seed: number) => {
    const loaded = await load(shot, samples, seed);
    const began = performance.now();
    const [first, ...averages] = sampleRounds(samples);
    tracer.pass(loaded, first!);
    for (const average of averages) tracer.pass(loaded, allocateSamples(tracer.memory, loaded, average).each, true);
    return { frame: frameOf(loaded), seconds: (performance.now() - began) / 1000 };
  };
  const look = document.look;
  const develop = (frame: LinearFrame, denoise: number, specks: number) =>
    darkroom.develop(frame, { ...look, denoise, specks, bloomAmount: 0 });
  for (const shot of Object.keys(FRAMES)) {
    const file = join(kept, `${shot}.f32`);
    if (!existsSync(file)) writeFileSync(file, Buffer.from((await even(shot, REFERENCE, 99)).frame.beauty.buffer));
    const data = readFileSync(file);
    const beauty = new Float32Array(
      data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength) as ArrayBuffer,
    );
    const reference = { ...SIZE, beauty } as LinearFrame;
    const truth = develop(reference, 0, 0);
    const errors = new Map<string, number>();
    for (const samples of COUNTS) {
      for (const [way, render] of Object.entries({ even, spread })) {
        if (way === 'spread' && samples <= PILOT) continue;
        const sums = new Map<string, { rmse: number; like: number; lost: Float32Array[] }>();
        let seconds = 0;
        for (let seed = 1; seed <= SEEDS; seed++) {
          const made = await render(shot, samples, seed);
          seconds += made.seconds / SEEDS;
          for (const [name, denoise, specks] of [
            ['raw', 0, 0],
            ['filter', 0.8, 0],
            ['both', 0.8, 1],
            ['learned', 0.8, 1],
          ] as const) {
            if (name === 'learned') made.frame.learned = await learned?.filter(made.frame, made.frame.guides!);
            const picture = develop(made.frame, denoise, specks);
            const clean = darkroom.clean(made.frame, { denoise, specks });
            const sum = sums.get(name) ?? { rmse: 0, like: 0, lost: [] };
            sum.rmse += rmse(picture, truth) / SEEDS;
            sum.like += likeness(picture, truth) / SEEDS;
            sum.lost.push(regionMeans(clean.beauty));
            sums.set(name, sum);
          }
        }
        const told = [...sums].map(([name, { rmse, like, lost }]) => {
          const { worst, mean } = lostLight(lost, regionMeans(beauty));
          return `${name} rmse ${rmse.toFixed(2)} ssim ${like.toFixed(3)} light ${mean.toFixed(2)}% worst ${worst.toFixed(1)}%`;
        });
        for (const [name, { rmse }] of sums) errors.set(`${way} ${samples} ${name}`, rmse);
        console.log(`quality: ${shot} ${way} ${samples} (${seconds.toFixed(1)} s): ${told.join(' | ')}`);
      }
    }
    // Errors fall as the root of the samples.
    const [evenly, needed] = [errors.get('even 64 both'), errors.get('spread 16 learned')];
    if (evenly && needed) figure(`quality.${shot}.timeToErrorOf64`, 0.25 * (needed / evenly) ** 2, { most: 0.4 });
  }
}

const rmse = (a: Uint8Array, b: Uint8Array): number => {
  let sum = 0;
  for (let k = 0; k < a.length; k++) if (k % 4 < 3) sum += (a[k]! - b[k]!) ** 2;
  return Math.sqrt(sum / ((a.length / 4) * 3));
};
const likeness = (a: Uint8Array, b: Uint8Array): number =>
  ssim({ data: new Uint8ClampedArray(a), ...SIZE }, { data: new Uint8ClampedArray(b), ...SIZE }, { ssim: 'original' })
    .mssim;

/** Mean luminance of regions of 34 × 30 pixels, 8 across and 4 down. */
function regionMeans(beauty: Float32Array): Float32Array {
  const out = new Float32Array(32);
  for (let y = 0; y < SIZE.height; y++)
    for (let x = 0; x < SIZE.width; x++) {
      const at = (y * SIZE.width + x) * 4;
      out[Math.floor((y * 4) / SIZE.height) * 8 + Math.floor((x * 8) / SIZE.width)]! +=
        0.2126 * beauty[at]! + 0.7152 * beauty[at + 1]! + 0.0722 * beauty[at + 2]!;
    }
  return out;
}

/** Hundredths of the light of regions that are lost or won, over several seeds. */
function lostLight(runs: Float32Array[], truth: Float32Array): { worst: number; mean: number } {
  const shares = Array.from(truth, (v, k) => (runs.reduce((sum, run) => sum + run[k]!, 0) / runs.length / v - 1) * 100);
  const total = (values: Float32Array) => values.reduce((a, b) => a + b);
  const mean = (runs.reduce((sum, run) => sum + total(run), 0) / runs.length / total(truth) - 1) * 100;
  return { worst: shares.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a)), mean };
}
