import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { chmodSync, existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, describe, expect, it } from 'vitest';

const folder = mkdtempSync(join(tmpdir(), 'zippy-start-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const main = fileURLToPath(new URL('main.ts', import.meta.url));
const root = fileURLToPath(new URL('../..', import.meta.url));

function begin(env: Record<string, string>) {
  const server = spawn(process.execPath, ['--import', 'tsx', main], {
    cwd: root,
    env: {
      ...process.env,
      TSX_TSCONFIG_PATH: 'tsconfig.base.json',
      ZIPPY_PORT: '0',
      ZIPPY_DATA: join(folder, 'data'),
      ...env,
    },
  });
  let said = '';
  for (const stream of [server.stdout, server.stderr]) stream.on('data', (chunk: Buffer) => (said += chunk.toString()));
  const ended = once(server, 'exit') as Promise<[number | null]>;
  return {
    server,
    ended,
    said: () => said,
    async until(text: string) {
      while (!said.includes(text)) {
        if (server.exitCode !== null) throw new Error(said);
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
    },
  };
}

async function refusal(env: Record<string, string>): Promise<string> {
  const { ended, said } = begin(env);
  const [code] = await ended;
  expect(code).toBe(1);
  expect(said()).not.toMatch(/\n\s+at /);
  return said().trim();
}

describe('a start that cannot be', () => {
  it.each([
    ['of a bad port', { ZIPPY_PORT: 'eighty' }, /no port.*number/],
    ['of a port beyond all', { ZIPPY_PORT: '99999' }, /no port/],
    ['of an address of another machine', { ZIPPY_HOST: '203.0.113.9' }, /has no address/],
    ['on a file', { ZIPPY_DATA: join(folder, 'file') }, /is a file.*ZIPPY_DATA/],
    ['on a damaged database', { ZIPPY_DATA: join(folder, 'damaged') }, /database .* is damaged/],
  ])(
    '%s says so in a sentence',
    async (_, env, words) => {
      writeFileSync(join(folder, 'file'), '');
      mkdirSync(join(folder, 'damaged'), { recursive: true });
      writeFileSync(join(folder, 'damaged', 'zippy-reel.sqlite'), Buffer.alloc(8192, 'no database '));
      expect(await refusal(env)).toMatch(words);
    },
    60_000,
  );

  it('in a folder that cannot be written says so', async () => {
    const closed = join(folder, 'closed');
    mkdirSync(closed, { recursive: true });
    // An administrator may write everywhere but in the kernel's own folders.
    chmodSync(closed, 0o555);
    const data = process.getuid?.() === 0 ? '/sys/kernel/zippy' : closed;
    expect(await refusal({ ZIPPY_DATA: data })).toMatch(/cannot be written|could not start/);
  }, 60_000);

  it('beside another one on its folder says so, and harms nothing; killed, it leaves no lock', async () => {
    const first = begin({});
    await first.until('Zippy Reel is at');
    const arriving = join(folder, 'data', 'blobs', 'arriving', 'half');
    writeFileSync(arriving, 'half');
    expect(await refusal({})).toMatch(/Another Zippy Reel works on the folder/);
    expect(existsSync(arriving)).toBe(true);
    const taken = /:(\d+)\//.exec(first.said())![1]!;
    expect(await refusal({ ZIPPY_PORT: taken, ZIPPY_DATA: join(folder, 'other') })).toMatch(/Port \d+ is in use/);
    first.server.kill('SIGKILL');
    await first.ended;
    const again = begin({});
    await again.until('Zippy Reel is at');
    expect(existsSync(arriving)).toBe(false);
    again.server.kill('SIGTERM');
    expect((await again.ended)[0]).toBe(0);
  }, 120_000);
});
