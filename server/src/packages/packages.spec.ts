import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import {
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeEdit, newAsset, newClip, type ProjectDocument } from '@zippy/core/document';
import type { Take } from '@zippy/core/wire';
import { createApp } from '../http/app';
import { openServices, type Services } from '../services';

let folder: string;
let services: Services;
let server: Server;
let address: string;
/** A second server, which has nothing yet. */
let other: { services: Services; server: Server; address: string; folder: string };

async function start(): Promise<typeof other> {
  const place = mkdtempSync(join(tmpdir(), 'zippy-package-'));
  const made = await openServices(place);
  const listening = createApp(made, null).listen(0, '127.0.0.1');
  await once(listening, 'listening');
  return { services: made, server: listening, folder: place, address: `http://127.0.0.1:${(listening.address() as AddressInfo).port}` }; // prettier-ignore
}
beforeAll(async () => {
  ({ services, server, address, folder } = await start());
  other = await start();
});
afterAll(async () => {
  for (const each of [{ services, server, folder }, other]) {
    each.server.close();
    each.server.closeAllConnections();
    await each.services.close();
    rmSync(each.folder, { recursive: true, force: true });
  }
});

async function call<T>(at: string, method: string, path: string, body?: unknown): Promise<{ status: number; body: T }> {
  const response = await fetch(`${at}/api${path}`, {
    method,
    ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
  });
  return { status: response.status, body: (await response.json().catch(() => null)) as T };
}
interface Opened {
  id: string;
  revision: number;
  document: ProjectDocument;
}
const unpack = async (at: string, bytes: Uint8Array, name = 'x.reel.zip') => {
  const response = await fetch(`${at}/api/project-packages?name=${name}`, { method: 'POST', body: Buffer.from(bytes) });
  return { status: response.status, body: (await response.json()) as { id: string; notes: string[]; detail: string } };
};

/** A project with a file, a rendered take, and a clip of that on the reel. */
async function rendered(): Promise<{ id: string; bytes: Uint8Array; take: Take }> {
  const { body } = await call<Opened>(address, 'POST', '/projects', { name: 'Lamp' });
  const shot = Object.keys(body.document.shots)[0]!;
  const settings = { width: 32, height: 18, samples: 1, depth: 2, step: 1, seed: 1, speckLimit: 12, noiseTarget: 0, secondsPerFrame: 0, motionBlur: true, layers: [], region: null }; // prettier-ignore
  const made = await call<Take>(address, 'POST', `/projects/${body.id}/takes`, { shot, first: 1, last: 2, settings });
  expect([made.status, made.body]).toEqual([201, expect.anything()]);
  let take = made.body;
  while (take.state !== 'done') {
    await new Promise((resolve) => setTimeout(resolve, 60));
    take = (await call<Take>(address, 'GET', `/takes/${take.id}`)).body;
    expect(take.failure).toBe('');
  }
  const stored = await (await fetch(`${address}/api/blobs`, { method: 'POST', body: 'some file' })).json() as { hash: string }; // prettier-ignore
  const { edit } = makeEdit(body.document, 'reel', (draft) => {
    draft.assets['a'] = newAsset({ id: 'a', name: 'File', kind: 'picture', hash: stored.hash });
    draft.reel.clips['c'] = newClip({ kind: 'take', take: take.id }, { id: 'c', to: 2 });
    draft.takeNotes[take.id] = { name: 'Keep', note: '', starred: true };
  });
  await call(address, 'POST', `/projects/${body.id}/edits`, { revision: 1, patches: edit!.patches, window: 'w' });
  const film = await call<{ id: string }>(address, 'POST', `/projects/${body.id}/films`, { format: 'png-zip' });
  for (;;) {
    const [found] = (await call<{ id: string; state: string }[]>(address, 'GET', `/projects/${body.id}/films`)).body;
    if (found?.state === 'done') break;
    expect(found?.id).toBe(film.body.id);
    await new Promise((resolve) => setTimeout(resolve, 60));
  }
  const response = await fetch(`${address}/api/projects/${body.id}/package?frames&films`);
  expect(response.headers.get('content-disposition')).toContain('Lamp.reel.zip');
  return { id: body.id, bytes: new Uint8Array(await response.arrayBuffer()), take };
}
let made: Awaited<ReturnType<typeof rendered>>;

/** The archive with its files changed by Python. */
function changed(code: string): Uint8Array {
  const [from, to] = [join(folder, 'from.zip'), join(folder, 'to.zip')];
  writeFileSync(from, made.bytes);
  const script = `import zipfile,json,sys\nz=zipfile.ZipFile(sys.argv[1]); files={n:z.read(n) for n in z.namelist()}\n${code}\nw=zipfile.ZipFile(sys.argv[2],'w')\nfor n,b in files.items(): w.writestr(n,b)\nw.close()`; // prettier-ignore
  const { status, stderr } = spawnSync('python3', ['-c', script, from, to]);
  expect([status, stderr.toString()]).toEqual([0, '']);
  return readFileSync(to);
}

describe('a project as one file', () => {
  it('goes out whole, and comes in elsewhere with its files, takes, films, and what names them', async () => {
    made = await rendered();
    writeFileSync(join(folder, 'whole.zip'), made.bytes);
    const names = spawnSync('python3', ['-c', 'import zipfile,sys; z=zipfile.ZipFile(sys.argv[1]); assert z.testzip() is None; print(*z.namelist())', join(folder, 'whole.zip')]).stdout.toString(); // prettier-ignore
    expect(names).toMatch(/^project\.json .*files\/[0-9a-f]{64}.*frames\/[0-9a-f]{64}\.exr.*films\/[\w-]+\.zip/s);
    const { status, body } = await unpack(other.address, made.bytes);
    expect([status, body.notes]).toEqual([201, []]);
    const { document } = (await call<Opened>(other.address, 'GET', `/projects/${body.id}`)).body;
    const [take] = (await call<Take[]>(other.address, 'GET', `/projects/${body.id}/takes`)).body;
    expect(take).toMatchObject({ number: 1, state: 'done', done: [1, 2] });
    expect(take!.id).not.toBe(made.take.id);
    expect(document.reel.clips['c']!.source).toEqual({ kind: 'take', take: take!.id });
    expect(document.takeNotes[take!.id]!.name).toBe('Keep');
    const frame = (at: string, id: string) => fetch(`${at}/api/takes/${id}/frames/1.exr`).then((response) => response.arrayBuffer()); // prettier-ignore
    expect(Buffer.from(await frame(other.address, take!.id)).equals(Buffer.from(await frame(address, made.take.id)))).toBe(true); // prettier-ignore
    expect(await (await fetch(`${other.address}/api/blobs/${document.assets['a']!.hash}`)).text()).toBe('some file');
    const [film] = (await call<{ id: string }[]>(other.address, 'GET', `/projects/${body.id}/films`)).body;
    expect((await fetch(`${other.address}/api/films/${film!.id}/file`)).status).toBe(200);
    // The next take has the next number, and a film is made of what came.
    const again = await call<{ state: string }>(other.address, 'POST', `/projects/${body.id}/films`, { format: 'poster' }); // prettier-ignore
    expect(again.status).toBe(201);
    const picture = await fetch(`${other.address}/api/projects/${body.id}/picture`);
    expect(picture.headers.get('content-type')).toBe('image/webp');
  }, 120_000);

  it('comes in twice as two, and beside the one it came from', async () => {
    const [one, two] = [await unpack(other.address, made.bytes), await unpack(other.address, made.bytes)];
    const back = await unpack(address, made.bytes);
    expect(new Set([one.body.id, two.body.id, back.body.id, made.id]).size).toBe(4);
    const takes = (await call<Take[]>(address, 'GET', `/projects/${made.id}/takes`)).body;
    expect(takes.map(({ id }) => id)).toEqual([made.take.id]);
  });

  it('without frames is small, and tells its document alone', async () => {
    const bytes = new Uint8Array(await (await fetch(`${address}/api/projects/${made.id}/package`)).arrayBuffer());
    const { body } = await unpack(other.address, bytes);
    expect((await call<Take[]>(other.address, 'GET', `/projects/${body.id}/takes`)).body).toEqual([]);
  });

  it('is doubled with its takes; what is deleted of one leaves the other whole', async () => {
    const { body } = await call<{ id: string }>(address, 'POST', `/projects/${made.id}/copies`);
    const [take] = (await call<Take[]>(address, 'GET', `/projects/${body.id}/takes`)).body;
    expect(take!.done).toEqual([1, 2]);
    await call(address, 'DELETE', `/projects/${body.id}`);
    expect((await call<Take>(address, 'GET', `/takes/${made.take.id}`)).body.done).toEqual([1, 2]);
  });

  it('whose files are not what they say, or are gone, says which, and the rest is there', async () => {
    const damaged = await unpack(other.address, changed("for n in list(files):\n  if n.startswith('files/'): files['files/'+'0'*64]=files.pop(n)+b'!'")); // prettier-ignore
    expect([damaged.status, damaged.body.notes[0]]).toEqual([201, expect.stringMatching(/1 file in it was damaged/)]);
    const own = await start();
    const lacking = await unpack(own.address, changed("for n in list(files):\n  if n.startswith(('files/','frames/')): del files[n]")); // prettier-ignore
    expect([lacking.status, lacking.body.notes.join()]).toEqual([201, expect.stringMatching(/lacks the files of "File"/)]); // prettier-ignore
    const [take] = (await call<Take[]>(own.address, 'GET', `/projects/${lacking.body.id}/takes`)).body;
    expect([take!.state, take!.done]).toEqual(['stopped', []]);
    own.server.close();
    own.server.closeAllConnections();
    await own.services.close();
    rmSync(own.folder, { recursive: true, force: true });
  });

  it.each([
    ['no archive', () => Buffer.from('no archive at all'), /no archive/],
    ['nothing', () => Buffer.alloc(0), /no archive/],
    ['half of one', () => made.bytes.slice(0, made.bytes.length / 2), /no archive/],
    ['no project', () => changed("del files['project.json']"), /holds no project/],
    ['a damaged project', () => changed("files['project.json']=b'{'"), /damaged/],
    ['names that climb out', () => changed("files['../../out.txt']=b'x'"), /cannot be read as a project/],
    ['a take that lies', () => changed("p=json.loads(files['project.json']); p['takes'][0]['id']='../../x'; files['project.json']=json.dumps(p)"), /not what a project tells/], // prettier-ignore
    ['a broken document', () => changed("p=json.loads(files['project.json']); p['document']='{\"schemaVersion\":14}'; files['project.json']=json.dumps(p)"), /./], // prettier-ignore
  ])('that is %s is refused with a sentence, and nothing of it stays', async (_, bytes, why) => {
    const before = (await call<unknown[]>(other.address, 'GET', '/projects')).body.length;
    const { status, body } = await unpack(other.address, bytes());
    expect(status).toBe(422);
    expect(body.detail).toMatch(why);
    expect((await call<unknown[]>(other.address, 'GET', '/projects')).body).toHaveLength(before);
    expect(readdirSync(join(other.folder, 'blobs', 'arriving'))).toEqual([]);
  });

  it('whose films cannot all be written leaves none of them, and no take', async () => {
    const films = () => readdirSync(join(other.folder, 'films')).sort();
    const before = [films(), await other.services.takes.list('gone')];
    // Its last entry says that it is larger than it is: reading it fails when the others have been written.
    const bytes = Buffer.from(changed("files['films/zzz.mp4']=b'x'*100; p=json.loads(files['project.json']); p['films'].append({**p['films'][0],'id':'zzz','format':'mp4'}); files['project.json']=json.dumps(p)")); // prettier-ignore
    const entry = bytes.lastIndexOf('films/zzz.mp4') - 46;
    bytes.writeUInt32LE(5000, entry + 24);
    const { status, body } = await unpack(other.address, bytes);
    expect([status, body.detail]).toEqual([422, expect.stringMatching(/cannot be read as a project/)]);
    expect([films(), await other.services.takes.list('gone')]).toEqual(before);
  });

  it('from the future says so', async () => {
    const newer = changed("p=json.loads(files['project.json']); p['version']=99; files['project.json']=json.dumps(p)");
    const { status, body } = await unpack(other.address, newer);
    expect([status, body.detail]).toEqual([409, expect.stringMatching(/newer Zippy Reel/)]);
    const later = changed("p=json.loads(files['project.json']); d=json.loads(p['document']); d['schemaVersion']=999; p['document']=json.dumps(d); files['project.json']=json.dumps(p)"); // prettier-ignore
    expect((await unpack(other.address, later)).status).toBe(409);
  });

  it('of a great deal goes through memory that stays flat', async () => {
    // Half a gigabyte in one film: what is held at once is a small part of that.
    const id = 'large';
    const size = 512e6;
    writeFileSync(join(folder, 'films', `${id}.mp4`), '');
    truncateSync(join(folder, 'films', `${id}.mp4`), size);
    const row = await services.films.addFinished(made.id, 'Large', join(folder, 'films', `${id}.mp4`));
    renameSync(join(folder, 'films', `${id}.mp4`), join(folder, 'films', `${row.id}.mp4`));
    const held: number[] = [];
    const clock = setInterval(() => held.push(process.memoryUsage().rss), 20);
    const before = process.memoryUsage().rss;
    const path = join(folder, 'large.zip');
    // By another process, so that what is measured here is the server alone.
    const elsewhere = async (script: string) => {
      const child = spawn('node', ['--input-type=module', '-e', script]);
      const [code] = (await once(child, 'close')) as [number];
      expect(code).toBe(0);
    };
    await elsewhere(`import http from 'node:http'; import fs from 'node:fs'; http.get(${JSON.stringify(`${address}/api/projects/${made.id}/package?films`)}, (answer) => answer.pipe(fs.createWriteStream(${JSON.stringify(path)})));`); // prettier-ignore
    expect(statSync(path).size).toBeGreaterThan(size);
    await elsewhere(`import http from 'node:http'; import fs from 'node:fs'; const ask = http.request(${JSON.stringify(`${other.address}/api/project-packages?name=l`)}, { method: 'POST' }, (answer) => { answer.resume(); if (answer.statusCode !== 201) process.exit(1); }); fs.createReadStream(${JSON.stringify(path)}).pipe(ask);`); // prettier-ignore
    clearInterval(clock);
    expect(Math.max(...held) - before).toBeLessThan(250e6);
  }, 60_000);
});

describe('going back to a version', () => {
  it('keeps what it is gone back from', async () => {
    const { id, document } = (await call<Opened>(address, 'POST', '/projects', { name: 'Back' })).body;
    const version = (await call<{ id: string }>(address, 'POST', `/projects/${id}/versions`, { name: 'First' })).body;
    const { edit } = makeEdit(document, 'name', (draft) => void (draft.name = 'Later'));
    await call(address, 'POST', `/projects/${id}/edits`, { revision: 1, patches: edit!.patches, window: 'w' });
    await call(address, 'POST', `/projects/${id}/versions/${version.id}/restore`, { window: 'w' });
    const versions = (await call<{ id: string; name: string }[]>(address, 'GET', `/projects/${id}/versions`)).body;
    expect(versions.map(({ name }) => name).sort()).toEqual(['Before going back to "First"', 'First']);
    const left = versions.find(({ name }) => name.startsWith('Before'))!;
    const back = await call<Opened>(address, 'POST', `/projects/${id}/versions/${left.id}/restore`, { window: 'w' });
    expect(back.body.document.name).toBe('Later');
  });
});
