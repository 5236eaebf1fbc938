import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { newDocument, newFinish, type ProjectDocument } from '@zippy/core/document';
import type { KeptFinish } from '@zippy/core/wire';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { createApp } from '../http/app';
import { openServices, type Services } from '../services';

let folder: string;
let services: Services;
let server: Server;
let address: string;

async function open(): Promise<void> {
  services = await openServices(folder);
  server = createApp(services, null).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api/kept`;
}

async function close(): Promise<void> {
  server.closeAllConnections();
  await new Promise((resolve) => server.close(resolve));
  await services.close();
}

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'zippy-kept-'));
  await open();
});
afterAll(async () => {
  await close();
  await rm(folder, { recursive: true, force: true });
});

const call = (method: string, path: string, body?: unknown) =>
  fetch(address + path, { method, body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } });
const list = async (): Promise<KeptFinish[]> => (await fetch(address)).json();
const holder = (): ProjectDocument => ({
  ...newDocument('Red'),
  finishes: { f: newFinish({ id: 'f', name: 'Red', baseColor: [1, 0, 0] }) },
});

it('keeps finishes over a restart, renames them and takes them off', async () => {
  const answer = await call('POST', '', { name: 'Red', folder: 'Lamps', document: holder() });
  expect(answer.status).toBe(201);
  const { id } = (await answer.json()) as KeptFinish;
  await close();
  await open();
  expect(await list()).toMatchObject([
    { id, name: 'Red', folder: 'Lamps', document: { finishes: { f: { name: 'Red' } } } },
  ]);
  expect((await call('POST', `/${id}`, { name: 'Signal', folder: '' })).status).toBe(204);
  expect(await list()).toMatchObject([{ name: 'Signal', folder: '' }]);
  expect((await call('DELETE', `/${id}`)).status).toBe(204);
  expect(await list()).toEqual([]);
});

it('refuses what is no document, has no name, or is gone, in a sentence', async () => {
  for (const body of [
    { name: 'X', folder: '', document: {} },
    { name: '', folder: '', document: holder() },
    { name: 'X'.repeat(500), folder: '', document: holder() },
    { name: 'X', folder: '', document: { ...holder(), finishes: { f: { name: 'no finish' } } } },
  ])
    expect((await call('POST', '', body)).status).toBe(422);
  const gone = await call('POST', '/nothing', { name: 'X', folder: '' });
  expect(gone.status).toBe(404);
  expect(((await gone.json()) as { detail: string }).detail).toContain('no longer on your shelf');
  expect(await list()).toEqual([]);
});
