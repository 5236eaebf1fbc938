import { mkdir, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import sharp from 'sharp';
import yazl from 'yazl';
import {
  fileName,
  stillFormat,
  type Display,
  type Matte,
  type Probed,
  type StillFormatName,
} from '@zippy/core/develop';
import { lookOf, UserProblem, type Look } from '@zippy/core/document';
import type { Projects } from '../projects/projects';
import type { Blobs } from '../storage/blobs';
import { errorCode } from '../storage/errorCode';
import { isDiskFull } from '../storage/reserve';
import type { Answer } from '../workers/answering';
import type { Developed, DevelopRequest, ProbeRequest } from '../workers/developWorker';
import type { Takes } from './takes';

/** What of a frame is developed, and how. */
export interface Shown {
  look: Look;
  layer: string | null;
  matte: Matte | null;
  width: number | null;
}

/** How frames leave. */
export interface Leaving extends Omit<Shown, 'width'> {
  format: StillFormatName;
  ground: string | null;
  display: Display;
}

/** Pixels across a small picture. */
const SMALL = 320;

/** Files have one date, so that the same frames make the same bytes. */
const DATE = new Date(2026, 0, 1);

interface Named {
  name(frame: number): string;
  dotsPerInch: number;
}

/** Frames of takes as pictures: to be looked at, and as files that leave. */
export class Stills {
  constructor(
    private readonly takes: Takes,
    private readonly projects: Projects,
    private readonly blobs: Blobs,
    private readonly rooms: { develop(request: DevelopRequest, abandoned?: AbortSignal): Promise<Developed> },
    private readonly askPoint: (request: ProbeRequest) => Promise<Answer<Probed>>,
    /** Where frames are written to on this machine; null where nobody said. */
    readonly folder: string | null,
  ) {}

  /**
   * A frame to look at.
   * @returns also whether it is final: one beside it may still be rendered, which changes how steady it is
   */
  async show(
    take: string,
    frame: number,
    { look, ...shown }: Shown,
    format: 'png' | 'webp',
    signal: AbortSignal,
  ): Promise<Developed & { final: boolean }> {
    const { final, ...beside } = await this.takes.frameBesides(take, frame);
    const request = {
      ...beside,
      look,
      frame,
      format,
      ...shown,
      ground: null,
      dotsPerInch: null,
      display: 'bt709' as const,
    };
    return { ...(await this.develop(take, request, signal)), final };
  }

  /** A small picture of a frame in the look that its project gives it. */
  async small(project: string, take: { id: string; shot: string }, frame: number): Promise<Uint8Array> {
    const { part } = await this.projects.withPart(project, ['look', 'takeLooks', 'shots']);
    const look = { ...lookOf(part, take.shot, take.id), denoise: 0 };
    const shown = { look, layer: null, matte: null, width: SMALL };
    return (await this.show(take.id, frame, shown, 'webp', new AbortController().signal)).files[0]!.bytes;
  }

  /** A picture of what was filmed, to look at. @param look null shows it as it is */
  async filmed(path: string, look: Look | null, width: number | null, signal: AbortSignal): Promise<Uint8Array> {
    if (look === null) {
      const picture = sharp(path);
      return (width === null ? picture : picture.resize({ width, withoutEnlargement: true })).webp().toBuffer();
    }
    const request = {
      ...{ path, before: null, after: null, filmed: true, look, lookup: await this.blobs.lookupPath(look), frame: 1 },
      ...{ format: 'webp' as const, width, layer: null, matte: null, ground: null, dotsPerInch: null },
      display: 'bt709' as const,
    };
    return (await this.rooms.develop(request, signal)).files[0]!.bytes;
  }

  /** What a frame says at a point, in parts of its width and height. */
  async probe(take: string, frame: number, at: { x: number; y: number }): Promise<Probed> {
    const answer = await this.askPoint({ path: await this.takes.framePath(take, frame), at });
    if ('result' in answer) return answer.result;
    throw new UserProblem(answer.problem.code, answer.problem.message, answer.problem.status);
  }

  /** A frame as a file that leaves. */
  async one(
    take: string,
    frame: number,
    leaving: Leaving,
    signal: AbortSignal,
  ): Promise<{ name: string; mediaType: string; bytes: Uint8Array }> {
    const named = await this.named(take);
    const { mediaType, extension } = stillFormat(leaving.format);
    const files = await this.files(take, frame, leaving, named, signal);
    const name = `${named.name(frame)}.${extension}`;
    const [only] = files;
    if (only && files.length === 1) return { name, mediaType, bytes: only.bytes };
    const zip = new yazl.ZipFile();
    for (const file of files) zip.addBuffer(Buffer.from(file.bytes), file.name, { compress: false, mtime: DATE });
    zip.end();
    return { name, mediaType, bytes: await buffer(zip.outputStream as Readable) };
  }

  /** The frames that are there, packed as they are developed. Aborting ends it. */
  async all(take: string, leaving: Leaving, signal: AbortSignal): Promise<{ name: string; stream: Readable }> {
    const { done, number } = await this.takes.show(take);
    if (done.length === 0)
      throw new UserProblem('frames-missing', `Take ${number} has no frames yet. Wait for the first one.`, 422);
    const named = await this.named(take);
    const zip = new yazl.ZipFile();
    const stream = zip.outputStream as Readable;
    const pack = async () => {
      for (const frame of done) {
        if (signal.aborted) return;
        for (const file of await this.files(take, frame, leaving, named, signal)) {
          zip.addBuffer(Buffer.from(file.bytes), file.name, { compress: false, mtime: DATE });
          // No more is developed than has been taken away.
          while (stream.readableLength > 0 && !signal.aborted) await new Promise((resolve) => setTimeout(resolve, 20));
        }
      }
      zip.end();
    };
    // What went wrong ends the file before its directory, so that nobody takes it for a whole one.
    pack().catch((error: unknown) => stream.destroy(error as Error));
    return { name: `${named.name(done[0]!)}.zip`.replace(/[_-]?0*\d+\.zip$/, '.zip'), stream };
  }

  /**
   * Writes the frames that are there into the server's own folder, each under a name that is free. Those that are written when it is
   * stopped, or something goes wrong, stay.
   */
  async deliver(
    take: string,
    leaving: Leaving,
    signal: AbortSignal,
  ): Promise<{ folder: string; files: number; first: string }> {
    const { folder } = this;
    if (folder === null)
      throw new UserProblem('no-folder', 'This server was given no folder to write frames into. Set ZIPPY_OUT to one, and start it again.', 409); // prettier-ignore
    const { done, number } = await this.takes.show(take);
    if (done.length === 0)
      throw new UserProblem('frames-missing', `Take ${number} has no frames yet. Wait for the first one.`, 422);
    const named = await this.named(take);
    await mkdir(folder, { recursive: true });
    const written: string[] = [];
    for (const frame of done) {
      if (signal.aborted) break;
      for (const { name, bytes } of await this.files(take, frame, leaving, named, signal))
        written.push(await writeBeside(folder, name, bytes));
    }
    return { folder, files: written.length, first: written[0] ?? '' };
  }

  private async files(take: string, frame: number, leaving: Leaving, named: Named, signal: AbortSignal) {
    const { path, before, after } = await this.takes.frameBesides(take, frame);
    const request = { path, before, after, ...leaving, frame, width: null, dotsPerInch: named.dotsPerInch };
    const { plan, extension } = stillFormat(leaving.format);
    const { files } = await this.develop(take, request, signal);
    const ending = plan.by === 'exr' ? 'exr' : extension;
    return files.map(({ layer, bytes }) => ({
      name: `${named.name(frame)}${layer === '' ? '' : `_${layer.replace(/[^\p{L}\p{N}_-]+/gu, '-')}`}.${ending}`,
      bytes,
    }));
  }

  private async develop(
    take: string,
    request: Omit<DevelopRequest, 'lookup'>,
    signal: AbortSignal,
  ): Promise<Developed> {
    const lookup = await this.blobs.lookupPath(request.look);
    try {
      return await this.rooms.develop({ ...request, lookup }, signal);
    } catch (error) {
      if (error instanceof UserProblem && error.code === 'exr-broken')
        await this.takes.frameBroken(take, request.frame);
      throw error;
    }
  }

  /** What the frames of a take are called as files, as its project says now. */
  private async named(id: string): Promise<Named> {
    const { shotName, number, settings } = await this.takes.show(id);
    const { name, part } = await this.projects.withPart(await this.takes.projectOf(id), ['settings']);
    const { fileNames, dotsPerInch } = part.settings;
    const { width, height } = settings;
    return {
      name: (frame) => fileName(fileNames, { project: name, shot: shotName, take: number, frame, width, height }),
      dotsPerInch,
    };
  }
}

/** Names that are tried where one is taken. */
const MOST_TRIED = 10_000;

/** Writes a file under its name, or with a number behind it where that is taken. @returns the name that it got */
async function writeBeside(folder: string, name: string, bytes: Uint8Array): Promise<string> {
  const dot = name.lastIndexOf('.');
  for (let k = 1; k <= MOST_TRIED; k++) {
    const free = k === 1 ? name : `${name.slice(0, dot)}-${k}${name.slice(dot)}`;
    try {
      await writeFile(join(folder, free), bytes, { flag: 'wx' });
      return free;
    } catch (error) {
      if (isDiskFull(error)) {
        await rm(join(folder, free), { force: true });
        throw new UserProblem('disk-full', `The disk of "${folder}" is full. Free some space; what was written before is there.`, 507); // prettier-ignore
      }
      if (errorCode(error) !== 'EEXIST')
        throw new UserProblem('folder-closed', `Nothing can be written into "${folder}" (${errorCode(error) ?? 'unknown'}). Let the server write there, or set ZIPPY_OUT to another folder.`, 409); // prettier-ignore
    }
  }
  throw new UserProblem('names-taken', `There are ${MOST_TRIED} files called ${name} already. Clear the folder.`, 409);
}
