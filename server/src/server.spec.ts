import { once } from 'node:events';
import { mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeEdit, newMove, type ProjectDocument } from '@zippy/core/document';
import { decodeFrame } from '@zippy/core/develop';
import { readSurroundings } from '@zippy/core/intake';
import { createApp } from './http/app';
import { openServices, type Services } from './services';

let folder: string;
let services: Services;
let server: Server;
let address: string;

async function start(): Promise<void> {
  services = await openServices(folder, new URL('../../demo/made', import.meta.url).pathname);
  server = createApp(services, null).listen(0, '127.0.0.1');
  await once(server, 'listening');
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
}

async function stop(): Promise<void> {
  server.close();
  server.closeAllConnections();
  await services.close();
}

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'zippy-server-'));
  await start();
});
afterAll(async () => {
  await stop();
  rmSync(folder, { recursive: true, force: true });
});

async function call(method: string, path: string, body?: unknown): Promise<{ status: number; body: never }> {
  const response = await fetch(address + path, {
    method,
    ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
  });
  return { status: response.status, body: (await response.json().catch(() => null)) as never };
}

interface Opened {
  id: string;
  revision: number;
  document: ProjectDocument;
}

const create = async (name = 'Test'): Promise<Opened> => (await call('POST', '/api/projects', { name })).body as Opened;

describe('projects', () => {
  it('save edits one after another, and answer an edit on an older state with the newer one', async () => {
    const { id, document } = await create();
    const { edit } = makeEdit(document, 'exposure', (draft) => void (draft.look.exposure = 2));
    const send = (revision: number) =>
      call('POST', `/api/projects/${id}/edits`, { revision, patches: edit!.patches, window: 'w' });
    expect((await send(1)).body).toEqual({ revision: 2 });
    const late = await send(1);
    expect(late.status).toBe(409);
    const { detail, newer } = late.body as { detail: string; newer: Opened };
    expect(detail).toMatch(/Another window/);
    expect(newer.revision).toBe(2);
    expect(newer.document.look.exposure).toBe(2);
  });

  it('begin with the shipped surroundings, which the tracer can read', async () => {
    const { document } = await create();
    const { picture, kind } = document.set.surroundings;
    expect([kind, Object.keys(document.assets).length]).toEqual(['picture', 3]);
    const response = await fetch(`${address}/api/blobs/${document.assets[picture!]!.hash}`);
    expect(readSurroundings(new Uint8Array(await response.arrayBuffer()), 'x.exr').width).toBe(512);
  });

  it('that are deleted take their takes and films along', async () => {
    const { id, document } = await create('Short-lived');
    const shot = Object.keys(document.shots)[0]!;
    const settings = { width: 16, height: 16, samples: 1, depth: 2, speckLimit: 0, seed: 9 };
    const { body } = await call('POST', `/api/projects/${id}/takes`, { shot, first: 1, last: 1, settings });
    expect((await call('DELETE', `/api/projects/${id}`)).status).toBe(204);
    expect((await call('GET', `/api/projects/${id}`)).status).toBe(404);
    expect((await call('GET', `/api/takes/${(body as { id: string }).id}`)).status).toBe(404);
    expect((await call('GET', `/api/projects/${id}/takes`)).body).toEqual([]);
  });

  it('refuse values out of range and change nothing', async () => {
    const { id } = await create();
    const patches = [{ op: 'replace', path: ['look', 'exposure'], value: 9999 }];
    const answer = await call('POST', `/api/projects/${id}/edits`, { revision: 1, patches, window: 'w' });
    expect(answer.status).toBe(422);
    expect((answer.body as { detail: string }).detail).toMatch(/look \/ exposure.*not saved/);
    expect(((await call('GET', `/api/projects/${id}`)).body as Opened).revision).toBe(1);
  });

  it('go back to a named version as a new revision', async () => {
    const { id, document } = await create();
    const version = (await call('POST', `/api/projects/${id}/versions`, { name: 'Before' })).body as { id: string };
    const { edit } = makeEdit(document, 'rename', (draft) => void (draft.name = 'After'));
    await call('POST', `/api/projects/${id}/edits`, { revision: 1, patches: edit!.patches, window: 'w' });
    const back = (await call('POST', `/api/projects/${id}/versions/${version.id}/restore`, { window: 'w' }))
      .body as Opened;
    expect(back.revision).toBe(3);
    expect(back.document.name).toBe('Test');
  });

  it('from the future are refused', async () => {
    const answer = await call('POST', '/api/projects', { name: 'x', document: { schemaVersion: 1000 } });
    expect(answer.status).toBe(409);
    expect((answer.body as { detail: string }).detail).toMatch(/newer Zippy Reel/);
  });
});

describe('requests', () => {
  it.each([
    ['GET', '/api/blobs/..%2f..%2fetc%2fpasswd'],
    ['GET', `/api/blobs/${'0'.repeat(64)}`],
    ['GET', '/api/projects/nobody'],
    ['GET', '/api/takes/x/frames/../../1.png'],
    ['GET', '/api/nothing'],
  ])('%s %s is not found, with a sentence', async (method, path) => {
    const answer = await call(method, path);
    expect(answer.status).toBe(404);
    expect((answer.body as { detail: string }).detail).toMatch(/\.$/);
  });

  it('of another site are refused', async () => {
    const response = await fetch(`${address}/api/projects`, { headers: { Origin: 'http://elsewhere.example' } });
    expect(response.status).toBe(403);
  });

  it('with broken or wrong bodies get a sentence', async () => {
    const broken = await fetch(`${address}/api/projects`, {
      method: 'POST',
      body: '{',
      headers: { 'Content-Type': 'application/json' },
    });
    expect(broken.status).toBe(400);
    expect((await call('POST', '/api/projects', { name: '' })).status).toBe(422);
    const { id } = await create();
    const settings = { width: 1e9, height: 16, samples: 1, depth: 4, speckLimit: 0, seed: 1 };
    expect((await call('POST', `/api/projects/${id}/takes`, { shot: 'x', first: 1, last: 1, settings })).status).toBe(
      422,
    );
  });
});

describe('takes', () => {
  const settings = { width: 32, height: 18, samples: 2, depth: 4, speckLimit: 0, seed: 1 };
  const take = (id: string) =>
    call('GET', `/api/takes/${id}`).then(({ body }) => body as { state: string; done: number[]; distinct: number });
  const finished = async (id: string) => {
    for (let wait = 0; wait < 200; wait++) {
      const view = await take(id);
      if (view.state !== 'waiting' && view.state !== 'rendering') return view;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error('the take did not end');
  };
  const frameFiles = () =>
    readdirSync(join(folder, 'frames'), { recursive: true })
      .map(String)
      .filter((name) => name.endsWith('.exr'));

  it('trace frames that are the same once, go on after a restart, and develop to pictures', async () => {
    const { id, document } = await create('Blink');
    const light = Object.keys(document.lights)[0]!;
    const shot = Object.keys(document.shots)[0]!;
    const { edit } = makeEdit(document, 'blink', (draft) => {
      draft.shots[shot]!.length = 12;
      const blink = newMove('blink', `lights/${light}/power`, 1, 12);
      draft.shots[shot]!.moves[blink.id] = { ...blink, count: 3, softness: 0, low: 0, high: 800 } as never;
    });
    await call('POST', `/api/projects/${id}/edits`, { revision: 1, patches: edit!.patches, window: 'w' });
    const made = await call('POST', `/api/projects/${id}/takes`, { shot, first: 1, last: 12, settings });
    const takeId = (made.body as { id: string }).id;
    const view = await finished(takeId);
    expect(view).toMatchObject({ state: 'done', distinct: 2 });
    expect(view.done).toHaveLength(12);
    expect(frameFiles()).toHaveLength(2);

    // A frame that goes missing is the only one rendered again after a restart.
    const [lost, kept] = frameFiles().map((name) => join(folder, 'frames', name));
    const before = statSync(kept!).mtimeMs;
    rmSync(lost!);
    await stop();
    await start();
    await call('POST', `/api/takes/${takeId}/stop`, {});
    expect((await take(takeId)).done.length).toBeLessThan(12);
    const again = await call('POST', `/api/projects/${id}/takes`, { shot, first: 1, last: 12, settings });
    expect((await finished((again.body as { id: string }).id)).done).toHaveLength(12);
    expect(statSync(kept!).mtimeMs).toBe(before);

    const look = encodeURIComponent(JSON.stringify(document.look));
    const png = await fetch(`${address}/api/takes/${takeId}/frames/1.png?look=${look}`);
    expect(png.headers.get('content-type')).toBe('image/png');
    const exr = await fetch(`${address}/api/takes/${takeId}/frames/1.exr`);
    const { width, beauty } = decodeFrame(new Uint8Array(await exr.arrayBuffer()));
    expect(width).toBe(32);
    expect(Math.max(...beauty)).toBeGreaterThan(0);
    expect((await call('GET', `/api/takes/${takeId}/frames/1.png?look=nonsense`)).status).toBe(422);
  }, 60_000);

  it('that are deleted leave the frames that other takes show', async () => {
    const { id, document } = await create('Shared frames');
    const shot = Object.keys(document.shots)[0]!;
    const own = { ...settings, seed: 5 };
    const ask = () => call('POST', `/api/projects/${id}/takes`, { shot, first: 1, last: 1, settings: own });
    const [one, two] = [(await ask()).body as { id: string }, (await ask()).body as { id: string }];
    await finished(one.id);
    await finished(two.id);
    const files = frameFiles().length;
    await call('DELETE', `/api/takes/${one.id}`);
    expect(frameFiles()).toHaveLength(files);
    await call('DELETE', `/api/takes/${two.id}`);
    expect(frameFiles()).toHaveLength(files - 1);
  }, 60_000);

  it('that cannot be written fail with a sentence, and the server stays up', async () => {
    const { id, document } = await create('Blocked');
    const shot = Object.keys(document.shots)[0]!;
    // A file where the folder of frames must go stands for a disk that takes nothing.
    const own = { ...settings, seed: 77 };
    rmSync(join(folder, 'frames'), { recursive: true });
    writeFileSync(join(folder, 'frames'), '');
    const made = await call('POST', `/api/projects/${id}/takes`, { shot, first: 1, last: 1, settings: own });
    const view = (await finished((made.body as { id: string }).id)) as { state: string; failure?: string };
    expect(view.state).toBe('failed');
    expect(view.failure).toMatch(/could not be rendered/);
    expect((await call('GET', '/api/projects')).status).toBe(200);
  }, 60_000);
});

describe('films', () => {
  it('without an encoder on the machine say how to get one; an empty reel says what is missing', async () => {
    const { id } = await create('Encoderless');
    const ask = (format: string) => call('POST', `/api/projects/${id}/films`, { format });
    const before = process.env['FFMPEG'];
    process.env['FFMPEG'] = '/nowhere/ffmpeg';
    try {
      const refused = await ask('mp4');
      expect(refused.status).toBe(501);
      expect((refused.body as { detail: string }).detail).toMatch(/apt install ffmpeg/);
      // PNG frames need no encoder: what is missing then is the reel.
      expect((await ask('png-zip')).body).toMatchObject({
        status: 422,
        detail: expect.stringMatching(/reel is empty/),
      });
    } finally {
      if (before === undefined) delete process.env['FFMPEG'];
      else process.env['FFMPEG'] = before;
    }
    expect((await ask('avi')).status).toBe(422);
    expect((await call('DELETE', '/api/films/gone')).status).toBe(404);
  });
});

describe('imports', () => {
  it('of a file that is none fail with a sentence', async () => {
    const sent = await fetch(`${address}/api/blobs`, { method: 'POST', body: 'solid nothing' });
    const { hash } = (await sent.json()) as { hash: string };
    const job = (await call('POST', '/api/imports', { files: [{ name: 'nothing.stl', hash }] })).body as { id: string };
    let view: { state: string; message: string };
    do {
      await new Promise((resolve) => setTimeout(resolve, 50));
      view = (await call('GET', `/api/imports/${job.id}`)).body as typeof view;
    } while (view.state === 'reading');
    expect(view.state).toBe('failed');
    expect(view.message).toMatch(/"nothing.stl"/);
  }, 60_000);

  it('can be stopped', async () => {
    const sent = await fetch(`${address}/api/blobs`, { method: 'POST', body: 'ISO-10303-21;\n' });
    const { hash } = (await sent.json()) as { hash: string };
    const job = (await call('POST', '/api/imports', { files: [{ name: 'slow.step', hash }] })).body as { id: string };
    expect((await call('DELETE', `/api/imports/${job.id}`)).status).toBe(204);
    expect((await call('GET', `/api/imports/${job.id}`)).body).toMatchObject({ state: 'stopped' });
  }, 60_000);
});
