import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { makeEdit, newFinish } from '@zippy/core/document';
import { defaultRenderSettings } from '@zippy/core/trace';
import { seeded } from '../../core/intake/testing/broken';
import { openServices, type Services } from './services';

// A disk of its own, which only an administrator may make; where that is not allowed, the disk cannot be filled.
const disk = mkdtempSync(join(tmpdir(), 'zippy-disk-'));
const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=24m', 'tmpfs', disk]).status === 0;
const ballast = join(disk, 'ballast');
const made = new URL('../../demo/made', import.meta.url).pathname;

/** Leaves no more than a few bytes. */
function fill(left = 0): void {
  const { bavail, bsize } = statfsSync(disk);
  const bytes = bavail * bsize - left;
  if (bytes > 0) spawnSync('sh', ['-c', `head -c ${bytes} /dev/zero > "$0"`, ballast]);
}
const free = (): void => rmSync(ballast, { force: true });

describe.skipIf(!mounted)('a full disk', () => {
  let services: Services;
  beforeAll(async () => void (services = await openServices(disk, made)));
  afterAll(async () => {
    free();
    await services.close();
    spawnSync('umount', [disk]);
    rmSync(disk, { recursive: true, force: true });
  });

  const rename = async (id: string, value: number): Promise<number> => {
    const { revision, document } = await services.projects.open(id);
    const { edit } = makeEdit(document, 'rename', (draft) => {
      draft.name = String(value);
      // Large enough that the database has to grow.
      for (let k = 0; k < 12; k++) draft.finishes[`f${value}-${k}`.replace('.', '_')] = newFinish();
    });
    return services.projects.edit(id, revision, edit!.patches, 'w');
  };

  it('at any moment: what was answered is there after a restart, and all goes on when space is freed', async () => {
    const { id } = await services.projects.create('Full');
    const random = seeded(7);
    let acknowledged = 1;
    let refused = 0;
    for (let round = 0; round < 20; round++) {
      fill(Math.floor(random() * 200_000));
      for (let k = 0; k < 6; k++) {
        try {
          acknowledged = await rename(id, round + k / 10);
        } catch (error) {
          refused++;
          expect((error as { code?: string; driverError?: { code: string } }).code ?? '').toMatch(/FULL|NOSPC|IOERR/);
        }
        expect((await services.projects.open(id)).revision).toBe(acknowledged);
      }
      free();
      // Without a restart.
      acknowledged = await rename(id, 100 + round);
      if (round % 5 === 4) {
        await services.close();
        services = await openServices(disk, made);
        const found = await services.projects.open(id);
        expect([found.revision, found.document.name]).toEqual([acknowledged, String(100 + round)]);
      }
    }
    expect(refused).toBeGreaterThan(10);
  }, 120_000);

  it('fails a take with a sentence, which goes on when there is room; the server stays up and starts', async () => {
    const { id } = await services.projects.create('Takes');
    const { document } = await services.projects.open(id);
    const [shot] = Object.keys(document.shots);
    const settings = { ...defaultRenderSettings(), width: 640, height: 360, samples: 1, depth: 1 };
    fill(20_000);
    const take = await services.takes.create(id, shot!, 1, 1, settings).catch(() => null);
    if (!take) free();
    const asked = take ?? (await services.takes.create(id, shot!, 1, 1, settings));
    if (!take) fill(20_000);
    const until = async (state: string) => {
      for (let wait = 0; wait < 400; wait++) {
        const view = await services.takes.show(asked.id);
        if (view.state === state) return view;
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
      throw new Error(`not ${state}: ${JSON.stringify(await services.takes.show(asked.id))}`);
    };
    expect((await until('failed')).failure).toMatch(/disk is full/);
    await services.close();
    // It starts on the full disk, reads, and deletes.
    services = await openServices(disk, made);
    expect((await services.projects.list()).map(({ name }) => name)).toContain('Takes');
    free();
    await services.takes.continue(asked.id).catch(() => undefined);
    await until('done');
    await services.reserve.keep();
    fill(0);
    await services.reserve.spend(() => services.takes.remove(asked.id));
    await services.reserve.spend(() => services.projects.remove(id));
    expect((await services.projects.list()).map(({ name }) => name)).not.toContain('Takes');
    free();
    expect(existsSync(join(disk, 'zippy-reel.sqlite'))).toBe(true);
    writeFileSync(ballast, '');
  }, 120_000);
});
