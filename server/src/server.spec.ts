import { defaultRecipe, makeEdit, newAsset, newCamera, type ProjectDocument } from '@zippy/core/document';
import { newMove } from '@zippy/core/motion';
import { once } from 'node:events';
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { request, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { decodeFrame } from '@zippy/core/develop';
import { mendModel, placeModel, readGlb, readPicture, readSurroundings } from '@zippy/core/intake';
import { createApp } from './http/app';
import type { AcceptedModel, ReadFinishes } from '@zippy/core/wire';
import { openServices, type Services } from './services';

let folder: string;
let services: Services;
let server: Server;
let address: string;

async function start(): Promise<void> {
  services = await openServices(folder, new URL('../../demo/made', import.meta.url).pathname, join(folder, 'out'));
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

  it('do a save once that is sent twice, at the same time or later, and answer both', async () => {
    const { id, document } = await create();
    const { edit } = makeEdit(document, 'exposure', (draft) => void (draft.look.exposure = 2));
    const send = (revision: number, save: string) =>
      call('POST', `/api/projects/${id}/edits`, { revision, patches: edit!.patches, window: 'w', save });
    const [first, again] = await Promise.all([send(1, 'a'), send(1, 'a')]);
    expect([first.body, again.body]).toEqual([{ revision: 2 }, { revision: 2 }]);
    expect((await send(2, 'b')).body).toEqual({ revision: 3 });
    expect((await send(1, 'a')).body).toEqual({ revision: 2 });
    expect(((await call('GET', `/api/projects/${id}`)).body as Opened).revision).toBe(3);
    expect((await send(1, 'b')).status).toBe(409);
    expect((await send(1, '')).status).toBe(409);
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

  it("under another name than this machine's are refused, however the page there came by it", async () => {
    const ask = (headers: Record<string, string>) =>
      new Promise<number>((resolve) =>
        request(`${address}/api/projects`, { headers }, (response) => {
          response.resume();
          resolve(response.statusCode!);
        }).end(),
      );
    const { port } = new URL(address);
    expect(await ask({ Host: `rebound.example:${port}` })).toBe(421);
    expect(await ask({ Host: `rebound.example:${port}`, Origin: `http://rebound.example:${port}` })).toBe(421);
    for (const host of [`127.0.0.1:${port}`, `localhost:${port}`, `[::1]:${port}`])
      expect(await ask({ Host: host })).toBe(200);
    for (const origin of ['null', 'nonsense', 'http://']) expect(await ask({ Origin: origin })).toBe(403);
  });

  it('with half characters, nothing where something should be, or lists without an end get a sentence', async () => {
    expect((await call('POST', '/api/projects', { name: 'half \ud83c' })).status).toBe(422);
    const { id, document } = await create('Edges');
    for (const over of [
      { lights: { l: null } },
      { schemaVersion: 1, finishes: { f: null } },
      { shots: null },
      { set: null, schemaVersion: 6 },
    ]) {
      const answer = await call('POST', '/api/projects', { name: 'Broken', document: { ...document, ...over } });
      expect([answer.status, (answer.body as { detail: string }).detail]).toEqual([422, expect.stringMatching(/\.$/)]);
    }
    const [shot] = Object.keys(document.shots);
    const track = ['shots', shot, 'tracks', 'look/exposure'];
    const key = { frame: 1, value: 0, pace: 'linear' };
    const before = performance.now();
    for (const patches of [
      [
        { op: 'add', path: track, value: [key] },
        { op: 'replace', path: [...track, 'length'], value: 4_000_000_000 },
      ],
      [
        { op: 'add', path: track, value: [key] },
        { op: 'add', path: [...track, 4_000_000_000], value: key },
      ],
      [
        { op: 'add', path: track, value: [key] },
        { op: 'replace', path: [...track, -1], value: key },
      ],
      [
        { op: 'add', path: track, value: [key] },
        { op: 'replace', path: [...track, 'length'], value: 0.5 },
      ],
      [{ op: 'add', path: ['name', 0], value: 'x' }],
    ])
      expect((await call('POST', `/api/projects/${id}/edits`, { revision: 1, patches, window: 'w' })).status).toBe(409);
    expect(performance.now() - before).toBeLessThan(2000);
    const shorter = [
      { op: 'add', path: track, value: [key, { ...key, frame: 2 }] },
      { op: 'replace', path: [...track, 'length'], value: 1 },
    ];
    expect(
      (await call('POST', `/api/projects/${id}/edits`, { revision: 1, patches: shorter, window: 'w' })).status,
    ).toBe(200);
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

interface Read {
  id: string;
  state: string;
  message: string;
  summary: { notes: string[] };
}

async function send(name: string, bytes: string | Uint8Array): Promise<{ name: string; hash: string }> {
  const sent = await fetch(`${address}/api/blobs`, { method: 'POST', body: bytes as BodyInit });
  return { name, hash: ((await sent.json()) as { hash: string }).hash };
}

async function read(files: { name: string; hash: string }[]): Promise<Read> {
  let view = (await call('POST', '/api/imports', { files })).body as Read;
  while (view.state === 'reading') {
    await new Promise((resolve) => setTimeout(resolve, 50));
    view = (await call('GET', `/api/imports/${view.id}`)).body as Read;
  }
  return view;
}

describe('pictures', () => {
  const halves = (left: string, right: string) =>
    sharp({ create: { width: 64, height: 64, channels: 3, background: left } })
      .composite([{ input: { create: { width: 32, height: 64, channels: 3, background: right } }, left: 32, top: 0 }])
      .jpeg({ quality: 100 })
      .toBuffer();

  it('come with a model, are rendered on it, and leave with it as GLB', async () => {
    const obj =
      'v -50 0 0\nv 50 0 0\nv 50 100 0\nv -50 100 0\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\nusemtl m\nf 1/1 2/2 3/3 4/4\n';
    const mtl = 'newmtl m\nKd 1 1 1\nmap_Kd sign.jpg\nmap_Pr torn.png\n';
    const view = await read([
      await send('sign.obj', obj),
      await send('sign.mtl', mtl),
      await send('sign.jpg', await halves('#ff0000', '#0000ff')),
      await send('torn.png', 'no picture'),
    ]);
    expect(view.summary.notes.join()).toMatch(/"torn.png" cannot be read and was left out/);
    const accepted = (await call('POST', `/api/imports/${view.id}/accept`, { recipe: defaultRecipe() }))
      .body as AcceptedModel;
    expect(accepted.pictures.map((picture) => picture?.name)).toEqual(['sign.jpg', undefined]);
    const { id, document } = await create('Sign');
    const { edit } = makeEdit(document, 'sign', (draft) => {
      const { nodes, finishes } = placeModel(accepted.tree, accepted.hash, 'Sign', 0, ['sign', null]);
      const hashes = { hash: accepted.hash, sourceHash: accepted.sourceHash };
      draft.assets['model'] = newAsset({ id: 'model', name: 'Sign', kind: 'model', sourceName: 'sign.obj', ...hashes });
      const picture = accepted.pictures[0]!.hash;
      draft.assets['sign'] = newAsset({
        id: 'sign',
        name: 'sign',
        kind: 'picture',
        hash: picture,
        sourceName: 'sign.jpg',
      });
      for (const node of nodes) draft.nodes[node.id] = node;
      for (const finish of finishes) draft.finishes[finish.id] = finish;
      const camera = newCamera({ position: [0, 50, 300], target: [0, 50, 0], focalLength: 60, fStop: 0 });
      draft.cameras[camera.id] = camera;
      for (const each of Object.values(draft.shots)) each.camera = camera.id;
      draft.set.surroundings = { ...draft.set.surroundings, kind: 'color', color: [1, 1, 1], brightness: 1 };
    });
    expect(
      (await call('POST', `/api/projects/${id}/edits`, { revision: 1, patches: edit!.patches, window: 'w' })).status,
    ).toBe(200);
    const settings = { width: 32, height: 32, samples: 16, depth: 3, speckLimit: 0, seed: 1 };
    const asked = { shot: Object.keys(document.shots)[0]!, first: 1, last: 1, settings };
    const made = (await call('POST', `/api/projects/${id}/takes`, asked)).body as { id: string };
    expect(await finished(made.id)).toMatchObject({ state: 'done' });
    const exr = await fetch(`${address}/api/takes/${made.id}/frames/1.exr`);
    const { width, beauty } = decodeFrame(new Uint8Array(await exr.arrayBuffer()));
    const [left, right] = [beauty.slice((16 * width + 11) * 4), beauty.slice((16 * width + 21) * 4)];
    expect(left[0]! / left[2]!).toBeGreaterThan(5);
    expect(right[2]! / right[0]!).toBeGreaterThan(5);

    const glb = await fetch(`${address}/api/projects/${id}/scene.glb`);
    expect(glb.headers.get('content-disposition')).toContain('Sign.glb');
    const again = mendModel(await readGlb(new Uint8Array(await glb.arrayBuffer()), 'sign.glb'), defaultRecipe()).model;
    expect(again.finishes[0]).toMatchObject({ name: 'm', maps: [{ slot: 'baseColor', picture: 0 }] });
    expect(again.meshes[0]!.uvs).toHaveLength(8);
    expect((await sharp(again.pictures[0]!.bytes).metadata()).format).toBe('png');

    // One finish leaves in both open forms, with its picture, and comes back from them.
    const opened = (await call('GET', `/api/projects/${id}`)).body as { document: ProjectDocument };
    const [worn] = Object.keys(opened.document.finishes);
    const saved = async (form: string) =>
      new Uint8Array(
        await (await fetch(`${address}/api/projects/${id}/finishes/${worn}/file?as=${form}`)).arrayBuffer(),
      );
    const zip = await send('m.zip', Buffer.from(await saved('materialx')));
    const unpacked = (await call('POST', '/api/archives', zip)).body as { name: string; hash: string }[];
    expect(unpacked.map((each) => each.name)).toEqual(['m.mtlx', 'pictures/1 sign.png']);
    const body = await send('m.glb', Buffer.from(await saved('gltf')));
    for (const files of [unpacked, [body]]) {
      const read = (await call('POST', '/api/finishes', { files })).body as ReadFinishes;
      expect(read).toMatchObject({ finishes: [{ name: 'm', maps: [{ slot: 'baseColor', picture: 0 }] }], notes: [] });
      expect(read.pictures[0]!.hash).toBe(accepted.pictures[0]!.hash);
    }
    expect((await call('POST', '/api/finishes', { files: [await send('sign.obj', obj)] })).status).toBe(415);
    expect((await fetch(`${address}/api/projects/${id}/finishes/gone/file?as=gltf`)).status).toBe(404);
    expect((await fetch(`${address}/api/projects/${id}/finishes/${worn}/file?as=exe`)).status).toBe(422);
    await call('DELETE', `/api/projects/${id}`);
  }, 60_000);

  it('brought alone are kept as PNG with opacity, upright; what is none is refused', async () => {
    const grey = await sharp(await halves('#fff', '#000'))
      .grayscale()
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toBuffer();
    const kept = (await call('POST', '/api/pictures', await send('turned.jpg', grey))).body as { hash: string };
    const blob = await fetch(`${address}/api/blobs/${kept.hash}`);
    const picture = readPicture(new Uint8Array(await blob.arrayBuffer()), 'turned');
    expect([picture.width, picture.height]).toEqual([64, 64]);
    // Turned a quarter to the right, what was on the left is above.
    expect(picture.pixels[(8 * 64 + 32) * 4]).toBeGreaterThan(200);
    expect(picture.pixels[(56 * 64 + 32) * 4]).toBeLessThan(50);
    const refused = await call('POST', '/api/pictures', await send('x.png', 'nothing of the kind'));
    expect(refused.status).toBe(422);
    expect(JSON.stringify(refused.body)).toMatch(/x\.png.{1,3}cannot be read/);
    expect((await call('POST', '/api/pictures', { name: 'x', hash: '../../etc/passwd' })).status).toBe(422);
  });
});

describe('takes', () => {
  const settings = { width: 32, height: 18, samples: 2, depth: 4, speckLimit: 0, seed: 1 };
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

    // A look-up table that turns everything red is seen in the picture; one that is gone is told.
    const red = await send('red.cube', 'LUT_1D_SIZE 2\n1 0 0\n1 0 0\n');
    expect((await call('POST', '/api/lookups', red)).status).toBe(200);
    const developed = (lookup: string) =>
      fetch(
        `${address}/api/takes/${takeId}/frames/1.png?look=${encodeURIComponent(JSON.stringify({ ...document.look, lookup }))}`,
      );
    const pixels = await sharp(Buffer.from(await (await developed(red.hash)).arrayBuffer()))
      .removeAlpha()
      .raw()
      .toBuffer();
    expect([...pixels.subarray(0, 6)]).toEqual([255, 0, 0, 255, 0, 0]);
    const gone = await developed('0'.repeat(64));
    expect(gone.status).toBe(404);
    expect(((await gone.json()) as { detail: string }).detail).toMatch(
      /look-up table of this look is not here any more/,
    );
    const broken = await call('POST', '/api/lookups', await send('odd.cube', 'LUT_3D_SIZE 9\n'));
    expect([broken.status, (broken.body as { detail: string }).detail]).toEqual([
      422,
      expect.stringContaining('it holds 0 of 729 entries'),
    ]);
    expect((await call('POST', '/api/lookups', { name: 'x.cube', hash: '../etc/passwd' })).status).toBe(422);
  }, 60_000);

  it('leave as files of every form that other programs read, under names of the project', async () => {
    const { id, document } = await create('Leaving / now');
    const shot = Object.keys(document.shots)[0]!;
    const { edit } = makeEdit(document, 'names', (draft) => {
      draft.settings.fileNames = '{project}-{frame}';
      draft.settings.dotsPerInch = 300;
      draft.set.behind.kind = 'transparent';
      draft.set.floor.kind = 'none';
    });
    await call('POST', `/api/projects/${id}/edits`, { revision: 1, patches: edit!.patches, window: 'w' });
    const asked = { ...settings, layers: ['mattes', 'lights'] };
    const made = await call('POST', `/api/projects/${id}/takes`, { shot, first: 1, last: 2, settings: asked });
    const takeId = (made.body as { id: string }).id;
    await finished(takeId);
    const look = encodeURIComponent(JSON.stringify({ ...document.look, denoise: 0, specks: 0, bloomAmount: 0 }));
    const still = async (query: string, path = 'frames/1/still') => {
      const response = await fetch(`${address}/api/takes/${takeId}/${path}?look=${look}&${query}`);
      const name = decodeURIComponent(/''(.*)$/.exec(response.headers.get('content-disposition') ?? '')?.[1] ?? '');
      return { status: response.status, name, bytes: Buffer.from(await response.arrayBuffer()) };
    };
    const read = async (bytes: Buffer) => {
      const { depth, density, icc, hasAlpha, format, width } = await sharp(bytes).metadata();
      return { depth, density, profiled: icc !== undefined, hasAlpha, format, width };
    };
    const eight = { depth: 'uchar', profiled: true, width: 32 };
    const forms = {
      png: { ...eight, format: 'png', density: 300, hasAlpha: true },
      png16: { ...eight, format: 'png', depth: 'ushort', density: 300, hasAlpha: true },
      jpeg: { ...eight, format: 'jpeg', density: 300, hasAlpha: false },
      tiff16: { ...eight, format: 'tiff', depth: 'ushort', density: 300, hasAlpha: true },
      webp: { ...eight, format: 'webp', hasAlpha: true },
      avif: { ...eight, format: 'heif', hasAlpha: true },
    };
    for (const [format, told] of Object.entries(forms)) {
      const { name, bytes } = await still(`format=${format}`);
      expect(name).toMatch(/^Leaving-now-0001\./);
      expect(await read(bytes)).toMatchObject(told);
    }
    // Sixteen bits say the same as eight, and not more than rounding besides.
    const decode = async (query: string) => {
      const file = join(folder, 'sixteen');
      writeFileSync(file, (await still(query)).bytes);
      return spawnSync('ffmpeg', ['-v', 'error', '-i', file, '-pix_fmt', 'rgba64le', '-f', 'rawvideo', '-']).stdout;
    };
    const [words, tiffs] = [await decode('format=png16'), await decode('format=tiff16')];
    const bytes = await sharp((await still('format=png')).bytes)
      .raw()
      .toBuffer();
    const coarse = new Uint16Array(words.buffer, words.byteOffset, words.length / 2);
    expect(tiffs.equals(words)).toBe(true);
    for (const [k, value] of bytes.entries()) expect(Math.abs(coarse[k]! / 257 - value)).toBeLessThanOrEqual(1);
    // For another display colours are others and say so: pure red is less pure there.
    const red3 = await decode('format=png16&display=p3&ground=%23ff0000');
    const told = [...new Uint16Array(red3.buffer, red3.byteOffset, 3)].map((value) => value / 65_535);
    expect(told).toEqual([0.9175, 0.2003, 0.1386].map((value) => expect.closeTo(value, 2)));
    // X of red as profiles have it (ICC.1: rXYZ, adapted to D50).
    const redOf = async (query: string) => {
      const icc = (await sharp((await still(query)).bytes).metadata()).icc!;
      const tag = Array.from({ length: icc.readUInt32BE(128) }, (_, k) => 132 + k * 12).find((at) => icc.toString('latin1', at, at + 4) === 'rXYZ')!; // prettier-ignore
      return icc.readInt32BE(icc.readUInt32BE(tag + 4) + 8) / 65_536;
    };
    for (const format of ['png16', 'tiff16', 'jpeg']) {
      expect(await redOf(`format=${format}`)).toBeCloseTo(0.436, 3);
      expect(await redOf(`format=${format}&display=p3`)).toBeCloseTo(0.515, 3);
    }
    // What is open is filled where one asks for it, and where the format cannot leave it open.
    const corner = async (query: string) => [...(await sharp((await still(query)).bytes).raw().toBuffer()).subarray(0, 3)]; // prettier-ignore
    expect((await read((await still('format=png&ground=%23ff0000')).bytes)).hasAlpha).toBe(false);
    expect(await corner('format=png&ground=%23102030')).toEqual(
      [16, 32, 48].map((value) => expect.closeTo(value, -0.5)),
    );
    const red = await decode('format=png16&ground=%23ff0000');
    expect([...new Uint16Array(red.buffer, red.byteOffset, 3)]).toEqual([65_535, 0, 0]);
    expect((await corner('format=jpeg')).every((value) => value > 250)).toBe(true);
    // Layers, mattes, and light that leaves with all of them.
    expect((await call('GET', `/api/takes/${takeId}/layers`)).body).toEqual(expect.arrayContaining(['depth', 'parts', 'light:Key_panel'])); // prettier-ignore
    const depth = await fetch(`${address}/api/takes/${takeId}/frames/1.png?look=${look}&layer=depth`);
    expect(depth.headers.get('zippy-range')).toMatch(/^[\d.e+-]+ [\d.e+-]+ mm$/);
    expect((await still('format=png&layer=nothing')).status).toBe(404);
    expect((await still('format=exr&layer=depth')).status).toBe(422);
    const matte = encodeURIComponent(JSON.stringify({ of: 'parts', names: ['Gone'] }));
    expect(Math.max(...(await sharp((await still(`format=png&matte=${matte}`)).bytes).removeAlpha().raw().toBuffer()))).toBe(0); // prettier-ignore
    expect((await still('format=png&matte=nonsense')).status).toBe(422);
    expect((await call('GET', `/api/takes/${takeId}/frames/1/at?x=0.5&y=0.5`)).body).toMatchObject({ alpha: expect.any(Number), light: expect.any(Array) }); // prettier-ignore
    expect((await call('GET', `/api/takes/${takeId}/frames/1/at?x=2&y=0`)).status).toBe(422);
    expect((await call('GET', `/api/takes/${takeId}/document`)).body).toMatchObject({ settings: { dotsPerInch: 300 } });
    expect((await call('GET', '/api/takes/nobody/document')).status).toBe(404);
    const exr = join(folder, 'leaving.exr');
    writeFileSync(exr, (await still('format=exr')).bytes);
    const header = spawnSync('exrheader', [exr], { encoding: 'utf8' });
    if (!header.error) expect(header.stdout).toMatch(/light_Key_panel\.R[\s\S]*cryptomatte/);
    // Into the server's own folder, where nothing is replaced.
    const deliver = (query: string) => call('POST', `/api/takes/${takeId}/deliver?look=${look}&${query}`);
    expect((await deliver('format=png')).body).toMatchObject({ files: 2, first: 'Leaving-now-0001.png' });
    const written = readFileSync(join(folder, 'out/Leaving-now-0001.png'));
    expect((await deliver('format=png&ground=%23ff0000')).body).toMatchObject({ files: 2, first: 'Leaving-now-0001-2.png' }); // prettier-ignore
    expect(readFileSync(join(folder, 'out/Leaving-now-0001.png')).equals(written)).toBe(true);
    expect(readdirSync(join(folder, 'out'))).toHaveLength(4);
    // All frames in one archive; one file a layer in another.
    for (const [query, count] of [
      ['format=png', 2],
      ['format=exrLayers', 20],
    ] as const) {
      const packed = await still(query, 'stills');
      expect(packed.name).toBe('Leaving-now.zip');
      const zip = join(folder, 'packed.zip');
      writeFileSync(zip, packed.bytes);
      const names = JSON.parse(spawnSync('python3', ['-c', 'import zipfile,json,sys; z=zipfile.ZipFile(sys.argv[1]); assert z.testzip() is None; print(json.dumps(z.namelist()))', zip], { encoding: 'utf8' }).stdout) as string[]; // prettier-ignore
      expect(new Set(names).size).toBe(names.length);
      expect(names.length).toBeGreaterThanOrEqual(count);
      expect(names.every((name) => /^Leaving-now-000[12][._]/.test(name))).toBe(true);
    }
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
    const films = services.films as { encoder: string | null };
    const before = films.encoder;
    films.encoder = null;
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
      films.encoder = before;
    }
    expect((await ask('avi')).status).toBe(422);
    expect((await call('DELETE', '/api/films/gone')).status).toBe(404);
  });
});

describe('imports', () => {
  it('of a file that is none fail with a sentence', async () => {
    const view = await read([await send('nothing.stl', 'solid nothing')]);
    expect(view.state).toBe('failed');
    expect(view.message).toMatch(/"nothing.stl"/);
  }, 60_000);

  it('can be stopped', async () => {
    const files = [await send('slow.step', 'ISO-10303-21;\n')];
    const job = (await call('POST', '/api/imports', { files })).body as { id: string };
    expect((await call('DELETE', `/api/imports/${job.id}`)).status).toBe(204);
    expect((await call('GET', `/api/imports/${job.id}`)).body).toMatchObject({ state: 'stopped' });
  }, 60_000);
});
