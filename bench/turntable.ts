// The demo turntable at 640 × 360, 32 samples: seconds per frame, and the part of it spent in the kernel.
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { exposeFrame } from '@zippy/core/motion';
import { defaultRenderSettings } from '@zippy/core/trace';
import { Tracer } from '../server/src/workers/tracer';
import { demoScene } from './demoScene';
import { figure } from './figure';

export default async function turntable(): Promise<void> {
  const { document, files } = demoScene();
  const settings = { ...defaultRenderSettings(), width: 640, height: 360, samples: 32 };
  const folder = mkdtempSync(join(tmpdir(), 'zippy-bench-'));
  const tracer = new Tracer();
  let kernel = 0;
  let whole = 0;
  const frames = [1, 1, 25, 49, 73];
  for (const [k, frame] of frames.entries()) {
    const state = exposeFrame(document, document.shots['turn']!, frame);
    const answer = await tracer.trace({ state, settings, identity: 'bench', output: join(folder, `${k}.exr`), files });
    // The first frame builds the trees of all meshes; a film does that once.
    if (k === 0) continue;
    kernel += answer.kernelMilliseconds!;
    whole += answer.milliseconds!;
  }
  figure('turntable.secondsPerFrame', whole / 1000 / (frames.length - 1));
  figure('turntable.kernelShare', kernel / whole, { least: 0.9 });
  await tracer.close();
}
