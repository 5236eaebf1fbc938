import { existsSync } from 'node:fs';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { inflateSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { decodeFrame, type LinearFrame } from '@zippy/core/develop';
import { newDocument, newLight, newShot, type ProjectDocument } from '@zippy/core/document';
import { defaultRenderSettings, type RenderSettings } from '@zippy/core/trace';
import { Tracer } from './tracer';

// A floor under a lamp in dim surroundings: noise in the light, none above the horizon.
const document = newDocument('Tracer');
document.lights['l'] = newLight('bulb', { id: 'l', position: [0, 120, 0], radius: 20, power: 400 });
document.set.surroundings.kind = 'color';
document.set.surroundings.picture = null;
document.shots['s'] = newShot({ id: 's', camera: Object.keys(document.cameras)[0]! });
const still = (of: ProjectDocument = document) => ({ document: JSON.stringify(of), shot: 's', frame: 1 });
const settings = { ...defaultRenderSettings(), width: 96, height: 54, depth: 4, samples: 40 };

const deflate = {
  pack: (): Uint8Array => {
    throw new Error('frames are only read here');
  },
  unpack: (bytes: Uint8Array) => inflateSync(bytes),
};
const meanNoise = ({ guides }: LinearFrame): number =>
  guides!.noise!.reduce((sum, v) => sum + v, 0) / guides!.noise!.length;

describe('the tracer', () => {
  const tracer = new Tracer(2);
  let folder: string;
  beforeAll(async () => void (folder = await mkdtemp(join(tmpdir(), 'zippy-tracer-'))));
  afterAll(async () => {
    await tracer.close();
    await rm(folder, { recursive: true });
  });

  const frameOf = async (name: string, over: Partial<RenderSettings>) => {
    const output = join(folder, `${name}.exr`);
    // The identity seeds the frame.
    const request = { ...still(), settings: { ...settings, ...over }, identity: 'f'.repeat(64), output, files: {} };
    const answer = await tracer.trace(request);
    expect(answer.failure).toBeUndefined();
    return decodeFrame(new Uint8Array(await readFile(output)), deflate);
  };

  it('gives every noisy pixel all of its samples where the time per frame is ample', async () => {
    // With a target that no pixel reaches, every noisy one gets all of its samples.
    const whole = await frameOf('whole', { noiseTarget: 1e-9 });
    const timed = await frameOf('timed', { secondsPerFrame: 600 });
    let [same, other] = [0, 0];
    for (let p = 0; p < whole.guides!.noise!.length; p++) {
      const equal = [0, 1, 2].every((k) => whole.beauty[p * 4 + k] === timed.beauty[p * 4 + k]);
      if (whole.guides!.noise![p]! < 1e-4) continue;
      if (equal) same++;
      else other++;
    }
    expect(same).toBeGreaterThan(2000);
    // Pixels whose first samples were all alike are left as they are.
    expect(other).toBeLessThan(0.02 * same);
  });

  it('ends a frame when its time is over, with what it has', async () => {
    const [short, whole] = [
      await frameOf('short', { samples: 4096, secondsPerFrame: 0.001 }),
      await frameOf('long', { samples: 256 }),
    ];
    // The first 8 samples instead of 256 have 5.7 times the deviation.
    expect(meanNoise(short) / meanNoise(whole)).toBeGreaterThan(4.5);
    expect(meanNoise(short) / meanNoise(whole)).toBeLessThan(7);
  });

  it('goes on with a frame that was stopped, from the samples that it had, to the same picture', async () => {
    const asked = { ...settings, samples: 400 };
    const whole = await frameOf('unstopped', asked);
    const output = join(folder, 'stopped.exr');
    const request = { ...still(), settings: asked, identity: 'f'.repeat(64), output, files: {} };
    const told: number[] = [];
    const first = tracer.trace(request, (part) => told.push(part));
    while (told.length === 0) await new Promise((resolve) => setTimeout(resolve, 20));
    tracer.stop();
    expect(await first).toMatchObject({ stopped: true });
    expect(existsSync(`${output}.left`)).toBe(true);
    const again: number[] = [];
    expect(await tracer.trace(request, (part) => again.push(part))).not.toHaveProperty('failure');
    // It is told from where it was left on.
    for (const part of again) expect(part).toBeGreaterThanOrEqual(told.at(-1)!);
    expect(decodeFrame(new Uint8Array(await readFile(output)), deflate).beauty).toEqual(whole.beauty);
    expect(existsSync(`${output}.left`)).toBe(false);
  });

  it('begins a frame anew where what was kept of it is broken', async () => {
    const output = join(folder, 'torn.exr');
    const whole = await frameOf('untorn', {});
    await writeFile(`${output}.left`, '{"pass":');
    const request = { ...still(), settings, identity: 'f'.repeat(64), output, files: {} };
    await tracer.trace(request);
    expect(decodeFrame(new Uint8Array(await readFile(output)), deflate).beauty).toEqual(whole.beauty);
  });

  it('after a frame that fails renders the next one, and says what was missing without a path', async () => {
    const missing = structuredClone(document);
    missing.set.surroundings.kind = 'picture';
    missing.set.surroundings.picture = 'gone';
    const ask = (each: ProjectDocument, files: Record<string, string> = {}) =>
      tracer.trace({ ...still(each), settings, identity: 'a'.repeat(64), output: join(folder, 'next.exr'), files });
    const [failed, next] = await Promise.all([ask(missing, { gone: join(folder, 'nowhere') }), ask(document)]);
    expect(failed!.failure).toMatch(/a file of the scene is missing/);
    expect(failed!.failure).not.toContain('/');
    expect(next!.failure).toBeUndefined();
    // A fault of its own: the thread is replaced, and what waits goes to the new one.
    const odd = { ...settings, layers: null } as unknown as RenderSettings;
    const output = join(folder, 'odd.exr');
    const broken = tracer.trace({ ...still(), settings: odd, identity: 'a'.repeat(64), output, files: {} });
    const [fault, after] = await Promise.all([broken, ask(document)]);
    expect(fault.failure).toMatch(/fault of its own/);
    expect(after!.failure).toBeUndefined();
    // Of a document without the shot, too.
    const lost = structuredClone(document);
    delete lost.shots['s'];
    expect((await ask(lost)).failure).toMatch(/its shot is not in it/);
  });
});
