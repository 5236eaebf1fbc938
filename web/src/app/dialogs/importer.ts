import { inject, Injectable, signal } from '@angular/core';
import { lastOrder, newId } from '@zippy/core/document';
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
    const pictures = files.filter((file) => /\.(hdr|exr)$/i.test(file.name));
    const models = files.filter((file) => !pictures.includes(file));
    for (const picture of pictures) await this.bringSurroundings(picture);
    // Every model is asked about on its own; materials go with each.
    const materials = models.filter((file) => /\.mtl$/i.test(file.name));
    const bodies = models.filter((file) => !materials.includes(file));
    this.waiting.push(...bodies.map((file) => [file, ...(/\.obj$/i.test(file.name) ? materials : [])]));
    if (!this.view()) await this.next();
  }

  private async next(): Promise<void> {
    const files = this.waiting.shift();
    if (files) await this.bringModel(files);
  }

  private async bringModel(files: File[]): Promise<void> {
    this.abort = new AbortController();
    const name = (files.find((file) => !/\.mtl$/i.test(file.name)) ?? files[0]!).name;
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
      const placement = placeModel(accepted.tree, accepted.hash, name, lastOrder(document.nodes));
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
