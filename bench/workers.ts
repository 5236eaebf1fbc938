// Speed-up of two workers over one on a frame of the demo.
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { defaultRenderSettings } from '@zippy/core/trace';
import { Tracer } from '../server/src/workers/tracer';
import { demoScene } from './demoScene';
import { figure, median } from './figure';

export default async function workers(): Promise<void> {
  const { document, files } = demoScene();
  const settings = { ...defaultRenderSettings(), width: 320, height: 180, samples: 32 };
  const folder = mkdtempSync(join(tmpdir(), 'zippy-bench-'));
  const tracers = [new Tracer(1), new Tracer(2)];
  const times: number[][] = [[], []];
  for (let run = 0; run < 4; run++) {
    for (const [k, tracer] of tracers.entries()) {
      const answer = await tracer.trace({
        document: JSON.stringify(document),
        shot: 'antenna',
        frame: 60,
        settings,
        identity: 'bench',
        output: join(folder, `${k}-${run}.exr`),
        files,
      });
      if (run > 0) times[k]!.push(answer.kernelMilliseconds!);
    }
  }
  figure('workers.two', median(times[0]!.map((time, k) => time / times[1]![k]!)), { least: 1.7 });
  await Promise.all(tracers.map((tracer) => tracer.close()));
}
