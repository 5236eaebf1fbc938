import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { Blobs } from './blobs';

let folder: string;
let blobs: Blobs;
beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'zippy-blobs-'));
  blobs = new Blobs(folder, 1000);
  await blobs.prepare();
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));
const arriving = () => readdirSync(join(folder, 'arriving'));

describe('stored files', () => {
  it('are found by what is in them, once however often they come', async () => {
    const hash = createHash('sha256').update('radio').digest('hex');
    for (let k = 0; k < 2; k++) expect(await blobs.store(Readable.from(['ra', 'dio']))).toEqual({ hash, bytes: 5 });
    expect(readFileSync(blobs.path(hash), 'utf8')).toBe('radio');
    expect([await blobs.has(hash), await blobs.has('0'.repeat(64))]).toEqual([true, false]);
    expect(arriving()).toEqual([]);
  });

  it('that are too large are refused and leave nothing', async () => {
    await expect(blobs.store(Readable.from([Buffer.alloc(600), Buffer.alloc(600)]))).rejects.toThrow(/larger than/);
    expect(arriving()).toEqual([]);
    expect(readdirSync(folder)).toEqual(['arriving']);
  });

  it('whose sender goes away leave nothing', async () => {
    const broken = new Readable({ read() {} });
    broken.push('half');
    setTimeout(() => broken.destroy(new Error('the connection was lost')), 20);
    await expect(blobs.store(broken)).rejects.toThrow(/connection was lost/);
    expect(arriving()).toEqual([]);
  });

  it('half arrived when the server was killed are cleared away at its next start', async () => {
    writeFileSync(join(folder, 'arriving', 'abc'), 'half');
    await new Blobs(folder).prepare();
    expect(arriving()).toEqual([]);
  });

  it.each(['../../etc/passwd', 'A'.repeat(64), '0'.repeat(63), ''])('are not reached by %j', (hash) => {
    expect(() => blobs.path(hash)).toThrow(/no such file/);
  });
});
