import { readFile } from 'node:fs/promises';
import { In, type DataSource } from 'typeorm';
import {
  frameCount,
  heldFrame,
  newId,
  renderedFrames,
  UserProblem,
  type ProjectDocument,
  type Shot,
} from '@zippy/core/document';
import { keptLayers } from '@zippy/core/develop';
import {
  defaultRenderSettings,
  filmBeyond,
  frameBytes,
  predictTake,
  probeFrames,
  renderSettingsSchema,
  type Probe,
  type RenderSettings,
} from '@zippy/core/trace';
import type { Disk, Foreseen, Take, TakeState } from '@zippy/core/wire';
import type { Events } from '../events/events';
import type { Projects } from '../projects/projects';
import type { Blobs } from '../storage/blobs';
import { atomically, NothingChanged } from '../storage/atomically';
import { FrameRow, TakeCountRow, TakeRow } from '../storage/entities';
import type { FrameFiles } from '../storage/frameFiles';
import { isDiskFull } from '../storage/reserve';
import type { Tracer } from '../workers/tracer';
import type { Planner } from './planner';

/** A take without its document, which may be large. */
type Entry = Omit<TakeRow, 'document'>;
const ENTRY = {
  id: true,
  project: true,
  number: true,
  shot: true,
  shotName: true,
  state: true,
  first: true,
  last: true,
  settings: true,
  scene: true,
  planned: true,
  loops: true,
  failure: true,
  order: true,
  createdAt: true,
} as const;

const DISK_FULL = 'The disk is full. Free some space, then continue the take: the frames rendered so far are kept.';
/** Most frames that are named to foresee a take; of a longer one as many, evenly over it. */
const MOST_FORESEEN = 1500;
/** Milliseconds after which a state that could not be written, as the disk was full, is tried again. */
const AGAIN = 5000;
/** Part of what is free on the disk that a take may be foreseen to use. */
const USED_OF_FREE = 0.95;

const sayBytes = (bytes: number): string =>
  bytes < 1e9 ? `${Math.round(bytes / 1e6)} MB` : `${(bytes / 1e9).toFixed(1)} GB`;

/** @throws UserProblem `picture-large` where a picture's film would not fit into the tracer's memory */
function askFilm(settings: RenderSettings, lights: number): void {
  const beyond = filmBeyond(settings, lights);
  if (!beyond) return;
  const { width, height, layers } = settings;
  const fewer = layers.length > 0 ? ', or keep fewer layers' : '';
  throw new UserProblem(
    'picture-large',
    `A picture of ${width} × ${height} with these layers needs ${sayBytes(beyond.needed)} while it is traced; ${sayBytes(beyond.most)} is the most. Render it at most ${beyond.width} pixels wide${fewer}.`,
    422,
  );
}

/** Takes and the queue that renders them, one frame after another on all cores, across restarts of the server. */
export class Takes {
  private running = false;
  private current: string | null = null;
  private closed = false;
  /** States that the disk had no room for: they hold until it has. */
  private readonly unwritten = new Map<string, { state: TakeState; failure: string }>();
  /** Plans under way, and who waits for their next names. */
  private readonly plans = new Map<string, { ended: Promise<void>; heard: (() => void)[] }>();
  private retry: NodeJS.Timeout | undefined;

  constructor(
    private readonly database: DataSource,
    private readonly projects: Projects,
    private readonly blobs: Blobs,
    private readonly files: FrameFiles,
    private readonly tracer: Tracer,
    private readonly events: Events,
    private readonly planner: Planner,
  ) {}

  /** Queues frames `first` to `last` of a shot as the project stands now. Its frames are named while the first are rendered. */
  async create(
    project: string,
    shotId: string,
    first: number,
    last: number,
    settings: RenderSettings,
    scene = '',
    colourway?: string,
    anyway = false,
  ): Promise<Take> {
    const { text: present, shot, colourways, lights } = await this.checked(project, shotId, first, last);
    askFilm(settings, lights);
    if (!anyway) await this.askDisk(settings, frameCount({ first, last, settings }), lights);
    const variant = colourway === undefined ? undefined : colourways[colourway];
    if (colourway !== undefined && !variant)
      throw new UserProblem('not-found', 'This colourway is no longer there.', 404);
    const text = colourway === undefined ? present : await this.inColourway(present, shotId, colourway);
    const whole = first === 1 && last === shot.length && settings.step === 1;
    const loops = whole && (await this.planner.loops({ document: text, shot: shotId, settings }));
    const row: TakeRow = {
      id: newId(),
      project,
      number: 0,
      shot: shotId,
      shotName: variant ? `${shot.name}, ${variant.name}` : shot.name,
      state: 'waiting',
      first,
      last,
      settings: JSON.stringify(settings),
      document: text,
      scene,
      planned: 0,
      loops: loops ? 1 : 0,
      failure: '',
      // One frame is looked at at once: it goes before those of a take, whose frame at work is kept meanwhile.
      order: first === last ? await this.beforeTakes() : Date.now(),
      createdAt: Date.now(),
    };
    await this.enter(row);
    this.events.send({ type: 'takes', project });
    if (first === last) await this.giveWay(row);
    this.go();
    return this.view(row);
  }

  /** @throws UserProblem `disk-short` where frames would not fit on the disk, as far as that can be foreseen */
  private async askDisk(settings: RenderSettings, frames: number, lights: number): Promise<void> {
    const [wanted, free] = [frameBytes(settings, frames, lights), await this.files.free()];
    if (wanted < free * USED_OF_FREE) return;
    const { width, height } = settings;
    throw new UserProblem(
      'disk-short',
      `${frames} frames of ${width} × ${height} with these layers take about ${sayBytes(wanted)}, and the disk has ${sayBytes(free)} left. Frames that repeat take their room once. Render fewer frames, a smaller size or fewer layers, or delete takes.`,
      507,
    );
  }

  /** What frames take on the disk. */
  async disk(project: string): Promise<Disk> {
    const own = await this.distinct('take IN (SELECT id FROM take WHERE project = :project)', { project });
    const needed = new Set(await this.distinct('1 = 1', {}));
    return {
      free: await this.files.free(),
      project: await this.files.bytesOf(own),
      unneeded: (await this.files.besides(needed)).bytes,
    };
  }

  /** Removes frames that no take shows. @returns how many bytes that freed */
  async tidy(): Promise<number> {
    const { identities, bytes } = await this.files.besides(new Set(await this.distinct('1 = 1', {})));
    // One that a take has asked for meanwhile stays.
    await this.sweep(identities);
    return bytes;
  }

  private async distinct(where: string, parameters: object): Promise<string[]> {
    const rows = await this.database
      .createQueryBuilder(FrameRow, 'frame')
      .select('DISTINCT identity', 'identity')
      .where(where, parameters)
      .getRawMany<{ identity: string }>();
    return rows.map(({ identity }) => identity);
  }

  /** Gives a take the next number of its project, which no other has had before, and keeps it. */
  private async enter(row: TakeRow): Promise<void> {
    const { project } = row;
    for (;;) {
      const count = await this.database.getRepository(TakeCountRow).findOneBy({ project });
      row.number = (count?.takes ?? 0) + 1;
      try {
        return atomically(this.database, [
          {
            getQueryAndParameters: () => [
              'INSERT INTO take_count (project, takes) VALUES (?, ?) ON CONFLICT (project) DO UPDATE SET takes = excluded.takes WHERE takes = excluded.takes - 1',
              [project, row.number],
            ],
          },
          this.database.createQueryBuilder().insert().into(TakeRow).values(row),
        ]);
      } catch (error) {
        // Another take came first.
        if (!(error instanceof NothingChanged)) throw error;
      }
    }
  }

  /**
   * What rendering frames `first` to `last` of a shot would take, from a few of them rendered small.
   * @param others further ways to render the same frames, as if none of them were there
   */
  async predict(
    project: string,
    shotId: string,
    first: number,
    last: number,
    settings: RenderSettings,
    others: RenderSettings[] = [],
  ): Promise<Foreseen> {
    const { text, assets } = await this.checked(project, shotId, first, last);
    const all = renderedFrames({ first, last, settings });
    const count = all.length;
    const named = Math.min(count, MOST_FORESEEN);
    const frames = Array.from({ length: named }, (_, k) => all[Math.floor((k * count) / named)]!);
    const missing: number[] = [];
    const seen = new Set<string>();
    const told = new Set<string>();
    let k = 0;
    await this.planner.plan({ document: text, shot: shotId, frames, settings }, (names) => {
      for (const identity of names) {
        const frame = frames[k++]!;
        told.add(identity);
        if (seen.has(identity) || this.files.has(identity)) continue;
        seen.add(identity);
        missing.push(frame);
      }
      return !this.closed;
    });
    const files = this.blobs.assetPaths({ assets }, true);
    const probes: Probe[] = [];
    // Where all is there already, what other ways would take is still to be measured.
    for (const frame of probeFrames(missing.length > 0 || others.length === 0 ? missing : [frames[0]!])) {
      const asked = { document: text, shot: shotId, frame, settings: { ...settings, layers: [] } };
      const answer = await this.tracer.trace({ ...asked, identity: '', output: null, files });
      if (answer.failure !== undefined)
        throw new UserProblem('probe-failed', `The shot could not be measured: ${answer.failure}`, 500);
      if (answer.probe) probes.push(answer.probe);
    }
    if (probes.length === 0 && missing.length > 0)
      throw new UserProblem('probe-stopped', 'The measurement was stopped. Ask again when no take renders.', 409);
    const ofAll = (part: number) => Math.round((part * count) / named);
    return {
      ...predictTake(probes, settings, ofAll(missing.length)),
      others: others.map((way) => predictTake(probes, way, ofAll(told.size))),
    };
  }

  /** The project's document as text, its assets and the shot. @throws UserProblem where its frames cannot be rendered */
  private async checked(
    project: string,
    shotId: string,
    first: number,
    last: number,
  ): Promise<{ text: string; shot: Shot; lights: number } & Pick<ProjectDocument, 'assets' | 'colourways'>> {
    const { text, part } = await this.projects.withPart(project, [
      'assets',
      'cameras',
      'shots',
      'colourways',
      'lights',
    ]);
    const shot = part.shots[shotId];
    if (!shot) throw new UserProblem('not-found', 'This shot is no longer there.', 404);
    if (first > last || last > shot.length) {
      throw new UserProblem(
        'range-outside',
        `Frames ${first} to ${last} lie outside the shot, which has ${shot.length}. Choose a range inside it.`,
        422,
      );
    }
    if (!shot.camera || !part.cameras[shot.camera]) {
      throw new UserProblem('no-camera', `"${shot.name}" has no camera. Keep the present view as a camera first.`, 422);
    }
    // With the surroundings.
    const lights = Object.keys(part.lights).length + 1;
    return { text, assets: part.assets, colourways: part.colourways, shot, lights };
  }

  /** A document's text with a shot in another colourway; the text may be large, so the database writes it. */
  private async inColourway(text: string, shot: string, colourway: string): Promise<string> {
    const rows: { text: string }[] = await this.database.query('SELECT json_set(?, ?, ?) AS text', [
      text,
      `$.shots."${shot}".colourway`,
      colourway,
    ]);
    return rows[0]!.text;
  }

  async list(project: string): Promise<Take[]> {
    const rows = await this.database.getRepository(TakeRow).find({
      select: ENTRY,
      where: { project },
      order: { number: 'ASC' },
    });
    return Promise.all(rows.map((row) => this.view(row)));
  }

  async show(id: string): Promise<Take> {
    return this.view(await this.find(id));
  }

  /** The document of a take, as it is stored: it may be of an older shape. */
  async documentText(id: string): Promise<string> {
    return this.documentOf(await this.find(id));
  }

  async projectOf(id: string): Promise<string> {
    return (await this.find(id)).project;
  }

  async stop(id: string): Promise<void> {
    const row = await this.find(id);
    if (row.state !== 'waiting' && row.state !== 'rendering') return;
    await this.setState(row, 'stopped');
    if (this.current === id) this.tracer.stop();
  }

  /** Place in the queue before all takes of several frames, and behind the stills that wait already. */
  private async beforeTakes(): Promise<number> {
    const queue = await this.queued();
    const next = queue.findIndex(({ first, last }) => first !== last);
    if (next < 0) return Date.now();
    const before = queue[next - 1];
    return before ? (before.order + queue[next]!.order) / 2 : queue[next]!.order - 1;
  }

  /** Takes that wait or are rendered, the next first. */
  private queued(): Promise<Entry[]> {
    return this.database
      .getRepository(TakeRow)
      .find({ select: ENTRY, where: { state: In(['waiting', 'rendering']) }, order: { order: 'ASC' } });
  }

  /** Leaves the frame at work for now where another take comes before its own. */
  private async giveWay({ id }: { id: string }): Promise<void> {
    const [next] = await this.queued();
    if (this.current !== null && this.current !== id && next?.id === id) this.tracer.stop();
  }

  /** Puts a take that waits or is rendered before another one in the queue; null is behind all. */
  async queueBefore(id: string, before: string | null): Promise<void> {
    const row = await this.find(id);
    const others = (await this.queued()).filter((each) => each.id !== id);
    const at = before === null ? others.length : others.findIndex((each) => each.id === before);
    if (at < 0 || (row.state !== 'waiting' && row.state !== 'rendering'))
      throw new UserProblem('not-queued', 'This take does not wait any more. Look at the list again.', 409);
    const [above, below] = [others[at - 1], others[at]];
    const order = above && below ? (above.order + below.order) / 2 : below ? below.order - 1 : above ? above.order + 1 : row.order; // prettier-ignore
    await this.database.getRepository(TakeRow).update({ id }, { order });
    this.events.send({ type: 'takes', project: row.project });
    const [next] = await this.queued();
    if (next) await this.giveWay(next);
  }

  async continue(id: string): Promise<void> {
    const row = await this.find(id);
    if (row.state !== 'stopped' && row.state !== 'failed') return;
    await this.setState(row, 'waiting');
    this.go();
  }

  /** Deletes a take and those of its frames that no other take shows. */
  async remove(id: string): Promise<void> {
    const row = await this.find(id);
    await this.stop(id).catch((error: unknown) => {
      // On a full disk a take must be deleted all the same.
      if (!isDiskFull(error)) throw error;
      if (this.current === id) this.tracer.stop();
    });
    const identities = await this.identitiesOf(id);
    const gone = (table: typeof TakeRow | typeof FrameRow, column: string) =>
      this.database.createQueryBuilder().delete().from(table).where(`${column} = :id`, { id });
    atomically(this.database, [gone(TakeRow, 'id'), gone(FrameRow, 'take')]);
    this.unwritten.delete(id);
    await this.sweep(identities.map(({ identity }) => identity));
    this.events.send({ type: 'takes', project: row.project });
  }

  async removeAllOf(project: string): Promise<void> {
    const rows = await this.database.getRepository(TakeRow).find({ select: { id: true }, where: { project } });
    for (const { id } of rows) await this.remove(id);
    await this.database.getRepository(TakeCountRow).delete({ project });
  }

  /** Removes frames that no take shows any more. */
  private async sweep(identities: string[]): Promise<void> {
    const frames = this.database.getRepository(FrameRow);
    for (const identity of new Set(identities))
      if (!(await frames.existsBy({ identity }))) await this.files.remove(identity);
  }

  /** Path of a rendered frame. @throws UserProblem where it is not there yet */
  async framePath(id: string, number: number): Promise<string> {
    const frame = await this.rendered(id, number);
    const identity = await this.identityOf(id, frame);
    if (identity && this.files.has(identity)) return this.files.path(identity);
    const row = await this.find(id);
    throw new UserProblem('frame-missing', `Frame ${frame} of take ${row.number} is not rendered yet.`, 404);
  }

  /** The rendered frame that is shown for one. */
  private async rendered(id: string, frame: number): Promise<number> {
    const { first, last, settings } = await this.find(id);
    return frame < first || frame > last
      ? frame
      : heldFrame({ first, last, settings: readSettings(settings) ?? { step: 1 } }, frame);
  }

  /** Takes a frame out that turned out to be damaged, so that continuing the take renders it again. */
  async frameBroken(id: string, frame: number): Promise<void> {
    const identity = await this.identityOf(id, await this.rendered(id, frame));
    if (identity) await this.files.remove(identity);
    const row = await this.find(id);
    const failure = `Frame ${frame} was damaged on the disk and was taken out. Continue the take to render it again.`;
    if (row.state === 'done' || row.state === 'stopped') await this.setState(row, 'stopped', failure);
  }

  /** Names of the layers of a take, by its first frame that is rendered; none before there is one. */
  async layers(id: string): Promise<string[]> {
    for (const { identity } of await this.identitiesOf(id))
      if (this.files.has(identity)) return keptLayers(new Uint8Array(await readFile(this.files.path(identity))));
    return [];
  }

  /**
   * A rendered frame with those beside it in its take: null where there is none, or the same picture. Of a shot that loops, the first and
   * the last stand beside each other.
   * @returns also whether the ones beside it are final: one may still be rendered
   */
  async frameBesides(
    id: string,
    frame: number,
  ): Promise<{ path: string; before: string | null; after: string | null; final: boolean }> {
    const path = await this.framePath(id, frame);
    const { first, last, loops, settings } = await this.find(id);
    // Where frames are left out, those beside it are too far away to steady it.
    if ((readSettings(settings)?.step ?? 1) > 1) return { path, before: null, after: null, final: true };
    const beside = async (step: number) => {
      const next = frame + step;
      const other = next >= first && next <= last ? next : loops ? (next < first ? last : first) : null;
      if (other === null) return { path: null, final: true };
      const found = await this.framePath(id, other).catch(() => null);
      return { path: found === path ? null : found, final: found !== null };
    };
    const [before, after] = [await beside(-1), await beside(1)];
    return { path, before: before.path, after: after.path, final: before.final && after.final };
  }

  /** Takes up what was under way when the server ended. */
  async resume(): Promise<void> {
    await this.database
      .getRepository(TakeRow)
      .update({ state: 'rendering' }, { state: 'waiting' })
      .catch((error: unknown) => {
        if (!isDiskFull(error)) throw error;
      });
    this.go();
  }

  async close(): Promise<void> {
    this.closed = true;
    clearTimeout(this.retry);
    this.tracer.stop();
    await this.tracer.close();
    await this.planner.close();
    await Promise.allSettled([...this.plans.values()].map(({ ended }) => ended));
  }

  private go(): void {
    void this.run().catch((error: unknown) => {
      // Nothing that goes wrong with a take may end the queue.
      if (this.closed) return;
      console.error('The queue of takes was interrupted:', error);
      clearTimeout(this.retry);
      this.retry = setTimeout(() => this.go(), AGAIN);
    });
  }

  private async run(): Promise<void> {
    if (this.running) return;
    this.running = true;
    try {
      for (;;) {
        await this.writeStates();
        const rows = await this.queued();
        const row = rows.find(({ id }) => !this.unwritten.has(id));
        if (!row || this.closed) return;
        this.current = row.id;
        await this.setState(row, 'rendering');
        try {
          await this.render(row);
        } catch (error) {
          if (this.closed) return;
          const reason = error instanceof Error ? error.message : String(error);
          await this.setState(row, 'failed', isDiskFull(error) ? DISK_FULL : `The take cannot be rendered: ${reason}`);
        }
      }
    } finally {
      this.running = false;
      this.current = null;
    }
  }

  private async render(row: Entry): Promise<void> {
    const document = await this.documentOf(row);
    const settings = readSettings(row.settings);
    if (!settings) throw new UserProblem('settings-broken', 'its settings are of a kind that is not known here.');
    const files = this.blobs.assetPaths({ assets: await this.assetsOf(row) }, true);
    const checked = new Set<string>();
    const pace = { frames: 0, seconds: 0 };
    for (const [k, frame] of renderedFrames({ ...row, settings }).entries()) {
      const identity = await this.plannedIdentity(row, frame, k);
      if (identity === null || this.closed || !(await this.stillRenders(row))) return;
      const known = this.files.has(identity) && (checked.has(identity) || (await this.files.isWhole(identity)));
      checked.add(identity);
      if (known) continue;
      if (await this.isOvertaken(row)) return;
      const asked = { document, shot: row.shot, frame, settings, identity, output: this.files.path(identity) };
      const missing = await this.missingOf(row, settings);
      const began = performance.now();
      const answer = await this.tracer.trace({ ...asked, files }, (part) => {
        const elapsed = (performance.now() - began) / 1000;
        const each = pace.frames > 0 ? pace.seconds / pace.frames : part > 0.02 ? elapsed / part : null;
        const secondsLeft = each === null ? null : each * Math.max(0, missing - part);
        this.events.send({ type: 'progress', project: row.project, take: row.id, frame, part, secondsLeft });
      });
      if (this.closed) return;
      if (answer.stopped) {
        // Either its user stopped it, or another take goes first.
        await this.isOvertaken(row);
        return;
      }
      pace.frames++;
      pace.seconds += (performance.now() - began) / 1000;
      if (answer.failure !== undefined) {
        const failure =
          answer.code === 'ENOSPC' ? DISK_FULL : `Frame ${frame} could not be rendered: ${answer.failure}`;
        await this.setState(row, 'failed', failure);
        return;
      }
      this.files.added(identity);
      // Deleted while its frame was at work: the frame must not stay behind.
      if (!(await this.database.getRepository(TakeRow).existsBy({ id: row.id }))) return this.sweep([identity]);
      await this.tellRendered(row, identity);
    }
    if (await this.stillRenders(row)) await this.setState(row, 'done');
  }

  /** Whether another take comes first now; then this one waits for its turn again. */
  private async isOvertaken(row: Entry): Promise<boolean> {
    const [next] = (await this.queued()).filter(({ id }) => !this.unwritten.has(id));
    if (!next || next.id === row.id || !(await this.stillRenders(row))) return false;
    await this.setState(row, 'waiting');
    return true;
  }

  /** How many pictures of a take are still to be traced, as far as its frames have names. */
  private async missingOf(row: Entry, settings: RenderSettings): Promise<number> {
    const named = await this.identitiesOf(row.id);
    const distinct = new Set(named.flatMap(({ identity }) => (this.files.has(identity) ? [] : [identity])));
    return distinct.size + frameCount({ ...row, settings }) - named.length;
  }

  /** Tells windows the frames that show a picture, as many of them as have their names. */
  private async tellRendered({ id, project, planned }: Entry, identity: string): Promise<void> {
    const frames = await this.database
      .getRepository(FrameRow)
      .find({ select: { number: true }, where: { take: id, identity }, order: { number: 'ASC' } });
    this.events.send({ type: 'frame', project, take: id, frames: frames.map(({ number }) => number), named: planned });
  }

  private async documentOf({ id }: Entry): Promise<string> {
    const row = await this.database.getRepository(TakeRow).findOneOrFail({ select: { document: true }, where: { id } });
    return row.document;
  }

  /** The assets of a take's document, which is not opened here: that takes its time. */
  private async assetsOf({ id }: Entry): Promise<ProjectDocument['assets']> {
    const row = await this.database
      .createQueryBuilder(TakeRow, 'take')
      .select("json_extract(document, '$.assets')", 'assets')
      .where({ id })
      .getRawOne<{ assets: string }>();
    return JSON.parse(row?.assets ?? '{}') as ProjectDocument['assets'];
  }

  /** Name of a frame, as soon as it is found; null where planning was stopped. @throws Error where it cannot be named */
  private async plannedIdentity(row: Entry, frame: number, k: number): Promise<string | null> {
    for (;;) {
      const found = await this.identityOf(row.id, frame);
      if (found) return found;
      if (this.closed || !(await this.stillRenders(row))) return null;
      const known = this.plans.get(row.id);
      if (!known && row.planned > k) throw new Error(`frame ${frame} has no name.`);
      const plan = known ?? this.startPlan(row);
      await Promise.race([plan.ended, new Promise<void>((resolve) => plan.heard.push(resolve))]);
    }
  }

  /** Names the frames of a take that have no name yet. */
  private startPlan(row: Entry): { ended: Promise<void>; heard: (() => void)[] } {
    const heard: (() => void)[] = [];
    const settings = readSettings(row.settings)!;
    const frames = renderedFrames({ ...row, settings }).slice(row.planned);
    const work = async () => {
      let failed: unknown;
      const document = await this.documentOf(row);
      await this.planner.plan({ document, shot: row.shot, frames: [...frames], settings }, (names) => {
        if (this.closed || !this.plans.has(row.id)) return false;
        try {
          this.keepNames(row, frames.splice(0, names.length), names);
        } catch (error) {
          failed = error;
          return false;
        }
        for (const tell of heard.splice(0)) tell();
        return true;
      });
      // Deleted meanwhile: nobody waits for the rest.
      if (failed && !(failed instanceof NothingChanged)) throw failed;
    };
    // Not before the plan is entered: it may hear names at once.
    const ended = Promise.resolve()
      .then(work)
      .finally(() => {
        this.plans.delete(row.id);
      });
    // Whoever waits hears of a failure; nobody may.
    ended.catch(() => undefined);
    const plan = { ended, heard };
    this.plans.set(row.id, plan);
    return plan;
  }

  private keepNames(row: Entry, numbers: number[], names: string[]): void {
    const planned = row.planned + names.length;
    const query = () => this.database.createQueryBuilder();
    const frames = names.map((identity, k) => ({ take: row.id, number: numbers[k]!, identity }));
    atomically(this.database, [
      query().update(TakeRow).set({ planned }).where('id = :id', { id: row.id }),
      query().insert().into(FrameRow).values(frames),
    ]);
    row.planned = planned;
    // By now it is known how many of its pictures repeat.
    if (planned === frameCount({ ...row, settings: readSettings(row.settings)! }))
      this.events.send({ type: 'takes', project: row.project });
  }

  /** Sets a state, which holds from now on; on a full disk it is written later. */
  private async setState(row: Entry, state: TakeState, failure = ''): Promise<void> {
    try {
      await this.database.getRepository(TakeRow).update({ id: row.id }, { state, failure });
      this.unwritten.delete(row.id);
    } catch (error) {
      // What was asked for is refused with a sentence; what happened to a take is remembered.
      if (!isDiskFull(error) || state === 'waiting') throw error;
      // One that could not even begin has failed.
      state = state === 'rendering' ? 'failed' : state;
      this.unwritten.set(row.id, { state, failure: failure || DISK_FULL });
      clearTimeout(this.retry);
      this.retry = setTimeout(() => this.go(), AGAIN);
    }
    row.state = state;
    this.events.send({ type: 'takes', project: row.project });
  }

  private async writeStates(): Promise<void> {
    for (const [id, { state, failure }] of this.unwritten) {
      await this.database.getRepository(TakeRow).update({ id }, { state, failure });
      this.unwritten.delete(id);
    }
  }

  /** False where the take was stopped or deleted meanwhile. */
  private async stillRenders({ id }: Entry): Promise<boolean> {
    return !this.unwritten.has(id) && (await this.database.getRepository(TakeRow).existsBy({ id, state: 'rendering' }));
  }

  private async find(id: string): Promise<Entry> {
    const row = await this.database.getRepository(TakeRow).findOne({ select: ENTRY, where: { id } });
    if (!row) throw new UserProblem('not-found', 'This take is no longer there.', 404);
    return Object.assign(row, this.unwritten.get(id));
  }

  private async identityOf(take: string, number: number): Promise<string | null> {
    const row = await this.database.getRepository(FrameRow).findOneBy({ take, number });
    return row?.identity ?? null;
  }

  private identitiesOf(take: string): Promise<FrameRow[]> {
    return this.database.getRepository(FrameRow).find({ where: { take }, order: { number: 'ASC' } });
  }

  private async view(row: Entry): Promise<Take> {
    const frames = await this.identitiesOf(row.id);
    const { id, number, shot, shotName, state, first, last, failure, order, createdAt } = Object.assign(
      row,
      this.unwritten.get(row.id),
    );
    return {
      id,
      number,
      shot,
      shotName,
      state,
      first,
      last,
      failure,
      order,
      createdAt,
      // One that a newer program made is shown all the same.
      scene: row.scene,
      settings: readSettings(row.settings) ?? defaultRenderSettings(),
      done: frames.filter(({ identity }) => this.files.has(identity)).map(({ number: frame }) => frame),
      named: frames.length,
      distinct: new Set(frames.map(({ identity }) => identity)).size,
    };
  }
}

function readSettings(text: string): RenderSettings | null {
  try {
    return renderSettingsSchema.parse(JSON.parse(text));
  } catch {
    return null;
  }
}
