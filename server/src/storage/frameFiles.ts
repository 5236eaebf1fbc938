import { mkdir, open, readdir, rm, stat, statfs } from 'node:fs/promises';
import { join } from 'node:path';
import { exrEnd } from '@zippy/core/develop';
import { forgetLeft } from './leftFrame';

const NAME = /^([0-9a-f]{64})\.exr$/;
const LEFT = /^([0-9a-f]{64})\.exr\.left$/;
/** Files that are asked for their size at a time. */
const AT_ONCE = 64;

const sizeOf = (path: string): Promise<number> =>
  stat(path).then(
    ({ size }) => size,
    () => 0,
  );

/** Rendered frames on disk by their identities. What is there is known without asking the disk. */
export class FrameFiles {
  private readonly there = new Set<string>();

  constructor(private readonly folder: string) {}

  /** Looks what is there, and removes what was half written when the server ended. */
  async prepare(): Promise<void> {
    await mkdir(this.folder, { recursive: true });
    for (const group of await readdir(this.folder, { withFileTypes: true })) {
      if (!group.isDirectory()) continue;
      for (const file of await readdir(join(this.folder, group.name))) {
        const identity = NAME.exec(file)?.[1];
        if (identity) this.there.add(identity);
        else if (file.endsWith('.part')) await rm(join(this.folder, group.name, file), { force: true });
      }
    }
  }

  path(identity: string): string {
    return join(this.folder, identity.slice(0, 2), `${identity}.exr`);
  }

  has(identity: string): boolean {
    return this.there.has(identity);
  }

  added(identity: string): void {
    this.there.add(identity);
  }

  /** Free bytes of the disk that frames are on. */
  async free(): Promise<number> {
    const { bavail, bsize } = await statfs(this.folder);
    return bavail * bsize;
  }

  /** Bytes that frames take, together. */
  async bytesOf(identities: Iterable<string>): Promise<number> {
    let sum = 0;
    const all = [...identities];
    for (let k = 0; k < all.length; k += AT_ONCE) {
      const sizes = await Promise.all(all.slice(k, k + AT_ONCE).map((identity) => sizeOf(this.path(identity))));
      sum += sizes.reduce((total, size) => total + size, 0);
    }
    return sum;
  }

  /** Frames that are not among those that are needed: whole ones, and what is left of some in the middle. */
  async besides(needed: ReadonlySet<string>): Promise<{ identities: string[]; bytes: number }> {
    const found = new Set([...this.there].filter((identity) => !needed.has(identity)));
    let bytes = await this.bytesOf(found);
    for (const group of await readdir(this.folder, { withFileTypes: true })) {
      if (!group.isDirectory()) continue;
      for (const file of await readdir(join(this.folder, group.name))) {
        const identity = LEFT.exec(file)?.[1];
        if (!identity || needed.has(identity)) continue;
        found.add(identity);
        bytes += await sizeOf(join(this.folder, group.name, file));
      }
    }
    return { identities: [...found], bytes };
  }

  /** Removes a frame, with what there was of it if it was left in the middle. */
  async remove(identity: string): Promise<void> {
    this.there.delete(identity);
    await rm(this.path(identity), { force: true });
    await forgetLeft(this.path(identity));
  }

  /** Whether a frame that is there is as long as it says; one that is not is removed. */
  async isWhole(identity: string): Promise<boolean> {
    try {
      const file = await open(this.path(identity));
      try {
        const { size } = await file.stat();
        const read = async (from: number, length: number) => {
          const bytes = new Uint8Array(Math.max(0, Math.min(length, size - from)));
          await file.read(bytes, 0, bytes.length, from);
          return bytes;
        };
        if ((await exrEnd(read)) === size) return true;
      } finally {
        await file.close();
      }
    } catch {
      // What cannot be read is not whole.
    }
    await this.remove(identity);
    return false;
  }
}
