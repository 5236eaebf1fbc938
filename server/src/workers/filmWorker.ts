// Makes the pictures of a film and hands them to the encoder, or packs them.
import { rename, rm } from 'node:fs/promises';
import { parentPort, workerData } from 'node:worker_threads';
import { deliveredSize, filmFormat, layFilm } from '@zippy/core/reel';
import { encodeFilm, packPictures, writePoster, writeViewer, type Delivering } from '../films/deliver';
import { FilmFrames } from '../films/filmFrames';
import type { FilmJob } from '../films/filmJob';

const job = workerData as FilmJob;
const format = filmFormat(job.delivery.format);
const part = `${job.output}.part.${format.extension}`;
let stopped = false;
let stopEncoder = () => {};

parentPort!.on('message', () => {
  stopped = true;
  stopEncoder();
});

async function deliver(): Promise<void> {
  const size = deliveredSize(job.delivery, layFilm(job.document, job.takes).size);
  const open = format.alpha && job.delivery.open;
  const delivering: Delivering = {
    job: { ...job, delivery: { ...job.delivery, open } },
    frames: await FilmFrames.of(job, size, format.bits, open),
    part,
    stopped: () => stopped,
    onStop: (end) => (stopEncoder = end),
    tell: (encoded) => parentPort!.postMessage({ encoded }),
  };
  const { plan } = format;
  switch (plan.by) {
    case 'encoder':
      return encodeFilm(delivering, plan.arguments);
    case 'pictures':
      return packPictures(delivering, plan.as);
    case 'poster':
      return writePoster(delivering, plan.as);
    case 'viewer':
      return writeViewer(delivering);
  }
}

try {
  await deliver();
  if (!stopped) await rename(part, job.output);
  parentPort!.postMessage(stopped ? { stopped } : { done: true });
} catch (error) {
  const { message, code } = error as NodeJS.ErrnoException;
  parentPort!.postMessage({
    failure: code === 'ENOSPC' ? 'The disk is full. Free some space and export again.' : message,
  });
} finally {
  await rm(part, { force: true });
  parentPort!.close();
}
