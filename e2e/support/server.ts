import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('../..', import.meta.url));

/** A server of the real build on a data folder of its own. */
export class TestServer {
  readonly folder = mkdtempSync(join(tmpdir(), 'zippy-'));
  private process: ChildProcess | null = null;
  address = '';

  constructor(private readonly env: Record<string, string> = {}) {}

  async start(port = '0'): Promise<void> {
    const child = spawn('node', [join(root, 'server/dist/main.js')], {
      env: { ...process.env, ZIPPY_DATA: this.folder, ZIPPY_PORT: port, ...this.env },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    this.process = child;
    let said = '';
    for await (const chunk of child.stdout!) {
      said += String(chunk);
      const address = /http:\S+/.exec(said)?.[0];
      if (address) {
        this.address = address.replace(/\/$/, '');
        break;
      }
    }
    if (!this.address) throw new Error(`the server did not start: ${said}`);
  }

  get port(): string {
    return new URL(this.address).port;
  }

  /** Ends the process with no chance to tidy up. */
  async kill(): Promise<void> {
    const child = this.process;
    if (!child || child.exitCode !== null) return;
    const ended = once(child, 'exit');
    child.kill('SIGKILL');
    await ended;
  }

  async close(): Promise<void> {
    await this.kill();
    rmSync(this.folder, { recursive: true, force: true });
  }
}

export const made = (name: string): string => join(root, 'demo/made', name);
