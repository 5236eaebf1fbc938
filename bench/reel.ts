// Films made of the reel beside the encoder alone on the same pictures, and how long laying a film and drawing its titles takes.
import { spawn, spawnSync } from 'node:child_process';
import { appendFileSync, createReadStream, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { makeEdit, newAsset, newClip, newDocument, newTitle, type Clip, type Footage } from '@zippy/core/document';
import { deliverySchema, FILM_FORMATS, filmPicture, layFilm } from '@zippy/core/reel';
import { openServices, type Services } from '../server/src/services';
import { fastestOver, figure, median } from './figure';

const [WIDTH, HEIGHT, FRAMES] = [960, 540, 240];
const READY = 4;
/** Frames of a film for which the beginning of its thread counts little. */
const LONG = 960;
const RUNS = 3;

/** Footage of a picture that moves all over. */
async function filmed(services: Services, folder: string): Promise<Footage> {
  const path = join(folder, 'filmed.mp4');
  const source = `testsrc2=s=${WIDTH}x${HEIGHT}:r=24:d=${FRAMES / 24}`;
  spawnSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', source, '-crf', '8', '-pix_fmt', 'yuv420p', path]);
  const { hash } = await services.blobs.store(createReadStream(path));
  let job = services.footages.start([{ name: 'filmed.mp4', hash }], 24);
  while (job.state === 'reading') {
    await new Promise((resolve) => setTimeout(resolve, 100));
    job = services.footages.show(job.id);
  }
  return job.footage!;
}

/** @param over how the clip runs */
async function projectOf(services: Services, footage: Footage, over: Partial<Clip>): Promise<string> {
  const { id, revision, document } = await services.projects.create('Bench').then(({ id: made }) => services.projects.open(made)); // prettier-ignore
  const asset = newAsset({ id: 'f', name: 'Filmed', kind: 'footage', hash: footage.frames[0]!, footage });
  const { edit } = makeEdit(document, 'reel', (draft) => {
    draft.assets['f'] = asset;
    draft.reel.clips['c'] = newClip({ kind: 'footage', asset: 'f' }, { id: 'c', ...over });
  });
  await services.projects.edit(id, revision, edit!.patches, 'bench');
  return id;
}

/** Seconds that the server takes to a finished file. */
async function film(services: Services, project: string): Promise<number> {
  const start = performance.now();
  const { id } = await services.films.create(project, deliverySchema.parse({ format: 'mp4' }));
  for (;;) {
    const made = (await services.films.list(project)).find((each) => each.id === id)!;
    if (made.state === 'done') break;
    if (made.state !== 'encoding') throw new Error(made.failure);
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
  return (performance.now() - start) / 1000;
}

/** Seconds that the encoder takes for the same pictures, which lie ready. */
async function encode(raw: string, folder: string): Promise<number> {
  const { plan } = FILM_FORMATS.mp4;
  if (plan.by !== 'encoder') return 0;
  const rate = { numerator: 24, denominator: 1 };
  const settings = { width: WIDTH, height: HEIGHT, rate, quality: 'good' as const, colors: 256, open: false, sound: null }; // prettier-ignore
  const start = performance.now();
  const child = spawn('ffmpeg', plan.arguments(settings, join(folder, 'alone.mp4')), { stdio: ['pipe', 'ignore', 'inherit'] }); // prettier-ignore
  const ended = once(child, 'close');
  await pipeline(createReadStream(raw, { highWaterMark: 4 << 20 }), child.stdin);
  await ended;
  return (performance.now() - start) / 1000;
}

/** Milliseconds of laying a film of many clips and titles, and of what all of its frames are made of. */
function laying(): [number, number] {
  const document = structuredClone(newDocument('Long'));
  for (let k = 0; k < 200; k++) {
    const clip = newClip({ kind: 'plain' }, { id: `c${k}`, order: k, to: 48, change: k % 3 ? 'fade' : 'cut' });
    document.reel.clips[clip.id] = clip;
    document.reel.titles[`t${k}`] = newTitle({ id: `t${k}`, start: 1 + 40 * k });
  }
  const laid: number[] = [];
  const asked: number[] = [];
  for (let run = 0; run < 9; run++) {
    const start = performance.now();
    const made = layFilm(document, []);
    laid.push(performance.now() - start);
    const begun = performance.now();
    for (let frame = 1; frame <= 400; frame++) filmPicture(made, frame);
    asked.push(performance.now() - begun);
  }
  return [median(laid), median(asked)];
}

export default async function reel(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'zippy-bench-'));
  const services = await openServices(join(folder, 'data'));
  try {
    const footage = await filmed(services, folder);
    const project = await projectOf(services, footage, { to: FRAMES });
    const raw = join(folder, 'raw.rgba');
    spawnSync('ffmpeg', ['-v', 'error', '-y', '-i', join(folder, 'filmed.mp4'), '-f', 'rawvideo', '-pix_fmt', 'rgba', raw]); // prettier-ignore
    // Pictures that need no making: four of them, again and again.
    const ready = await projectOf(services, footage, { to: READY, loop: LONG / READY });
    const again = join(folder, 'again.rgba');
    const few = readFileSync(raw).subarray(0, READY * 4 * WIDTH * HEIGHT);
    for (let k = 0; k < LONG / READY; k++) appendFileSync(again, few);
    const [whole, alone, handed, readyAlone]: number[][] = [[], [], [], []];
    for (let run = 0; run < RUNS; run++) {
      alone!.push(await encode(raw, folder));
      whole!.push(await film(services, project));
      readyAlone!.push(await encode(again, folder));
      handed!.push(await film(services, ready));
    }
    figure('reel.encodingOverEncoder', fastestOver(handed!, readyAlone!), { most: 1.1 });
    // With the reading of 240 PNG pictures, which takes the processor from the encoder.
    figure('reel.filmOverEncoder', fastestOver(whole!, alone!));
    const [laid, asked] = laying();
    figure('reel.layMilliseconds', laid, { most: 10 });
    figure('reel.framesMilliseconds', asked, { most: 20 });
  } finally {
    await services.close();
    rmSync(folder, { recursive: true, force: true });
  }
}
