import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, describe, expect, it } from 'vitest';
import { exrEnd } from '@zippy/core/develop';
import { defaultRecipe, makeEdit, newClip, newId, type ProjectDocument } from '@zippy/core/document';
import { defaultRenderSettings } from '@zippy/core/trace';
import { seeded } from '../../core/intake/testing/broken';
import { stlBinary } from '../../core/intake/testing/samples';

/** How often the server is killed; every release is tried with 100. */
const KILLS = Number(process.env['KILLS'] ?? 4);
const data = mkdtempSync(join(tmpdir(), 'zippy-killed-'));
afterAll(() => rmSync(data, { recursive: true, force: true }));
const main = fileURLToPath(new URL('main.ts', import.meta.url));
const root = fileURLToPath(new URL('../..', import.meta.url));

let server: ChildProcess;
let address = '';

async function begin(): Promise<void> {
  const child = spawn(process.execPath, ['--import', 'tsx', main], {
    cwd: root,
    env: { ...process.env, TSX_TSCONFIG_PATH: 'tsconfig.base.json', ZIPPY_PORT: '0', ZIPPY_DATA: data },
  });
  server = child;
  let said = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk: Buffer) => (said += chunk.toString()));
  for (;;) {
    const at = /http:\/\/127\.0\.0\.1:\d+/.exec(said);
    if (at) return void (address = at[0]);
    if (child.exitCode !== null) throw new Error(said);
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}

async function call<T>(method: string, path: string, body?: unknown): Promise<T> {
  const response = await fetch(address + path, {
    method,
    ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
  });
  const answer = (await response.json()) as T;
  if (!response.ok) throw new Refused(`${response.status} ${JSON.stringify(answer)}`);
  return answer;
}
/** The server answered, but not with what was asked for: unlike a lost connection, that is a fault here. */
class Refused extends Error {}

interface Take {
  id: string;
  number: number;
  state: string;
  first: number;
  last: number;
  done: number[];
}
interface Film {
  id: string;
  state: string;
  bytes: number;
}
interface Opened {
  revision: number;
  document: ProjectDocument;
}

/** What the server has said yes to. */
const told = {
  project: '',
  revision: 0,
  names: [] as string[],
  blobs: [] as string[],
  takes: new Set<string>(),
  films: new Set<string>(),
};

/** Edits one after another, until the server is gone. */
async function editOn(): Promise<void> {
  for (;;) {
    const { revision, document } = await call<Opened>('GET', `/api/projects/${told.project}`);
    const name = newId();
    const { edit } = makeEdit(document, 'rename', (draft) => void (draft.name = name));
    told.names.push(name);
    const body = { revision, patches: edit!.patches, window: 'w' };
    const answer = await call<{ revision: number }>('POST', `/api/projects/${told.project}/edits`, body).catch(
      overtaken,
    );
    if (!answer) continue;
    told.revision = answer.revision;
    told.names = [name];
  }
}

/** Where the other window was quicker, an edit is made anew. */
function overtaken(error: unknown): null {
  if (error instanceof Refused && error.message.startsWith('409')) return null;
  throw error;
}

async function store(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
  const response = await fetch(`${address}/api/blobs`, { method: 'POST', body: bytes });
  const { hash } = (await response.json()) as { hash: string };
  told.blobs.push(hash);
  return hash;
}

async function importOn(random: () => number): Promise<void> {
  for (;;) {
    await store(Uint8Array.from({ length: 200_000 }, () => random() * 256));
    const hash = await store(stlBinary());
    const { id } = await call<{ id: string }>('POST', '/api/imports', { files: [{ name: 'crate.stl', hash }] });
    for (;;) {
      const { state } = await call<{ state: string }>('GET', `/api/imports/${id}`);
      if (state === 'read') break;
      expect(state).toBe('reading');
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    const model = await call<{ hash: string }>('POST', `/api/imports/${id}/accept`, { recipe: defaultRecipe() });
    told.blobs.push(model.hash);
  }
}

async function renderOn(random: () => number): Promise<void> {
  const { document } = await call<Opened>('GET', `/api/projects/${told.project}`);
  const [shot] = Object.keys(document.shots);
  for (;;) {
    const settings = {
      ...defaultRenderSettings(),
      width: 64,
      height: 36,
      samples: 1,
      depth: 1,
      seed: Math.floor(random() * 1000),
    };
    const take = await call<Take>('POST', `/api/projects/${told.project}/takes`, { shot, first: 1, last: 3, settings });
    told.takes.add(take.id);
    await new Promise((resolve) => setTimeout(resolve, 1500));
  }
}

async function filmOn(): Promise<void> {
  for (;;) {
    const takes = await call<Take[]>('GET', `/api/projects/${told.project}/takes`);
    const done = takes.find((take) => take.state === 'done');
    if (done) {
      const { revision, document } = await call<Opened>('GET', `/api/projects/${told.project}`);
      const { edit } = makeEdit(document, 'reel', (draft) => {
        draft.reel.clips = {
          only: newClip({ kind: 'take', take: done.id }, { id: 'only', to: 3 }),
        };
      });
      if (edit) {
        const body = { revision, patches: edit.patches, window: 'f' };
        await call('POST', `/api/projects/${told.project}/edits`, body).catch(overtaken);
      }
      const film = await call<Film>('POST', `/api/projects/${told.project}/films`, { format: 'png-zip' }).catch(
        (error: unknown) => {
          // Before the edit that puts the take on the reel got through.
          if (error instanceof Refused && error.message.includes('reel-empty')) return null;
          throw error;
        },
      );
      if (film) told.films.add(film.id);
    }
    await new Promise((resolve) => setTimeout(resolve, 300));
  }
}

/** Every file below a folder. */
const filesIn = (folder: string): string[] =>
  readdirSync(folder, { recursive: true, withFileTypes: true }).flatMap((entry) =>
    entry.isFile() ? [join(entry.parentPath, entry.name)] : [],
  );

async function expectAllThere(): Promise<void> {
  const { revision, document } = await call<Opened>('GET', `/api/projects/${told.project}`);
  expect(revision).toBeGreaterThanOrEqual(told.revision);
  // The last that was acknowledged, or one that was sent after it.
  expect(told.names).toContain(document.name);
  told.names = [document.name];
  for (const hash of told.blobs.slice(-20)) {
    const response = await fetch(`${address}/api/blobs/${hash}`, { method: 'HEAD' });
    expect(response.status, hash).toBe(200);
  }
  const takes = await call<Take[]>('GET', `/api/projects/${told.project}/takes`);
  for (const id of told.takes) expect(takes.map((take) => take.id)).toContain(id);
  expect(new Set(takes.map((take) => take.number)).size).toBe(takes.length);
  const films = await call<Film[]>('GET', `/api/projects/${told.project}/films`);
  for (const id of told.films) expect(films.map((film) => film.id)).toContain(id);
  for (const film of films) {
    expect(['stopped', 'done']).toContain(film.state);
    if (film.state !== 'done') continue;
    const bytes = await (await fetch(`${address}/api/films/${film.id}/file`)).arrayBuffer();
    expect(bytes.byteLength).toBe(film.bytes);
  }
}

/** Frames that stand in the folder, each of them whole. */
async function wholeFrames(): Promise<string[]> {
  const frames = filesIn(data).filter((path) => path.endsWith('.exr') && path.includes('frames'));
  for (const path of frames) {
    const bytes = new Uint8Array(readFileSync(path));
    const end = await exrEnd((from, length) => Promise.resolve(bytes.subarray(from, from + length)));
    expect(end, path).toBe(bytes.length);
  }
  return frames;
}

describe('a server that is killed at any moment', () => {
  it(
    `${KILLS} times has all that it acknowledged, no frame twice, and leaves nothing over`,
    async () => {
      const random = seeded(11);
      await begin();
      told.project = (await call<{ id: string }>('POST', '/api/projects', { name: 'Killed' })).id;
      told.names = ['Killed'];
      // One take is there from the beginning, so that films can be made at any moment.
      const first = renderOn(random).catch(() => undefined);
      const isDone = async () =>
        (await call<Take[]>('GET', `/api/projects/${told.project}/takes`)).some(({ state }) => state === 'done');
      while (!(await isDone())) await new Promise((resolve) => setTimeout(resolve, 100));
      server.kill('SIGKILL');
      await once(server, 'exit');
      await first;
      await begin();
      for (let kill = 0; kill < KILLS; kill++) {
        const faults: unknown[] = [];
        const work = [editOn(), importOn(random), renderOn(random), filmOn()].map((each) =>
          each.catch((error: unknown) => {
            // The connection that broke with the server is what is tried here.
            if (!(error instanceof TypeError || error instanceof SyntaxError)) faults.push(error);
          }),
        );
        await new Promise((resolve) => setTimeout(resolve, 100 + random() ** 2 * 8000));
        server.kill('SIGKILL');
        await once(server, 'exit');
        await Promise.all(work);
        expect(faults).toEqual([]);
        await begin();
        expect(filesIn(data).filter((path) => /\.part|arriving/.test(path))).toEqual([]);
        await expectAllThere();
        await wholeFrames();
      }
      for (;;) {
        const takes = await call<Take[]>('GET', `/api/projects/${told.project}/takes`);
        if (takes.every((take) => take.state === 'done')) {
          for (const take of takes) expect(take.done).toEqual([1, 2, 3]);
          break;
        }
        expect(takes.filter((take) => take.state === 'failed')).toEqual([]);
        await new Promise((resolve) => setTimeout(resolve, 200));
      }
      // Nothing of this would mean much had the server been killed before it did anything.
      for (const kept of [told.blobs.length, told.takes.size, told.films.size, told.revision])
        expect(kept).toBeGreaterThan(1);
      const frames = await wholeFrames();
      expect(new Set(frames.map((path) => path.split('/').at(-1))).size).toBe(frames.length);
      server.kill('SIGTERM');
      expect((await once(server, 'exit'))[0]).toBe(0);
    },
    60_000 + KILLS * 30_000,
  );
});
