import { createReadStream, createWriteStream } from 'node:fs';
import { access, mkdir, rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { DataSource } from 'typeorm';
import yazl from 'yazl';
import { newId, UserProblem } from '@zippy/core/document';
import { filmFormat } from '@zippy/core/reel';
import type { Projects } from '../projects/projects';
import type { Blobs } from '../storage/blobs';
import { errorCode } from '../storage/errorCode';
import { FilmRow, FrameRow, TakeCountRow, TakeRow } from '../storage/entities';
import type { FrameFiles } from '../storage/frameFiles';
import { broken, entriesOf, readProject, type PackedProject } from './readPackage';

/** Files have one date, so that the same project makes the same bytes. */
const DATE = new Date(2026, 0, 1);
const HASH = /[0-9a-f]{64}/g;
const FORMAT = 'zippy-reel project';
const VERSION = 1;

/** What goes along besides the document and its files. */
export interface Packed {
  frames: boolean;
  films: boolean;
}

/** Whole projects as one file, out and in, and as a second one beside the first. */
export class Packages {
  constructor(
    private readonly database: DataSource,
    private readonly projects: Projects,
    private readonly blobs: Blobs,
    private readonly frames: FrameFiles,
    private readonly filmFolder: string,
  ) {}

  /** A project as a stream of a zip: no more of it is in memory than is on its way. */
  async pack(id: string, { frames, films }: Packed): Promise<{ name: string; stream: Readable }> {
    const { text, name, takes, films: made } = await this.gather(id);
    const kept = frames ? takes : [];
    const project: PackedProject = {
      format: FORMAT,
      version: VERSION,
      name,
      document: text,
      takes: kept,
      films: films ? made : [],
    };
    const zip = new yazl.ZipFile();
    zip.addBuffer(Buffer.from(JSON.stringify(project)), 'project.json', { mtime: DATE });
    const add = (path: string, as: string) =>
      zip.addReadStreamLazy(as, { mtime: DATE, compress: false }, (give) => give(null, createReadStream(path)));
    for (const hash of await this.there(hashesIn([text, ...kept.map(({ document }) => document)])))
      add(this.blobs.path(hash), `files/${hash}`);
    const shown = new Set(project.takes.flatMap((take) => take.frames.map(([, identity]) => identity)));
    for (const identity of shown)
      if (this.frames.has(identity)) add(this.frames.path(identity), `frames/${identity}.exr`);
    for (const film of project.films) add(this.filmPath(film), `films/${film.id}.${filmFormat(film.format).extension}`);
    zip.end();
    return { name, stream: zip.outputStream as Readable };
  }

  /**
   * Takes a project in that was packed. It becomes one of its own, whatever is here already.
   * @param path of the file, which is read where it lies
   * @returns its id, and what is missing of it
   * @throws UserProblem `package-broken`, or what is wrong with its document
   */
  async unpack(path: string, name: string): Promise<{ id: string; notes: string[] }> {
    const project = await readProject(path, name);
    const { text, ids } = renamed(project);
    const { id } = await this.projects.create(project.name, text);
    try {
      const notes = await this.keepFiles(path, name, project, ids);
      await this.insert(id, project, ids);
      notes.push(...(await this.missing(text)));
      return { id, notes };
    } catch (error) {
      await this.forget(id, project, ids);
      // What the archive's own reader finds has no code; what the disk says has one.
      if (error instanceof UserProblem || errorCode(error) !== null) throw error;
      throw broken(name, error instanceof Error ? error.message : 'a file in it is damaged');
    }
  }

  /** Nothing half there is left. Files and frames are shared by what is in them: those that nothing needs are tidied as others are. */
  private async forget(id: string, { films }: PackedProject, ids: ReadonlyMap<string, string>): Promise<void> {
    await this.projects.remove(id).catch(() => undefined);
    for (const take of await this.database
      .getRepository(TakeRow)
      .find({ select: { id: true }, where: { project: id } }))
      await this.database.getRepository(FrameRow).delete({ take: take.id });
    for (const table of [TakeRow, TakeCountRow, FilmRow])
      await this.database.getRepository(table).delete({ project: id });
    for (const film of films) await rm(this.filmPath({ ...film, id: ids.get(film.id)! }), { force: true });
  }

  /** A second project like the first, with its takes; frames are shared. */
  async copy(id: string): Promise<{ id: string }> {
    const { text, name, takes } = await this.gather(id);
    const project: PackedProject = {
      ...{ format: FORMAT, version: VERSION, name: `${name} 2`, document: text, takes, films: [] },
    };
    const { text: own, ids } = renamed(project);
    const made = await this.projects.create(project.name, own);
    await this.insert(made.id, project, ids);
    return { id: made.id };
  }

  private async gather(id: string) {
    const { text, name } = await this.projects.withPart(id, ['settings']);
    const rows = await this.database.getRepository(TakeRow).find({ where: { project: id }, order: { number: 'ASC' } });
    const takes: PackedProject['takes'] = [];
    for (const take of rows) {
      const frames = await this.database.getRepository(FrameRow).findBy({ take: take.id });
      takes.push({ ...take, frames: frames.map(({ number, identity }) => [number, identity]) });
    }
    const done = await this.database.getRepository(FilmRow).find({ where: { project: id, state: 'done' } });
    return { text, name, takes, films: done.map((film) => ({ ...film, state: 'done' as const })) };
  }

  private async there(hashes: Iterable<string>): Promise<string[]> {
    const found: string[] = [];
    for (const hash of hashes) if (await this.blobs.has(hash)) found.push(hash);
    return found.sort();
  }

  /** Stores what comes along, each file as what it says it is, or not at all. @returns what was left out */
  private async keepFiles(
    path: string,
    name: string,
    { films }: PackedProject,
    ids: ReadonlyMap<string, string>,
  ): Promise<string[]> {
    let damaged = 0;
    for await (const { kind, id, stream } of entriesOf(path, name)) {
      if (kind === 'file') {
        if ((await this.blobs.has(id)) || (await this.blobs.store(await stream())).hash === id) continue;
        damaged++;
      } else if (kind === 'frame') {
        if (this.frames.has(id)) continue;
        const target = this.frames.path(id);
        await writeTo(target, await stream());
        this.frames.added(id);
        if (!(await this.frames.isWhole(id))) damaged++;
      } else {
        const film = films.find((each) => each.id === id);
        if (film) await writeTo(this.filmPath({ ...film, id: ids.get(id)! }), await stream());
      }
    }
    return damaged === 0 ? [] : [`${damaged} file${damaged === 1 ? '' : 's'} in it ${damaged === 1 ? 'was' : 'were'} damaged and left out.`]; // prettier-ignore
  }

  private async insert(project: string, packed: PackedProject, ids: ReadonlyMap<string, string>): Promise<void> {
    const takes = this.database.getRepository(TakeRow);
    const frames = this.database.getRepository(FrameRow);
    for (const { frames: own, ...take } of packed.takes) {
      const id = ids.get(take.id)!;
      const whole = own.length === take.planned && own.every(([, identity]) => this.frames.has(identity));
      const state = take.state === 'done' && !whole ? 'stopped' : take.state === 'waiting' || take.state === 'rendering' ? 'stopped' : take.state; // prettier-ignore
      await takes.insert({ ...take, id, project, state });
      for (let k = 0; k < own.length; k += 500)
        await frames.insert(own.slice(k, k + 500).map(([number, identity]) => ({ take: id, number, identity })));
    }
    const last = Math.max(0, ...packed.takes.map(({ number }) => number));
    if (last > 0) await this.database.getRepository(TakeCountRow).insert({ project, takes: last });
    for (const film of packed.films) {
      const id = ids.get(film.id)!;
      const there = await access(this.filmPath({ ...film, id })).then(
        () => true,
        () => false,
      );
      if (there) await this.database.getRepository(FilmRow).insert({ ...film, id, project });
    }
  }

  /** Files that a document asks for and that did not come. */
  private async missing(text: string): Promise<string[]> {
    const { assets } = JSON.parse(text) as { assets?: Record<string, { name: string; hash: string }> };
    const names: string[] = [];
    for (const { name, hash } of Object.values(assets ?? {}))
      if (typeof hash === 'string' && !(await this.blobs.has(hash).catch(() => true))) names.push(String(name));
    if (names.length === 0) return [];
    const told = names.slice(0, 5).map((each) => `"${each}"`).join(', '); // prettier-ignore
    return [`It lacks the files of ${told}${names.length > 5 ? ` and ${names.length - 5} others` : ''}: bring them in again.`]; // prettier-ignore
  }

  private filmPath({ id, format }: Pick<FilmRow, 'id' | 'format'>): string {
    return join(this.filmFolder, `${id}.${filmFormat(format).extension}`);
  }
}

/** Contents that texts name. */
const hashesIn = (texts: readonly string[]): Set<string> => new Set(texts.flatMap((text) => text.match(HASH) ?? []));

/** Takes and films get ids of their own, in the document too. */
function renamed({ document, takes, films }: PackedProject): { text: string; ids: Map<string, string> } {
  const ids = new Map([...takes, ...films].map(({ id }) => [id, newId()]));
  let text = document;
  for (const { id } of takes) text = text.replaceAll(`"${id}"`, `"${ids.get(id)}"`);
  return { text, ids };
}

/** Writes a file whole or not at all. */
async function writeTo(path: string, stream: Readable): Promise<void> {
  await mkdir(dirname(path), { recursive: true });
  const part = `${path}.part`;
  try {
    await pipeline(stream, createWriteStream(part));
    await rename(part, path);
  } finally {
    await rm(part, { force: true });
  }
}
