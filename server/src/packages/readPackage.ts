import type { Readable } from 'node:stream';
import { text } from 'node:stream/consumers';
import yauzl, { type Entry, type ZipFile } from 'yauzl';
import * as z from 'zod';
import { LIMITS, UserProblem } from '@zippy/core/document';
import { FILM_FORMAT_NAMES } from '@zippy/core/reel';

const id = z.string().regex(/^[\w-]{1,40}$/);
const whole = z.number().int();
const frameNumber = z.number().int().min(1).max(LIMITS.framesPerShot);
const identity = z.string().regex(/^[0-9a-f]{64}$/);

const projectSchema = z.object({
  format: z.literal('zippy-reel project'),
  version: z.number().int(),
  name: z.string().min(1).max(LIMITS.nameLength),
  /** As text, as it is stored. */
  document: z.string(),
  takes: z
    .array(
      z.object({
        id,
        number: whole.min(1),
        shot: z.string().max(40),
        shotName: z.string().max(LIMITS.nameLength),
        state: z.enum(['waiting', 'rendering', 'stopped', 'done', 'failed']),
        first: frameNumber,
        last: frameNumber,
        settings: z.string().max(100_000),
        document: z.string(),
        scene: z.string().max(64),
        planned: whole.min(0),
        loops: whole.min(0).max(1),
        failure: z.string().max(2000),
        order: z.number(),
        createdAt: z.number(),
        frames: z.array(z.tuple([frameNumber, identity])).max(LIMITS.framesPerShot),
      }),
    )
    .max(10_000),
  films: z
    .array(
      z.object({
        id,
        name: z.string().max(LIMITS.nameLength),
        format: z.enum(FILM_FORMAT_NAMES),
        about: z.string().max(100),
        state: z.literal('done'),
        frames: whole.min(0),
        encoded: whole.min(0),
        bytes: z.number().min(0),
        failure: z.string().max(2000),
        createdAt: z.number(),
      }),
    )
    .max(10_000),
});
/** What a packed project tells of itself. */
export type PackedProject = Omit<z.infer<typeof projectSchema>, 'takes'> & {
  takes: (z.infer<typeof projectSchema>['takes'][number] & { project?: string })[];
};

/** Versions of the form that are read. */
const NEWEST = 1;
const MOST_ENTRIES = 400_000;
/** Bytes of what a project tells of itself, and of any one file. */
const MOST_TOLD = 400e6;
const MOST_FILE = 20e9;

export const broken = (name: string, why: string): UserProblem =>
  new UserProblem(
    'package-broken',
    `"${name}" cannot be read as a project: ${why}. Save it again from where it came; nothing was changed here.`,
    422,
  );

function openZip(path: string, name: string): Promise<ZipFile> {
  return new Promise((resolve, reject) =>
    yauzl.open(path, { lazyEntries: true, autoClose: false, strictFileNames: true }, (error, zip) =>
      error || !zip ? reject(broken(name, 'it is no archive, or is cut off')) : resolve(zip),
    ),
  );
}

const streamOf = (zip: ZipFile, entry: Entry): Promise<Readable> =>
  new Promise((resolve, reject) =>
    zip.openReadStream(entry, (error, stream) => (error ? reject(error) : resolve(stream as Readable))),
  );

/** Entries one after the other; what one is told of is done before the next one comes. */
async function* walk(zip: ZipFile, name: string): AsyncGenerator<Entry> {
  if (zip.entryCount > MOST_ENTRIES) throw broken(name, `it holds more than ${MOST_ENTRIES} files`);
  for (let k = 0; k < zip.entryCount; k++)
    yield await new Promise<Entry>((resolve, reject) => {
      const failed = (error: Error) => reject(broken(name, error.message));
      zip.once('error', failed);
      zip.once('entry', (entry: Entry) => {
        zip.off('error', failed);
        resolve(entry);
      });
      zip.readEntry();
    });
}

/** @throws UserProblem `package-broken`, `package-from-the-future` */
export async function readProject(path: string, name: string): Promise<PackedProject> {
  const zip = await openZip(path, name);
  try {
    for await (const entry of walk(zip, name)) {
      if (entry.fileName !== 'project.json') continue;
      if (entry.uncompressedSize > MOST_TOLD) throw broken(name, 'it tells more of itself than can be read');
      let told: unknown;
      try {
        told = JSON.parse(await text(await streamOf(zip, entry)));
      } catch {
        throw broken(name, 'what it tells of itself is damaged');
      }
      const { format, version } = (told ?? {}) as { format?: unknown; version?: unknown };
      if (format === 'zippy-reel project' && Number(version) > NEWEST)
        throw new UserProblem('package-from-the-future', `"${name}" was saved by a newer Zippy Reel. Update Zippy Reel to open it.`, 409); // prettier-ignore
      const { data } = projectSchema.safeParse(told);
      if (!data) throw broken(name, 'what it tells of itself is not what a project tells');
      return data;
    }
    throw broken(name, 'it holds no project');
  } finally {
    zip.close();
  }
}

const ENTRY = /^(?:files\/([0-9a-f]{64})|frames\/([0-9a-f]{64})\.exr|films\/([\w-]{1,40})\.[a-z0-9]{2,4})$/;

/** Files that come along, by what they are; whatever else is in it is left where it is. */
export async function* entriesOf(
  path: string,
  name: string,
): AsyncGenerator<{ kind: 'file' | 'frame' | 'film'; id: string; stream: () => Promise<Readable> }> {
  const zip = await openZip(path, name);
  try {
    for await (const entry of walk(zip, name)) {
      const [, file, frame, film] = ENTRY.exec(entry.fileName) ?? [];
      const found = file ?? frame ?? film;
      if (found === undefined) continue;
      if (entry.uncompressedSize > MOST_FILE) throw broken(name, `"${entry.fileName}" is too large`);
      const kind = file ? 'file' : frame ? 'frame' : 'film';
      yield { kind, id: found, stream: () => streamOf(zip, entry) };
    }
  } finally {
    zip.close();
  }
}
