import { once } from 'node:events';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openDocument } from '@zippy/core/document';
import { mutate, seeded } from '../../../core/intake/testing/broken';
import { createApp } from '../http/app';
import { openServices, type Services } from '../services';

/** Documents and edits that are tried; every release is tried with 1,400 of each. */
const MUTATIONS = Number(process.env['MUTATIONS'] ?? 150);
const made = new URL('../../../demo/made', import.meta.url).pathname;
const folder = mkdtempSync(join(tmpdir(), 'zippy-broken-'));
const demo = readFileSync(join(made, 'project.json'));

let services: Services;
let server: Server;
let address: string;
beforeAll(async () => {
  services = await openServices(folder, made);
  server = createApp(services, null).listen(0, '127.0.0.1');
  await once(server, 'listening');
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api/projects`;
});
afterAll(async () => {
  server.close();
  server.closeAllConnections();
  await services.close();
  rmSync(folder, { recursive: true, force: true });
});

const post = (path: string, body: string | Uint8Array<ArrayBuffer>) =>
  fetch(address + path, { method: 'POST', body, headers: { 'Content-Type': 'application/json' } });

/** Time in milliseconds in which 99 of 100 other requests were answered while the work went on. */
async function answerBeside(work: () => Promise<void>): Promise<number> {
  let going = true;
  const times: number[] = [];
  const beside = (async () => {
    while (going) {
      const start = performance.now();
      expect((await fetch(address)).status).toBe(200);
      times.push(performance.now() - start);
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  })();
  await work().finally(() => (going = false));
  await beside;
  return times.sort((a, b) => a - b)[Math.floor(times.length * 0.99)]!;
}

/** An answer is what was asked for or a sentence; never a fault of the server. */
async function expectTold(response: Response, what: string): Promise<boolean> {
  const answer = (await response.json()) as { detail?: string };
  if (response.ok) return true;
  expect(response.status, `${what}: ${answer.detail}`).toBeLessThan(500);
  expect(answer.detail, what).toMatch(/\.$/);
  expect(answer.detail, what).not.toMatch(/[\\/](tmp|home|work)|\n|\bat \w+ \(/);
  return false;
}

const VALUES: unknown[] = [
  null, true, '', 'x', '__proto__', '\ud800', -1, 0, 0.5, 1e9, 4294967295, -1e308, [], [[]], [1e99, 'a', null], {}, { id: 'x' },
  { constructor: { prototype: { a: 1 } } }, 'x'.repeat(5000), Array(200).fill(0),
]; // prettier-ignore

type Place = (string | number)[];

/** A random place within a value. */
function placeIn(value: unknown, random: () => number): Place {
  const place: Place = [];
  for (let at = value; at !== null && typeof at === 'object';) {
    const keys = Object.keys(at);
    if (keys.length === 0 || (place.length > 0 && random() < 0.2)) break;
    const key = keys[Math.floor(random() * keys.length)]!;
    place.push(Array.isArray(at) ? Number(key) : key);
    at = (at as Record<string, unknown>)[key];
  }
  return place;
}

function put(value: unknown, place: Place, to: unknown): void {
  let at = value as Record<string | number, unknown>;
  for (const key of place.slice(0, -1)) at = at[key] as Record<string | number, unknown>;
  if (to === undefined) delete at[place.at(-1)!];
  else at[place.at(-1)!] = to;
}

describe('project files that are broken by chance', () => {
  it('are opened or refused with a sentence, and hold up nothing else', async () => {
    const beside = await answerBeside(async () => {
      for (let seed = 1; seed <= MUTATIONS; seed++) {
        const random = seeded(seed);
        const document = JSON.parse(demo.toString()) as unknown;
        for (let changes = 1 + Math.floor(random() * 3); changes > 0; changes--) {
          const value = random() < 0.2 ? undefined : VALUES[Math.floor(random() * VALUES.length)];
          put(document, placeIn(document, random), value);
        }
        const body =
          seed % 4 === 0
            ? mutate(
                new TextEncoder().encode(`{"name":"Odd","document":${demo.toString()}}`) as Uint8Array<ArrayBuffer>,
                seed,
              )
            : JSON.stringify({ name: 'Odd', document });
        const response = await post('', body);
        if (!response.ok) {
          await expectTold(response, `document ${seed}`);
          continue;
        }
        const { id, document: opened } = (await response.json()) as { id: string; document: unknown };
        openDocument(opened);
        expect((await fetch(`${address}/${id}`, { method: 'DELETE' })).status).toBe(204);
      }
    });
    expect(beside).toBeLessThan(200);
  }, 900_000);
});

describe('edits that are broken by chance', () => {
  it('are taken or refused with a sentence; the document stays sound, and nothing else is held up', async () => {
    const { id } = (await (await post('', `{"name":"Edited","document":${demo.toString()}}`)).json()) as { id: string };
    let taken = 0;
    const beside = await answerBeside(async () => {
      for (let seed = 1; seed <= MUTATIONS; seed++) {
        const random = seeded(seed);
        const { revision, document } = (await (await fetch(`${address}/${id}`)).json()) as {
          revision: number;
          document: unknown;
        };
        // Here on the server's own thread, which it would hold up.
        if (seed % 50 === 0) openDocument(document);
        const patches = Array.from({ length: 1 + Math.floor(random() * 3) }, () => {
          const path = placeIn(document, random);
          if (random() < 0.3) path[Math.floor(random() * path.length)] = [1e9, -1, 4294967295, 'length', '__proto__', '', 'toString'][Math.floor(random() * 7)]!; // prettier-ignore
          if (random() < 0.1) path.push('constructor', 'prototype');
          const op = ['add', 'remove', 'replace', 'replace', 'move'][Math.floor(random() * 5)];
          return { op, path, value: VALUES[Math.floor(random() * VALUES.length)] };
        });
        if (await expectTold(await post(`/${id}/edits`, JSON.stringify({ revision, patches, window: 'w' })), `edit ${seed}: ${JSON.stringify(patches).slice(0, 300)}`)) taken++; // prettier-ignore
      }
    });
    expect(taken).toBeGreaterThan(0);
    expect(beside).toBeLessThan(200);
  }, 900_000);
});
