import { access, readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { In, type DataSource } from 'typeorm';
import { newId, openDocument, UserProblem, type ProjectDocument, type Shot } from '@zippy/core/document';
import { lightLayers } from '@zippy/core/develop';
import { exposeFrame } from '@zippy/core/motion';
import {
  frameIdentity,
  predictTake,
  probeFrames,
  renderSettingsSchema,
  type Prediction,
  type Probe,
  type RenderSettings,
} from '@zippy/core/trace';
import type { Events } from '../events/events';
import type { Projects } from '../projects/projects';
import type { Blobs } from '../storage/blobs';
import { TakeRow, type TakeState } from '../storage/entities';
import type { Tracer } from '../workers/tracer';

export interface TakeView {
  id: string;
  number: number;
  shot: string;
  shotName: string;
  state: TakeState;
  first: number;
  last: number;
  settings: RenderSettings;
  /** Frames that are there. */
  done: number[];
  /** Different pictures among all frames: what has to be traced. */
  distinct: number;
  failure: string;
  createdAt: number;
}

const DISK_FULL = 'The disk is full. Free some space, then continue the take: the frames rendered so far are kept.';

/** Takes and the queue that renders them, one frame after another on all cores, across restarts of the server. */
export class Takes {
  private running = false;
  private current: string | null = null;
  private closed = false;

  constructor(
    private readonly database: DataSource,
    private readonly projects: Projects,
    private readonly blobs: Blobs,
    private readonly frames: string,
    private readonly tracer: Tracer,
    private readonly events: Events,
  ) {}

  /** Queues frames `first` to `last` of a shot as the project stands now. */
  async create(
    project: string,
    shotId: string,
    first: number,
    last: number,
    settings: RenderSettings,
  ): Promise<TakeView> {
    const { document, identities, shot } = await this.plan(project, shotId, first, last, settings);
    const rows = this.database.getRepository(TakeRow);
    const newest = await rows.findOne({ where: { project }, order: { number: 'DESC' } });
    const row: TakeRow = {
      id: newId(),
      project,
      number: (newest?.number ?? 0) + 1,
      shot: shotId,
      shotName: shot.name,
      state: 'waiting',
      first,
      last,
      settings: JSON.stringify(settings),
      document: JSON.stringify(document),
      identities: JSON.stringify(identities),
      failure: '',
      order: Date.now(),
      createdAt: Date.now(),
    };
    await rows.insert(row);
    this.events.send({ type: 'takes', project });
    void this.run();
    return this.view(row);
  }

  /** What rendering frames `first` to `last` of a shot would take, from a few of them rendered small. */
  async predict(
    project: string,
    shotId: string,
    first: number,
    last: number,
    settings: RenderSettings,
  ): Promise<Prediction> {
    const { document, identities, shot } = await this.plan(project, shotId, first, last, settings);
    const missing: number[] = [];
    const seen = new Set<string>();
    for (const [k, identity] of identities.entries()) {
      if (seen.has(identity) || (await exists(this.pathOf(identity)))) continue;
      seen.add(identity);
      missing.push(first + k);
    }
    const files = this.blobs.assetPaths(document);
    const probes: Probe[] = [];
    for (const frame of probeFrames(missing)) {
      const state = exposeFrame(document, shot, frame);
      const answer = await this.tracer.trace({ state, settings, identity: '', output: null, files });
      if (answer.failure !== undefined)
        throw new UserProblem('probe-failed', `The shot could not be measured: ${answer.failure}`, 500);
      if (answer.probe) probes.push(answer.probe);
    }
    if (probes.length === 0 && missing.length > 0)
      throw new UserProblem('probe-stopped', 'The measurement was stopped. Ask again when no take renders.', 409);
    return predictTake(probes, settings, missing.length);
  }

  /** The project's document with the identities of a shot's frames. @throws UserProblem where they cannot be rendered */
  private async plan(
    project: string,
    shotId: string,
    first: number,
    last: number,
    settings: RenderSettings,
  ): Promise<{ document: ProjectDocument; shot: Shot; identities: string[] }> {
    const { document } = await this.projects.open(project);
    const shot = document.shots[shotId];
    if (!shot) throw new UserProblem('not-found', 'This shot is no longer there.', 404);
    if (first > last || last > shot.length) {
      throw new UserProblem(
        'range-outside',
        `Frames ${first} to ${last} lie outside the shot, which has ${shot.length}. Choose a range inside it.`,
        422,
      );
    }
    if (!shot.camera || !document.cameras[shot.camera]) {
      throw new UserProblem('no-camera', `"${shot.name}" has no camera. Keep the present view as a camera first.`, 422);
    }
    const identities = Array.from({ length: last - first + 1 }, (_, k) =>
      frameIdentity(
        exposeFrame(document, shot, first + k, settings.layers.includes('motion')),
        settings,
        assetHashes(document),
      ),
    );
    return { document, shot, identities };
  }

  async list(project: string): Promise<TakeView[]> {
    const rows = await this.database.getRepository(TakeRow).find({ where: { project }, order: { number: 'ASC' } });
    return Promise.all(rows.map((row) => this.view(row)));
  }

  async show(id: string): Promise<TakeView> {
    return this.view(await this.find(id));
  }

  async stop(id: string): Promise<void> {
    const row = await this.find(id);
    if (row.state !== 'waiting' && row.state !== 'rendering') return;
    await this.setState(row, 'stopped');
    if (this.current === id) this.tracer.stop();
  }

  async continue(id: string): Promise<void> {
    const row = await this.find(id);
    if (row.state !== 'stopped' && row.state !== 'failed') return;
    await this.setState(row, 'waiting');
    void this.run();
  }

  /** Deletes a take and those of its frames that no other take shows. */
  async remove(id: string): Promise<void> {
    await this.stop(id);
    const row = await this.find(id);
    await this.database.getRepository(TakeRow).delete({ id });
    await this.sweep(JSON.parse(row.identities) as string[]);
    this.events.send({ type: 'takes', project: row.project });
  }

  async removeAllOf(project: string): Promise<void> {
    for (const { id } of await this.database.getRepository(TakeRow).findBy({ project })) await this.remove(id);
  }

  private async sweep(identities: string[]): Promise<void> {
    const rest = await this.database.getRepository(TakeRow).find({ select: { identities: true } });
    const shown = new Set(rest.flatMap((row) => JSON.parse(row.identities) as string[]));
    for (const identity of new Set(identities))
      if (!shown.has(identity)) await rm(this.pathOf(identity), { force: true });
  }

  /** Path of a rendered frame. @throws UserProblem where it is not there yet */
  async framePath(id: string, frame: number): Promise<string> {
    const row = await this.find(id);
    const identity = (JSON.parse(row.identities) as string[])[frame - row.first];
    const path = identity && this.pathOf(identity);
    if (!path || !(await exists(path)))
      throw new UserProblem('frame-missing', `Frame ${frame} of take ${row.number} is not rendered yet.`, 404);
    return path;
  }

  /** Names of the light layers of a take, by its first frame that is rendered; none before there is one. */
  async lights(id: string): Promise<string[]> {
    const row = await this.find(id);
    for (let frame = row.first; frame <= row.last; frame++) {
      const path = await this.framePath(id, frame).catch(() => null);
      if (path) return lightLayers(new Uint8Array(await readFile(path)));
    }
    return [];
  }

  /**
   * A rendered frame with those beside it in its take: null where there is none, or the same picture.
   * @returns also whether the ones beside it are final: one may still be rendered
   */
  async frameBesides(
    id: string,
    frame: number,
  ): Promise<{ path: string; before: string | null; after: string | null; final: boolean }> {
    const path = await this.framePath(id, frame);
    const row = await this.find(id);
    const beside = async (other: number) => {
      if (other < row.first || other > row.last) return { path: null, final: true };
      const found = await this.framePath(id, other).catch(() => null);
      return { path: found === path ? null : found, final: found !== null };
    };
    const [before, after] = [await beside(frame - 1), await beside(frame + 1)];
    return { path, before: before.path, after: after.path, final: before.final && after.final };
  }

  /** Takes up what was under way when the server ended. */
  async resume(): Promise<void> {
    await this.database.getRepository(TakeRow).update({ state: 'rendering' }, { state: 'waiting' });
    void this.run();
  }

  async close(): Promise<void> {
    this.closed = true;
    this.tracer.stop();
    await this.tracer.close();
  }

  private async run(): Promise<void> {
    if (this.running) return;
    this.running = true;
    try {
      for (;;) {
        const row = await this.database
          .getRepository(TakeRow)
          .findOne({ where: { state: In(['waiting', 'rendering']) }, order: { order: 'ASC' } });
        if (!row || this.closed) return;
        this.current = row.id;
        await this.setState(row, 'rendering');
        await this.render(row);
      }
    } finally {
      this.running = false;
      this.current = null;
    }
  }

  private async render(row: TakeRow): Promise<void> {
    const document = openDocument(JSON.parse(row.document));
    const shot = document.shots[row.shot] as Shot;
    const settings = renderSettingsSchema.parse(JSON.parse(row.settings));
    const identities = JSON.parse(row.identities) as string[];
    const files = this.blobs.assetPaths(document);
    let done = (await this.view(row)).done.length;
    for (let frame = row.first; frame <= row.last; frame++) {
      const identity = identities[frame - row.first]!;
      const output = this.pathOf(identity);
      if (await exists(output)) continue;
      if (this.closed || !(await this.stillRenders(row))) return;
      const answer = await this.tracer.trace({
        state: exposeFrame(document, shot, frame, settings.layers.includes('motion')),
        settings,
        identity,
        output,
        files,
      });
      if (answer.stopped || this.closed) return;
      if (answer.failure !== undefined) {
        await this.setState(
          row,
          'failed',
          answer.code === 'ENOSPC' ? DISK_FULL : `Frame ${frame} could not be rendered: ${answer.failure}`,
        );
        return;
      }
      // Deleted while its frame was at work: the frame must not stay behind.
      if (!(await this.database.getRepository(TakeRow).existsBy({ id: row.id }))) return this.sweep([identity]);
      done += identities.filter((each) => each === identity).length;
      const milliseconds = answer.milliseconds ?? 0;
      this.events.send({
        type: 'frame',
        project: row.project,
        take: row.id,
        frame,
        done,
        count: identities.length,
        milliseconds,
      });
    }
    if (await this.stillRenders(row)) await this.setState(row, 'done');
  }

  private async setState(row: TakeRow, state: TakeState, failure = ''): Promise<void> {
    await this.database.getRepository(TakeRow).update({ id: row.id }, { state, failure });
    row.state = state;
    this.events.send({ type: 'takes', project: row.project });
  }

  /** False where the take was stopped or deleted meanwhile. */
  private async stillRenders({ id }: TakeRow): Promise<boolean> {
    return this.database.getRepository(TakeRow).existsBy({ id, state: 'rendering' });
  }

  private async find(id: string): Promise<TakeRow> {
    const row = await this.database.getRepository(TakeRow).findOneBy({ id });
    if (!row) throw new UserProblem('not-found', 'This take is no longer there.', 404);
    return row;
  }

  private pathOf(identity: string): string {
    return join(this.frames, identity.slice(0, 2), `${identity}.exr`);
  }

  private async view(row: TakeRow): Promise<TakeView> {
    const identities = JSON.parse(row.identities) as string[];
    const there = new Map<string, boolean>();
    for (const identity of new Set(identities)) there.set(identity, await exists(this.pathOf(identity)));
    const { id, number, shot, shotName, state, first, last, failure, createdAt } = row;
    return {
      id,
      number,
      shot,
      shotName,
      state,
      first,
      last,
      failure,
      createdAt,
      settings: renderSettingsSchema.parse(JSON.parse(row.settings)),
      done: identities.flatMap((identity, k) => (there.get(identity) ? [first + k] : [])),
      distinct: there.size,
    };
  }
}

const exists = (path: string): Promise<boolean> =>
  access(path).then(
    () => true,
    () => false,
  );

const assetHashes = ({ assets }: ProjectDocument): Record<string, string> =>
  Object.fromEntries(Object.values(assets).map(({ id, hash }) => [id, hash]));
