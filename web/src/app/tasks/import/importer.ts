import { inject, Injectable, signal } from '@angular/core';
import {
  lastOrder,
  LIMITS,
  newAsset,
  newId,
  nextName,
  sayNumber,
  type Asset,
  type ProjectDocument,
  type Recipe,
  type Vector3,
} from '@zippy/core/document';
import {
  alongTracks,
  fitStage,
  groupFiles,
  importedFinish,
  isFinishFile,
  MOST_DEEP_PIXELS,
  placeAlong,
  placeModel,
  type ModelAlong,
  type ModelTree,
  type Placement,
  type Standing,
} from '@zippy/core/intake';
import { pictureOfSource } from '@zippy/core/optics';
import { Api, ServerProblem } from '../../api/api';
import type { AcceptedModel, ImportJob, KeptPicture, StoredFile } from '@zippy/core/wire';
import { many } from '../../ui/many';
import { Ask } from '../../ui/ask/ask';
import { otherWork } from '../../store/other-work';
import { Notices } from '../../store/notices';
import { Studio } from '../../store/studio';
import { isFilm, mayMove, pictureRows } from './picture-rows';

export interface ImportView {
  name: string;
  step: 'sending' | 'reading' | 'watching' | 'read' | 'placing';
  part: number;
  job: ImportJob | null;
}

/** What of a file besides its parts is taken. */
export interface TakenAlong {
  cameras: boolean;
  lights: boolean;
  motion: boolean;
}

/** A file to bring in: on this machine, or already on the server. */
type Incoming = File | StoredFile;

/** Pictures a second that a row may have. */
const LEAST_RATE = 0.1;
const MOST_RATE = 240;

/** Brings files in: sends them, has them read, asks for unit and up axis, and places the parts. */
@Injectable({ providedIn: 'root' })
export class Importer {
  private readonly api = inject(Api);
  private readonly ask = inject(Ask);
  private readonly notices = inject(Notices);
  private readonly studio = inject(Studio);
  readonly view = signal<ImportView | null>(null);
  /** Counts placed models, so that the picture frames the new one. */
  readonly placed = signal<string | null>(null);
  private abort = new AbortController();
  private readonly waiting: Incoming[][] = [];

  async bring(dropped: File[]): Promise<void> {
    const films = dropped.filter(isFilm);
    const files = dropped.filter((file) => !films.includes(file));
    await this.bringPictures(films);
    // Beside a file of finishes such pictures are maps that it names.
    const worn = files.some(({ name }) => isFinishFile(name));
    const surroundings = worn ? [] : files.filter((file) => /\.(hdr|exr)$/i.test(file.name));
    for (const picture of surroundings) await this.bringSurroundings(picture);
    const lookups = files.filter((file) => /\.cube$/i.test(file.name));
    for (const table of lookups) await this.bringLookup(table);
    const archives = files.filter((file) => /\.zip$/i.test(file.name));
    const apart = new Set([...surroundings, ...lookups, ...archives]);
    await this.sort(files.filter((file) => !apart.has(file)));
    for (const archive of archives) await this.bringArchive(archive);
    if (!this.view()) await this.next();
  }

  /** Every model is asked about on its own, with what it may need; pictures that no model needs are kept for finishes. */
  private async sort(files: Incoming[]): Promise<void> {
    const { models, pictures } = groupFiles(files.map((file) => file.name));
    const groups = models.map(({ file, companions }) => [file, ...companions].map((at) => files[at]!));
    this.waiting.push(...groups.filter(([file]) => !isFinishFile(file!.name)));
    for (const group of groups) if (isFinishFile(group[0]!.name)) await this.bringFinishes(group);
    await this.bringPictures(pictures.map((at) => files[at]!).filter((file) => file instanceof File));
  }

  private async bringArchive(file: File): Promise<void> {
    this.abort = new AbortController();
    this.view.set({ name: file.name, step: 'sending', part: 0, job: null });
    try {
      const hash = await this.send(file);
      this.view.set({ name: file.name, step: 'reading', part: 1, job: null });
      const files = await this.api.unpack({ name: file.name, hash });
      const finishes = files.find(({ name }) => isFinishFile(name));
      if (finishes) return await this.readFinishes([finishes, ...files.filter((each) => each !== finishes)]);
      if (groupFiles(files.map(({ name }) => name)).models.length === 0)
        throw new Error(`"${file.name}" holds no model. Drop the pictures in it unpacked to wear them.`);
      await this.sort(files);
    } catch (error) {
      this.notices.tell(error);
    } finally {
      this.view.set(null);
    }
  }

  /** Adds the finishes of a MaterialX, GLB or glTF file, or of a zip with one; the other files are the pictures that it names. */
  async bringFinishes(files: readonly Incoming[]): Promise<void> {
    const [only] = files;
    if (only instanceof File && /\.zip$/i.test(only.name)) return this.bringArchive(only);
    this.abort = new AbortController();
    try {
      const sent: StoredFile[] = [];
      for (const file of files) {
        this.view.set({ name: file.name, step: 'sending', part: 0, job: null });
        sent.push({ name: file.name.slice(-LIMITS.nameLength), hash: await this.send(file) });
      }
      await this.readFinishes(sent);
    } catch (error) {
      if (!(error instanceof DOMException && error.name === 'AbortError')) this.notices.tell(error);
    } finally {
      this.view.set(null);
    }
  }

  private async readFinishes(files: readonly StoredFile[]): Promise<void> {
    this.view.set({ name: files[0]!.name, step: 'reading', part: 1, job: null });
    const read = await this.api.readFinishes([...files]);
    const pictures = pictureAssets(read.pictures);
    const ids = pictures.map((picture) => picture && picture.id);
    const names = Object.values(this.studio.document().finishes).map(({ name }) => name);
    const finishes = read.finishes.map((each, k) => {
      const finish = importedFinish(each, k, ids);
      const name = names.includes(finish.name) ? nextName(names, finish.name) : finish.name;
      names.push(name);
      return { ...finish, name };
    });
    const worn = new Set(
      finishes.flatMap(({ maps }) => Object.values(maps).map(({ source }) => pictureOfSource(source))),
    );
    this.studio.edit(finishes.length === 1 ? `Bring in ${finishes[0]!.name}` : 'Bring in finishes', (draft) => {
      for (const picture of pictures) if (picture && worn.has(picture.id)) draft.assets[picture.id] = picture;
      for (const finish of finishes) draft.finishes[finish.id] = finish;
    });
    this.studio.openDesk('finish');
    this.studio.selectAll(finishes.map(({ id }) => ({ kind: 'finish', id })));
    const what =
      finishes.length === 1 ? `"${finishes[0]!.name}" is` : `${many(finishes.length, 'finish', 'finishes')} are`;
    this.notices.say([`${what} among the finishes of this project now.`, ...read.notes].join(' '));
  }

  private async send(file: Incoming): Promise<string> {
    if (!(file instanceof File)) return file.hash;
    const progress = (part: number) => this.view.update((view) => view && { ...view, part });
    return (await this.api.upload(file, progress, this.abort.signal)).hash;
  }

  private async next(): Promise<void> {
    const files = this.waiting.shift();
    if (files) await this.bringModel(files);
  }

  private async bringModel(files: Incoming[]): Promise<void> {
    const { name } = files[0]!;
    try {
      const job = await this.read(files);
      if (job) this.view.set({ name, step: 'read', part: 1, job });
    } catch (error) {
      this.notices.tell(error);
      await this.next();
    }
  }

  /**
   * Sends a model's file with what came along and has it read.
   * @returns null where it was stopped
   * @throws where it cannot be read
   */
  async read(files: readonly Incoming[]): Promise<ImportJob | null> {
    this.abort = new AbortController();
    const { name } = files[0]!;
    this.view.set({ name, step: 'sending', part: 0, job: null });
    try {
      const sent = [];
      // A project keeps these names; of a long path its end tells more.
      for (const file of files) sent.push({ name: file.name.slice(-LIMITS.nameLength), hash: await this.send(file) });
      let job = await this.api.startImport(sent);
      this.view.set({ name, step: 'reading', part: 1, job });
      while (job.state === 'reading') {
        await new Promise((resolve) => setTimeout(resolve, 250));
        job = await this.api.showImport(job.id);
      }
      if (job.state === 'failed') throw new Error(job.message);
      return job.state === 'read' ? job : null;
    } catch (error) {
      this.view.set(null);
      if (error instanceof DOMException && error.name === 'AbortError') return null;
      throw error;
    }
  }

  /**
   * @param standing where the model is put
   * @param take what of that which came along is taken too
   */
  async accept(recipe: Recipe, standing: Standing, take: TakenAlong): Promise<void> {
    const view = this.view();
    if (!view?.job) return;
    const placing: ImportView = { ...view, step: 'placing' };
    this.view.set(placing);
    // Whoever stops it goes on with the next model at once, whose dialog is not to be touched.
    const stopped = () => this.view() !== placing;
    try {
      const accepted = await this.api.acceptImport(view.job.id, recipe);
      if (stopped()) return;
      const document = this.studio.document();
      const name = view.name.replace(/^.*\//, '').replace(/\.[^.]*$/, '') || 'Model';
      const pictures = pictureAssets(accepted.pictures);
      const ids = pictures.map((picture) => picture && picture.id);
      const order = lastOrder(document.nodes);
      const placement = placeModel(accepted.tree, accepted.hash, name, order, ids, standing);
      const asset = newId();
      this.studio.edit(`Bring in ${name}`, (draft) => {
        draft.assets[asset] = newAsset({
          id: asset,
          name,
          kind: 'model',
          hash: accepted.hash,
          sourceHash: accepted.sourceHash,
          sourceName: view.name.slice(-LIMITS.nameLength),
          companions: accepted.companions,
          recipe,
          found: accepted.found,
        });
        for (const picture of pictures) if (picture) draft.assets[picture.id] = picture;
        // The first product: the stage of the new project is made to its size.
        const first = !Object.values(draft.nodes).some(({ mesh }) => mesh);
        if (first) fitStage(draft, { center: middleOf(accepted.tree, standing), size: accepted.tree.size });
        for (const node of placement.nodes) draft.nodes[node.id] = node;
        for (const finish of placement.finishes) draft.finishes[finish.id] = finish;
        if (accepted.tree.along) takeAlong(draft, accepted.tree.along, placement, take, this.studio.shotId());
      });
      // Tree, card and picture each take their time to be made: together they would hold up the page.
      await otherWork();
      this.studio.select('node', placement.root);
      this.studio.openDesk('model');
      await otherWork();
      this.placed.set(placement.root);
      if (stopped()) return;
      this.view.set(null);
    } catch (error) {
      if (stopped()) return;
      this.notices.tell(error);
      const gone = error instanceof ServerProblem && (error.status === 404 || error.status === 409);
      // Another unit, or room on the disk, may be all that it needs.
      this.view.set(gone ? null : view);
      if (!gone) return;
    }
    await this.next();
  }

  async stop(): Promise<void> {
    this.abort.abort();
    const job = this.view()?.job;
    this.view.set(null);
    // While the file is still being sent, the upload ends by itself and goes on to the next one.
    if (!job) return;
    await this.api.stopImport(job.id).catch(() => undefined);
    await this.next();
  }

  /** Adds a picture that stands still. @returns its asset id, null where it could not be read */
  async bringPicture(file: File): Promise<string | null> {
    return this.bringAsset(file.name, () => this.readPicture(file));
  }

  /**
   * Adds pictures that finishes can wear: films, what moves by itself, and pictures that are numbered one after another, come as footage.
   * @param asksRate asks how fast pictures that follow each other pass, and does not take the film's rate
   * @returns ids of the assets that could be read
   */
  async bringPictures(files: readonly File[], asksRate = false): Promise<string[]> {
    const brought: string[] = [];
    for (const row of pictureRows(files)) {
      const [file] = row;
      const moves = row.length > 1 || mayMove(file!);
      const rate = asksRate && row.length > 1 ? await this.askRate(row) : this.studio.frameRate();
      if (rate === null) continue;
      const asset = await this.bringAsset(file!.name, () =>
        moves ? this.readFootage(row, rate) : this.readPicture(file!),
      );
      if (asset) brought.push(asset);
    }
    return brought;
  }

  /** How many pictures of a row pass in a second; null where the question was left. */
  private async askRate(row: readonly File[]): Promise<number | null> {
    const title = `${many(row.length, 'picture')} that follow each other: how many pass in a second?`;
    const typed = await this.ask.name(title, 'Bring in', String(Number(this.studio.frameRate().toFixed(3))));
    if (typed === null) return null;
    const [above, below = '1'] = typed.replace(',', '.').split('/');
    const rate = Number(above) / Number(below);
    if (rate >= LEAST_RATE && rate <= MOST_RATE) return rate;
    this.notices.tell(`"${typed}" is no number of pictures a second. Type one from ${LEAST_RATE} to ${MOST_RATE}, such as 24 or 30000/1001.`); // prettier-ignore
    return null;
  }

  private async bringAsset(name: string, read: () => Promise<Asset | null>): Promise<string | null> {
    this.abort = new AbortController();
    this.view.set({ name, step: 'sending', part: 0, job: null });
    try {
      const asset = await read();
      if (asset) this.studio.edit(`Bring in ${asset.name}`, (draft) => void (draft.assets[asset.id] = asset));
      return asset?.id ?? null;
    } catch (error) {
      if (!(error instanceof DOMException && error.name === 'AbortError')) this.notices.tell(error);
      return null;
    } finally {
      this.view.set(null);
    }
  }

  private async readPicture(file: File): Promise<Asset> {
    const kept = await this.api.keepPicture(file.name, await this.send(file));
    if (kept.clipped > 0)
      this.notices.say(
        `${many(kept.clipped, 'number')} in "${file.name}" ${kept.clipped === 1 ? 'was' : 'were'} none, or beyond what is kept; brought to the nearest that is.`,
      );
    if (kept.smaller)
      this.notices.say(
        `"${file.name}" has more than eight bits and is larger than the ${sayNumber(MOST_DEEP_PIXELS)} pixels that such pictures keep; it was made smaller.`,
      );
    return pictureAsset(file.name, kept);
  }

  /** Has a film, or pictures that follow each other, taken apart. A file that holds one picture alone gives a picture. */
  private async readFootage(files: readonly File[], rowRate: number): Promise<Asset | null> {
    const sent: StoredFile[] = [];
    for (const file of files) sent.push({ name: file.name.slice(-LIMITS.nameLength), hash: await this.send(file) });
    const { name } = files[0]!;
    let job = await this.api.startFootage(sent, rowRate);
    while (job.state === 'reading') {
      if (this.abort.signal.aborted) {
        await this.api.stopFootage(job.id);
        return null;
      }
      const part = job.of ? Math.min(1, job.frames / job.of) : 0;
      this.view.set({ name, step: 'watching', part, job: null });
      await new Promise((resolve) => setTimeout(resolve, 250));
      job = await this.api.showFootage(job.id);
    }
    if (!job.footage) throw new Error(job.message);
    const { frames, rate, size, brightness, notes } = job.footage;
    const picture = pictureAsset(name, { hash: frames[0]!, deep: null });
    if (frames.length === 1) return picture;
    this.notices.say(
      [`${picture.name}: ${many(frames.length, 'frame')}, ${sayNumber(frames.length / rate)} s.`, ...notes].join(' '),
    );
    return { ...picture, kind: 'footage', sourceHash: sent[0]!.hash, footage: { frames, rate, size, brightness } };
  }

  private async bringSurroundings(file: File): Promise<void> {
    const check = async (name: string, hash: string) => {
      const { clipped, width, height } = await this.api.checkSurroundings(name, hash);
      if (clipped > 0)
        this.notices.say(
          `${many(clipped, 'pixel')} of ${sayNumber(width * height)} in "${name}" had light below nothing or beyond what is kept; it was brought to the nearest that is.`,
        );
    };
    const kept = await this.keep(file, 'surroundings', check);
    if (!kept) return;
    this.studio.edit('Surroundings', (draft) => {
      draft.assets[kept.id] = kept;
      draft.set.surroundings.kind = 'picture';
      draft.set.surroundings.picture = kept.id;
    });
    this.studio.openDesk('set');
  }

  /** Adds a look-up table, which the look of the selected take wears from now on, or that of the project. */
  private async bringLookup(file: File): Promise<void> {
    const kept = await this.keep(file, 'lookup', this.api.checkLookup);
    if (!kept) return;
    const selected = this.studio.primary();
    this.studio.edit('Look-up table', (draft) => {
      draft.assets[kept.id] = kept;
      const look = (selected?.kind === 'take' && draft.takeLooks[selected.id]) || draft.look;
      look.lookup = kept.hash;
    });
    this.studio.openDesk('render');
  }

  /** Sends a file that is kept as it is once the server has read it. @returns its asset, null where it was refused */
  private async keep(
    file: File,
    kind: Asset['kind'],
    check: (name: string, hash: string) => Promise<unknown>,
  ): Promise<Asset | null> {
    this.view.set({ name: file.name, step: 'sending', part: 0, job: null });
    try {
      const { hash } = await this.api.upload(
        file,
        (part) => this.view.update((view) => view && { ...view, part }),
        new AbortController().signal,
      );
      await check(file.name, hash);
      const name = file.name.replace(/\.[^.]*$/, '').slice(0, LIMITS.nameLength) || 'File';
      return newAsset({ name, kind, hash, sourceName: file.name.slice(-LIMITS.nameLength) });
    } catch (error) {
      this.notices.tell(error);
      return null;
    } finally {
      this.view.set(null);
    }
  }
}

/** Where the middle of a model comes to be in the world. */
const middleOf = ({ center: [x, y, z], bottom }: ModelTree, { centered, onFloor }: Standing): Vector3 => [
  centered ? 0 : x,
  onFloor ? y - bottom : y,
  centered ? 0 : z,
];

/** Adds chosen cameras and lights, and keys in a shot, which grows where it is shorter than the motion. */
function takeAlong(
  draft: ProjectDocument,
  along: ModelAlong,
  { ids, root }: Placement,
  take: TakenAlong,
  shotId: string | null,
): void {
  const { cameras, lights } = placeAlong(along, ids);
  const order = { cameras: lastOrder(draft.cameras), lights: lastOrder(draft.lights) };
  // What hung on nothing in the file hangs on the model, so that it goes along with it.
  for (const each of take.cameras ? cameras : [])
    draft.cameras[each.id] = { ...each, parent: each.parent ?? root, order: order.cameras++ };
  for (const each of take.lights ? lights : [])
    draft.lights[each.id] = { ...each, parent: each.parent ?? root, order: order.lights++ };
  const shot = take.motion && shotId ? draft.shots[shotId] : undefined;
  if (!shot) return;
  const { numerator, denominator } = draft.frameRate;
  const tracks = alongTracks(along.motion, ids, numerator / denominator);
  Object.assign(shot.tracks, tracks);
  const last = Math.max(0, ...Object.values(tracks).map((keys) => keys.at(-1)!.frame));
  shot.length = Math.min(LIMITS.framesPerShot, Math.max(shot.length, Math.ceil(last)));
}

/** What the project keeps of the pictures that came with a model, in their order; null for what could not be kept. */
export const pictureAssets = (pictures: AcceptedModel['pictures']): (Asset | null)[] =>
  pictures.map((picture) => picture && pictureAsset(picture.name, picture));

/** A picture of the project; the same picture brought twice is two, so that each can be exchanged alone. */
function pictureAsset(file: string, { hash, deep }: KeptPicture): Asset {
  const name = file.replace(/\.[^.]*$/, '').slice(0, LIMITS.nameLength) || 'Picture';
  return newAsset({ name, kind: 'picture', hash, deep, sourceName: file.slice(-LIMITS.nameLength) });
}
