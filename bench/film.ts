// Frames of the demo film: how many a minute as a draft and final, which part of the time is the kernel's, and how long each stage after
// it takes.
import { readFileSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deflateSync, inflateSync } from 'node:zlib';
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { Darkroom, decodeFrame, type LinearFrame } from '@zippy/core/develop';
import { shotsInOrder } from '@zippy/core/document';
import { FILM_FORMATS, type FilmSettings } from '@zippy/core/reel';
import { defaultRenderSettings, type RenderSettings } from '@zippy/core/trace';
import { findEncoder } from '../server/src/films/films';
import { Tracer } from '../server/src/workers/tracer';
import { demoScene } from './demoScene';
import { figure } from './figure';
import { kernelModule } from './localTracer';

const DRAFT = { width: 480, height: 270, samples: 16 };
const FINAL = { width: 960, height: 540, samples: 64 };
/** What a part of a frame's time outside the kernel may take. */
const MOST_OF_STAGE = 0.05;

const folder = mkdtempSync(join(tmpdir(), 'zippy-bench-'));
const deflate = { pack: (bytes: Uint8Array) => deflateSync(bytes), unpack: (bytes: Uint8Array) => inflateSync(bytes) };

export default async function film(): Promise<void> {
  const tracer = new Tracer();
  const draft = await middles(tracer, DRAFT);
  figure('film.draftFramesPerMinute', 60 / draft.seconds);
  const final = await middles(tracer, FINAL);
  figure('film.finalFramesPerMinute', 60 / final.seconds);
  figure('film.finalSecondsPerFrame', final.seconds);
  figure('film.kernelShare', final.kernel / final.seconds, { least: 0.9 });
  figure('film.writeShare', (final.seconds - final.kernel) / final.seconds, { most: MOST_OF_STAGE });
  await tracer.close();
  const frames = final.paths.map((path) => decodeFrame(new Uint8Array(readFileSync(path)), deflate));
  const { pictures, seconds } = await develop(frames);
  figure('film.developSeconds', seconds);
  figure('film.developShare', seconds / (final.seconds + seconds), { most: MOST_OF_STAGE });
  figure('film.encodeSeconds', await encode(pictures));
}

/** One frame in the middle of each shot; the first of all is traced twice, as its trees are built once in a film. */
async function middles(tracer: Tracer, size: Partial<RenderSettings>) {
  const { document, files } = demoScene();
  const text = JSON.stringify(document);
  const settings = { ...defaultRenderSettings(), ...size };
  const shots = shotsInOrder(document);
  const paths: string[] = [];
  let [kernel, whole] = [0, 0];
  for (const [k, shot] of [shots[0]!, ...shots].entries()) {
    const frame = Math.ceil(shot.length / 2);
    const output = join(folder, `${settings.width}-${k}.exr`);
    const answer = await tracer.trace({
      document: text,
      shot: shot.id,
      frame,
      settings,
      identity: 'bench',
      output,
      files,
    });
    if (k === 0) continue;
    paths.push(output);
    kernel += answer.kernelMilliseconds! / 1000 / shots.length;
    whole += answer.milliseconds! / 1000 / shots.length;
  }
  return { kernel, seconds: whole, paths };
}

async function develop(frames: LinearFrame[]) {
  const { document } = demoScene();
  const darkroom = await Darkroom.open(kernelModule);
  darkroom.develop(frames[0]!, document.look);
  const start = performance.now();
  const pictures = frames.map((frame) => darkroom.develop(frame, document.look));
  return { pictures, seconds: (performance.now() - start) / 1000 / frames.length };
}

/** Seconds a frame takes in the encoder, each picture a quarter of a second long. */
async function encode(pictures: Uint8Array[]): Promise<number> {
  const { width, height } = FINAL;
  const settings: FilmSettings = {
    ...{
      width,
      height,
      rate: { numerator: 24, denominator: 1 },
      quality: 'good',
      colors: 256,
      open: false,
      sound: null,
    },
  };
  const { plan } = FILM_FORMATS.mp4;
  const asked = plan.by === 'encoder' ? plan.arguments(settings, join(folder, 'film.mp4')) : [];
  const start = performance.now();
  const encoder = spawn(findEncoder() ?? 'ffmpeg', asked, { stdio: ['pipe', 'ignore', 'ignore'] });
  const shown = pictures.flatMap((picture) => Array<Uint8Array>(6).fill(picture));
  for (const picture of shown) if (!encoder.stdin.write(picture)) await once(encoder.stdin, 'drain');
  encoder.stdin.end();
  await once(encoder, 'close');
  return (performance.now() - start) / 1000 / shown.length;
}
