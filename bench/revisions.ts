// Two builds of the kernel against each other, interleaved on one thread: rays and whole paths a second. The other build is the file
// named by KERNEL; without it there is nothing to compare and nothing is printed. A build against itself comes out within 3%.
import { readFileSync } from 'node:fs';
import { evaluate } from '@zippy/core/motion';
import { defaultRenderSettings } from '@zippy/core/trace';
import { demoScene } from './demoScene';
import { fastestOver, figure } from './figure';
import { kernelModule, LocalTracer } from './localTracer';

const RUNS = 21;
const SIZE = { width: 240, height: 136, samples: 8 };

export default async function revisions(): Promise<void> {
  const other = process.env['KERNEL'];
  if (!other) return;
  const builds = [await WebAssembly.compile(readFileSync(other)), kernelModule];
  const { document } = demoScene();
  for (const shot of Object.values(document.shots)) {
    const state = evaluate(document, shot, shot.length / 2);
    const times: number[][] = [[], []];
    const films: Float32Array[] = [];
    const tracers = [];
    for (const build of builds) tracers.push(await LocalTracer.open(undefined, build));
    for (let run = 0; run < RUNS; run++) {
      for (const [k, tracer] of tracers.entries()) {
        const frame = await tracer.load(state, { ...defaultRenderSettings(), ...SIZE, seed: run });
        const start = process.cpuUsage();
        tracer.pass(frame, SIZE.samples);
        times[k]!.push(process.cpuUsage(start).user);
        if (run === 0) films[k] = tracer.film(frame);
      }
    }
    const unlike = films[0]!.reduce((sum, value, at) => sum + (Object.is(value, films[1]![at]!) ? 0 : 1), 0);
    console.log(`revisions: "${shot.name}", ${unlike} of ${films[0]!.length} numbers of the film differ`);
    figure(`revisions.${shot.id}`, fastestOver(times[0]!, times[1]!), { least: 0.97 });
  }
}
