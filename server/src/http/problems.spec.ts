import express from 'express';
import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import * as z from 'zod';
import { newDocument, UserProblem } from '@zippy/core/document';
import { RevisionConflict } from '../projects/projects';
import { answerProblems } from './problems';

const failures: Record<string, () => never> = {
  sentence: () => {
    throw new UserProblem('range-outside', 'Choose a range inside the shot.', 422);
  },
  invalid: () => z.object({ width: z.number() }).parse({ width: 'wide' }) as never,
  full: () => {
    throw Object.assign(new Error('write'), { code: 'ENOSPC' });
  },
  sqlite: () => {
    throw Object.assign(new Error('database or disk is full'), { code: 'SQLITE_FULL' });
  },
  missing: () => {
    throw Object.assign(new Error('open'), { code: 'ENOENT' });
  },
  fault: () => {
    throw new TypeError('cannot read properties of undefined (reading /root/secret)');
  },
  conflict: () => {
    throw new RevisionConflict({ id: 'p', revision: 3, text: JSON.stringify(newDocument('Theirs')) });
  },
};
const app = express();
app.get('/:name', (request) => failures[request.params.name]!());
app.use(answerProblems);
const server = app.listen(0, '127.0.0.1');
let address = '';
beforeAll(async () => {
  if (!server.listening) await once(server, 'listening');
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => void server.close());

const ask = async (name: string) => {
  const response = await fetch(`${address}/${name}`);
  expect(response.headers.get('content-type')).toMatch('application/problem+json');
  const body = (await response.json()) as {
    status: number;
    title: string;
    detail: string;
    newer?: { revision: number };
  };
  expect(body.status).toBe(response.status);
  expect(body.detail).toMatch(/\.$/);
  return body;
};

describe('an error', () => {
  it('with a sentence keeps it', async () => {
    expect(await ask('sentence')).toMatchObject({
      status: 422,
      title: 'range-outside',
      detail: expect.stringMatching(/inside the shot/),
    });
  });
  it('of a wrong field names the field', async () => {
    expect(await ask('invalid')).toMatchObject({ status: 422, detail: expect.stringMatching(/"width"/) });
  });
  it.each(['full', 'sqlite'])('of a full disk (%s) says what to do', async (name) => {
    expect(await ask(name)).toMatchObject({
      status: 507,
      title: 'disk-full',
      detail: expect.stringMatching(/Free some space/),
    });
  });
  it('of a missing file is not found', async () => expect((await ask('missing')).status).toBe(404));
  it('of the program tells nothing of the machine', async () => {
    const log = vi.spyOn(console, 'error').mockImplementation(() => undefined);
    const body = await ask('fault');
    expect([body.status, /secret|undefined/.test(JSON.stringify(body))]).toEqual([500, false]);
    expect(log).toHaveBeenCalledTimes(1);
    log.mockRestore();
  });
  it('of a conflict brings the newer state', async () => {
    expect(await ask('conflict')).toMatchObject({ status: 409, newer: { revision: 3 } });
  });
});
