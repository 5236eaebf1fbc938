import { fork } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { defaultRecipe } from '@zippy/core/document';
import { startCadKernel } from '@zippy/core/intake/cadKernel';
import { mutate } from '../../../core/intake/testing/broken';
import { solidFile, stlBinary } from '../../../core/intake/testing/samples';
import type { StoredFile } from '@zippy/core/wire';
import { Events } from '../events/events';
import { Blobs } from '../storage/blobs';
import type { WorkingProcess } from '../workers/startProcess';
import { Imports } from './imports';

const folder = mkdtempSync(join(tmpdir(), 'zippy-imports-'));
const blobs = new Blobs(join(folder, 'blobs'));
const imports = new Imports(blobs, new Events(), join(folder, 'blobs'), { seconds: 2, secondsPerMegabyte: 30 });
/** Mutations of each kind of solids; broken.spec.ts tries those of all other formats. */
const MUTATIONS = Math.ceil(Number(process.env['MUTATIONS'] ?? 150) / 12);
const FORMATS = ['step', 'iges', 'brep'] as const;
const solids = new Map<string, Uint8Array<ArrayBuffer>>();
let endless: StoredFile;
let sound: StoredFile;

async function keep(name: string, bytes: Uint8Array): Promise<StoredFile> {
  return { name, hash: (await blobs.store(Readable.from([bytes]))).hash };
}

/** What becomes of an import. */
async function outcome(id: string) {
  while (imports.show(id).state === 'reading') await new Promise((resolve) => setTimeout(resolve, 50));
  return imports.show(id);
}

beforeAll(async () => {
  await blobs.prepare();
  const wasm = readFileSync(createRequire(import.meta.url).resolve('opencascade.js/dist/opencascade.full.wasm'));
  // A crate of which four bytes were changed: the CAD kernel never comes back from it.
  const cad = await startCadKernel(wasm);
  for (const format of FORMATS) solids.set(format, new Uint8Array(solidFile(cad, format)));
  endless = await keep('endless.brep', mutate(solids.get('brep')!, 5));
  sound = await keep('crate.stl', stlBinary());
}, 120_000);
afterAll(() => imports.close());

describe('a file that breaks the CAD kernel', () => {
  it('takes its worker with the memory of the kernel along, and what waits behind it is read', async () => {
    const claims = 'DBRep_DrawableShape\n\nCASCADE Topology V1, (c) Matra-Datavision\nLocations 0\nCurve2ds 0\nCurves 0\nPolygon3D 0\nPolygonOnTriangulations 0\nSurfaces 0\nTriangulations 0\n\nTShapes 900000000\n'; // prettier-ignore
    const breaking = imports.start([await keep('claims-many.brep', new Uint8Array(Buffer.from(claims)))]);
    const { worker } = imports as unknown as { worker: WorkingProcess };
    const gone = new Promise((resolve) => worker.child.once('exit', resolve));
    const next = imports.start([sound]);
    expect((await outcome(breaking.id)).message).toMatch(/its data is damaged/);
    expect((await outcome(next.id)).state).toBe('read');
    await gone;
  }, 120_000);
});

describe('a file that keeps the reader busy without an end', () => {
  it('is given up with a sentence; what waits behind it is read all the same', async () => {
    const first = imports.start([endless]);
    const second = imports.start([sound]);
    const told = await outcome(first.id);
    expect(told.state).toBe('failed');
    expect(told.message).toMatch(/^"endless.brep" kept the reader busy for 2 seconds .* export it again/);
    expect((await outcome(second.id)).state).toBe('read');
  }, 120_000);

  it('is stopped at once, and what waits behind it is read all the same', async () => {
    const first = imports.start([endless]);
    const second = imports.start([sound]);
    await imports.stop(first.id);
    expect(imports.show(first.id)).toMatchObject({ state: 'stopped', message: 'Reading was stopped.' });
    expect((await outcome(second.id)).state).toBe('read');
  }, 120_000);

  it('that is stopped before its turn is never read', async () => {
    const first = imports.start([sound]);
    const second = imports.start([endless]);
    const third = imports.start([sound]);
    await imports.stop(second.id);
    expect((await outcome(first.id)).state).toBe('read');
    expect((await outcome(third.id)).state).toBe('read');
    expect(imports.show(second.id).state).toBe('stopped');
  }, 120_000);

  it('that makes the reader end is told, and the next one is read', async () => {
    const first = imports.start([endless]);
    const second = imports.start([sound]);
    // As the CAD kernel does when it aborts.
    await (imports as unknown as { worker: WorkingProcess }).worker.end();
    const told = await outcome(first.id);
    expect(told.state).toBe('failed');
    expect(told.message).toMatch(/makes the reader fail\. Export it again/);
    expect((await outcome(second.id)).state).toBe('read');
  }, 120_000);
});

describe('a model that was read', () => {
  it('is not written any more once that is stopped, and the next file is read', async () => {
    const read = imports.start([sound]);
    expect((await outcome(read.id)).state).toBe('read');
    const busy = imports.start([endless]);
    const placed = imports.accept(read.id, defaultRecipe());
    const refused = expect(placed).rejects.toMatchObject({ code: 'import-stopped', status: 409 });
    await imports.stop(read.id);
    await refused;
    expect(() => imports.show(read.id)).toThrow(/no longer there/);
    await imports.stop(busy.id);
    expect((await outcome(imports.start([sound]).id)).state).toBe('read');
  }, 120_000);

  it('is given up while it is written, without a file that is half there', async () => {
    const read = imports.start([sound]);
    expect((await outcome(read.id)).state).toBe('read');
    const placed = imports.accept(read.id, defaultRecipe());
    const refused = expect(placed).rejects.toMatchObject({ code: 'import-stopped' });
    await imports.stop(read.id);
    await refused;
    const again = imports.start([sound]);
    expect((await outcome(again.id)).state).toBe('read');
    const { hash } = await imports.accept(again.id, defaultRecipe());
    expect(readFileSync(blobs.path(hash)).subarray(0, 4).toString()).toBe('glTF');
  }, 120_000);

  it('is let go of where it is not wanted', async () => {
    const read = imports.start([sound]);
    expect((await outcome(read.id)).state).toBe('read');
    await imports.stop(read.id);
    await expect(imports.accept(read.id, defaultRecipe())).rejects.toMatchObject({ status: 404 });
  }, 120_000);
});

describe('solids that are broken by chance', () => {
  it.each(FORMATS)(
    'in %s end in a model or in a sentence, and the next file is read',
    async (format) => {
      for (let seed = 1; seed <= MUTATIONS; seed++) {
        const name = `${format}-${seed}.${format}`;
        const { state, message } = await outcome(
          imports.start([await keep(name, mutate(solids.get(format)!, seed))]).id,
        );
        if (state === 'failed') expect(message, name).toMatch(/export|choose|check|drop/i);
        else expect(state, name).toBe('read');
      }
      expect((await outcome(imports.start([sound]).id)).state).toBe('read');
    },
    60_000 + MUTATIONS * 10_000,
  );
});

describe('the process that reads', () => {
  it('ends soon after the server was killed, however busy it is', async () => {
    const { pid } = await new Promise<{ pid: number }>((resolve, reject) => {
      const script = `
        import { startProcess } from ${JSON.stringify(new URL('../workers/startProcess.ts', import.meta.url).href)};
        const reader = startProcess('importWorker', 512, () => undefined, () => undefined);
        reader.send(${JSON.stringify({ type: 'read', job: 'endless', source: { name: endless.name, path: blobs.path(endless.hash) }, companions: [] })});
        process.send({ pid: reader.child.pid });
      `;
      const server = fork('-', { execArgv: ['--import', 'tsx', '--input-type=module', '--eval', script] });
      server.on('error', reject);
      server.on('message', (message: { pid: number }) => {
        // By then the reader is at the file that has no end.
        setTimeout(() => server.kill('SIGKILL'), 4000);
        server.on('exit', () => resolve(message));
      });
    });
    const runs = () => {
      try {
        return process.kill(pid, 0);
      } catch {
        return false;
      }
    };
    expect(runs()).toBe(true);
    for (let wait = 0; runs() && wait < 100; wait++) await new Promise((resolve) => setTimeout(resolve, 100));
    expect(runs()).toBe(false);
  }, 60_000);
});
