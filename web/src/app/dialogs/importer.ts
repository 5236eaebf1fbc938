import { inject, Injectable, signal } from '@angular/core';
import { lastOrder, LIMITS, newId, type Asset } from '@zippy/core/document';
import { placeModel, type Unit, type UpAxis } from '@zippy/core/intake';
import { Api } from '../api/api';
import type { ImportJob } from '../api/types';
import { Session } from '../state/session';
import { Studio } from '../state/studio';

export interface ImportView {
  name: string;
  step: 'sending' | 'reading' | 'read' | 'placing';
  part: number;
  job: ImportJob | null;
}

/** Pictures that finishes can wear. */
export const PICTURE_FILE = /\.(png|jpe?g|webp|tiff?|avif|gif)$/i;

/** Brings files in: sends them, has them read, asks for unit and up axis, and places the parts. */
@Injectable({ providedIn: 'root' })
export class Importer {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly studio = inject(Studio);
  readonly view = signal<ImportView | null>(null);
  /** Counts placed models, so that the picture frames the new one. */
  readonly placed = signal<string | null>(null);
  private abort = new AbortController();
  private readonly waiting: File[][] = [];

  async bring(files: File[]): Promise<void> {
    const named = (pattern: RegExp) => files.filter((file) => pattern.test(file.name));
    const surroundings = named(/\.(hdr|exr)$/i);
    for (const picture of surroundings) await this.bringSurroundings(picture);
    // Every model is asked about on its own; materials and their pictures go with each that can use them.
    const [materials, pictures] = [named(/\.mtl$/i), named(PICTURE_FILE)];
    const bodies = files.filter((file) => ![...surroundings, ...materials, ...pictures].includes(file));
    const wants = (file: File) => /\.obj$/i.test(file.name);
    this.waiting.push(...bodies.map((file) => [file, ...(wants(file) ? [...materials, ...pictures] : [])]));
    if (!bodies.some(wants)) for (const picture of pictures) await this.bringPicture(picture);
    if (!this.view()) await this.next();
  }

  private async next(): Promise<void> {
    const files = this.waiting.shift();
    if (files) await this.bringModel(files);
  }

  private async bringModel(files: File[]): Promise<void> {
    this.abort = new AbortController();
    const { name } = files[0]!;
    this.view.set({ name, step: 'sending', part: 0, job: null });
    try {
      const sent = [];
      for (const file of files) {
        const { hash } = await this.api.upload(
          file,
          (part) => this.view.update((view) => view && { ...view, part }),
          this.abort.signal,
        );
        sent.push({ name: file.name, hash });
      }
      let job = await this.api.startImport(sent);
      this.view.set({ name, step: 'reading', part: 1, job });
      while (job.state === 'reading') {
        await new Promise((resolve) => setTimeout(resolve, 250));
        job = await this.api.showImport(job.id);
      }
      if (job.state === 'failed') throw new Error(job.message);
      if (job.state === 'read') this.view.set({ name, step: 'read', part: 1, job });
    } catch (error) {
      this.view.set(null);
      this.session.tell(error);
      await this.next();
    }
  }

  async accept(unit: Unit, up: UpAxis): Promise<void> {
    const view = this.view();
    if (!view?.job) return;
    this.view.set({ ...view, step: 'placing' });
    try {
      const accepted = await this.api.acceptImport(view.job.id, unit, up);
      const document = this.studio.document();
      const name = view.name.replace(/\.[^.]*$/, '');
      const pictures = accepted.pictures.map((picture) => picture && pictureAsset(picture.name, picture.hash));
      const ids = pictures.map((picture) => picture && picture.id);
      const placement = placeModel(accepted.tree, accepted.hash, name, lastOrder(document.nodes), ids);
      const asset = newId();
      this.studio.edit(`Bring in ${name}`, (draft) => {
        draft.assets[asset] = {
          id: asset,
          name,
          kind: 'model',
          hash: accepted.hash,
          sourceHash: accepted.sourceHash,
          sourceName: view.name,
        };
        for (const picture of pictures) if (picture) draft.assets[picture.id] = picture;
        for (const node of placement.nodes) draft.nodes[node.id] = node;
        for (const finish of placement.finishes) draft.finishes[finish.id] = finish;
      });
      this.studio.select('node', placement.root);
      this.studio.view({ desk: 'model' });
      this.placed.set(placement.root);
    } catch (error) {
      this.session.tell(error);
    } finally {
      this.view.set(null);
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

  /** Adds a picture that finishes can wear. @returns its asset id, null where it could not be read */
  async bringPicture(file: File): Promise<string | null> {
    this.view.set({ name: file.name, step: 'sending', part: 0, job: null });
    try {
      const { hash } = await this.api.upload(
        file,
        (part) => this.view.update((view) => view && { ...view, part }),
        new AbortController().signal,
      );
      const asset = pictureAsset(file.name, (await this.api.keepPicture(file.name, hash)).hash);
      this.studio.edit(`Bring in ${asset.name}`, (draft) => void (draft.assets[asset.id] = asset));
      return asset.id;
    } catch (error) {
      this.session.tell(error);
      return null;
    } finally {
      this.view.set(null);
    }
  }

  private async bringSurroundings(file: File): Promise<void> {
    this.view.set({ name: file.name, step: 'sending', part: 0, job: null });
    try {
      const { hash } = await this.api.upload(
        file,
        (part) => this.view.update((view) => view && { ...view, part }),
        new AbortController().signal,
      );
      await this.api.checkSurroundings(file.name, hash);
      const id = newId();
      this.studio.edit('Surroundings', (draft) => {
        draft.assets[id] = {
          id,
          name: file.name.replace(/\.[^.]*$/, ''),
          kind: 'surroundings',
          hash,
          sourceHash: hash,
          sourceName: file.name,
        };
        draft.set.surroundings.kind = 'picture';
        draft.set.surroundings.picture = id;
      });
      this.studio.view({ desk: 'set' });
    } catch (error) {
      this.session.tell(error);
    } finally {
      this.view.set(null);
    }
  }
}

/** A picture of the project; the same picture brought twice is two, so that each can be exchanged alone. */
function pictureAsset(file: string, hash: string): Asset {
  const name = file.replace(/\.[^.]*$/, '').slice(0, LIMITS.nameLength) || 'Picture';
  return { id: newId(), name, kind: 'picture', hash, sourceHash: hash, sourceName: file.slice(0, LIMITS.nameLength) };
}
