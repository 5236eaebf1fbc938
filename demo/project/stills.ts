// Renders single frames of the demo film for looking at: `stills.ts OUTPUT_FOLDER SAMPLES WIDTH SHOT:FRAME …`.
import { existsSync, readFileSync } from 'node:fs';
import sharp from 'sharp';
import { openDocument } from '@zippy/core/document';
import { Darkroom, decodeFrame } from '@zippy/core/develop';
import { defaultRenderSettings } from '@zippy/core/trace';
import { compileKernel } from '../../server/src/workers/compileKernel';
import { Tracer } from '../../server/src/workers/tracer';

const [folder, samples, width, ...frames] = process.argv.slice(2) as [string, string, string, ...string[]];
const path = (name: string) => new URL(`../made/${name}`, import.meta.url).pathname;
const document = openDocument(JSON.parse(readFileSync(path('project.json'), 'utf8')));
const files = Object.fromEntries(
  Object.values(document.assets).map((asset) =>
    asset.kind === 'model' ? [asset.hash, path('ferrow-r2.meshes.glb')] : [asset.id, path(asset.sourceName)],
  ),
);
const tracer = new Tracer();
const darkroom = await Darkroom.open(await compileKernel());
for (const each of frames) {
  const [shot, frame] = each.split(':') as [string, string];
  const settings = {
    ...defaultRenderSettings(),
    width: Number(width),
    height: Math.round((Number(width) * 9) / 16),
    samples: Number(samples),
  };
  const output = `${folder}/${shot}-${frame}.exr`;
  if (existsSync(output)) continue;
  const asked = { document: JSON.stringify(document), shot, frame: Number(frame), settings };
  console.log(each, await tracer.trace({ ...asked, identity: 'still', output, files }));
  const linear = decodeFrame(new Uint8Array(readFileSync(output)));
  await sharp(darkroom.develop(linear, document.look), {
    raw: { width: linear.width, height: linear.height, channels: 4 },
  })
    .removeAlpha()
    .png()
    .toFile(output.replace('.exr', '.png'));
}
await tracer.close();
