// Renders and encodes the demo's finished film on a running server that has the demo project:
// `film.ts ADDRESS [WIDTH] [SAMPLES] [SECONDS]`, the last the most a frame may take, 0 for no limit. It takes an hour or more. A take
// that is there already is used again, so it can be stopped and started.
import { writeFileSync } from 'node:fs';
import { setTimeout as pause } from 'node:timers/promises';
import { newClip, shotsInOrder, type Clip, type ProjectDocument } from '@zippy/core/document';
import { defaultRenderSettings } from '@zippy/core/trace';

const [address = 'http://127.0.0.1:4870', width = '640', samples = '24', seconds = '0'] = process.argv.slice(2);
const output = new URL('../made/ferrow-r2-film.mp4', import.meta.url);

async function ask<T>(path: string, body?: unknown): Promise<T> {
  const response = await fetch(`${address}/api${path}`, {
    ...(body === undefined ? {} : { method: 'POST', body: JSON.stringify(body) }),
    headers: { 'Content-Type': 'application/json' },
  });
  if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`);
  return (await response.json()) as T;
}

interface Work {
  id: string;
  shot: string;
  state: string;
  failure: string;
}

async function finished(path: () => Promise<Work>, wanted: string): Promise<Work> {
  for (;;) {
    const work = await path();
    if (work.state === wanted) return work;
    if (work.failure) throw new Error(work.failure);
    await pause(2000);
  }
}

const settings = {
  ...defaultRenderSettings(),
  width: Number(width),
  height: Math.round((Number(width) * 9) / 16),
  samples: Number(samples),
  secondsPerFrame: Number(seconds),
  layers: ['motion', 'lights'],
};
const project = '/projects/demo';
const { document } = await ask<{ document: ProjectDocument }>(project);
const shots = shotsInOrder(document);
let takes = await ask<Work[]>(`${project}/takes`);
for (const { id, length } of shots) {
  if (takes.some(({ shot }) => shot === id)) continue;
  await ask(`${project}/takes`, { shot: id, first: 1, last: length, settings });
}
takes = await ask<Work[]>(`${project}/takes`);
const clips: Record<string, Clip> = {};
for (const [order, { id, length }] of shots.entries()) {
  const take = takes.find(({ shot }) => shot === id)!.id;
  await finished(() => ask<Work>(`/takes/${take}`), 'done');
  console.log('rendered', id);
  const clip = newClip({ kind: 'take', take }, { order, to: length });
  clips[clip.id] = clip;
}
const { revision } = await ask<{ revision: number }>(project);
const patches = [{ op: 'replace', path: ['reel', 'clips'], value: clips }];
await ask(`${project}/edits`, { revision, patches, window: 'film' });
const { id } = await ask<Work>(`${project}/films`, { format: 'mp4', quality: 'good' });
await finished(async () => (await ask<Work[]>(`${project}/films`)).find((film) => film.id === id)!, 'done');
const file = await fetch(`${address}/api/films/${id}/file`);
writeFileSync(output, new Uint8Array(await file.arrayBuffer()));
