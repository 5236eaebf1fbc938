import { pictureOfSource } from '@zippy/core/optics';
import { computed, inject, Injectable, signal } from '@angular/core';
import { defaultRecipe, LIMITS, type Asset, type Recipe } from '@zippy/core/document';
import {
  applyRevision,
  groupFiles,
  matchParts,
  presentParts,
  rematch,
  stateOfMatch,
  treeParts,
  type PresentPart,
  type RevisionMatch,
  type RevisionPart,
  type RevisionState,
} from '@zippy/core/intake';
import { Api } from '../../api/api';
import type { AcceptedModel } from '@zippy/core/wire';
import { Notices } from '../../store/notices';
import { Studio } from '../../store/studio';
import { Importer, pictureAssets } from '../import/importer';

/** A new revision of a model's file that waits for its parts to be looked through. */
export interface RevisionView {
  asset: Asset;
  file: string;
  recipe: Recipe;
  model: AcceptedModel;
  before: (PresentPart & RevisionPart)[];
  after: RevisionPart[];
  matches: RevisionMatch[];
}

export interface RevisionRow {
  match: RevisionMatch;
  state: RevisionState;
  before: RevisionPart | null;
  after: RevisionPart | null;
}

/** Puts new revisions of files in the place of models, once it is clear which part is which. */
@Injectable({ providedIn: 'root' })
export class Revisions {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly studio = inject(Studio);
  private readonly importer = inject(Importer);
  readonly view = signal<RevisionView | null>(null);

  readonly rows = computed((): RevisionRow[] => {
    const view = this.view();
    return (view?.matches ?? []).map((match) => ({
      match,
      state: stateOfMatch(match, view!),
      before: match.before === null ? null : view!.before[match.before]!,
      after: match.after === null ? null : view!.after[match.after]!,
    }));
  });

  /** Reads a file as the next revision of a model, in the model's unit and axes, and asks about its parts. */
  async bring(asset: Asset, files: readonly File[]): Promise<void> {
    const [group] = groupFiles(files.map(({ name }) => name)).models;
    const source = group && files[group.file];
    if (!source) return this.notices.tell('None of these files is a model. Choose the file of the new revision.');
    try {
      const job = await this.importer.read([source, ...group.companions.map((at) => files[at]!)]);
      if (!job?.summary) return;
      this.importer.view.set({ name: source.name, step: 'placing', part: 1, job });
      const { unit, up } = job.summary;
      const recipe: Recipe = { ...(asset.recipe ?? { ...defaultRecipe(), unit, up }), leave: {} };
      const model = await this.api.acceptImport(job.id, recipe);
      const shapes = await this.api.compareModels(asset.hash, model.hash);
      const before = presentParts(this.studio.document(), asset.hash).map((part) => ({ ...part, shape: shapes.before[part.mesh]! })); // prettier-ignore
      const after = treeParts(model.tree).map((part) => ({ ...part, shape: shapes.after[part.mesh]! }));
      const matches = matchParts(before, after);
      this.view.set({ asset, file: source.name, recipe, model, before, after, matches });
    } catch (error) {
      this.notices.tell(error);
    } finally {
      this.importer.view.set(null);
    }
  }

  /** Says by hand which part after a part before is; null for none. */
  say(before: number, after: number | null): void {
    this.view.update((view) => view && { ...view, matches: rematch(view.matches, before, after) });
  }

  /** Whether what is gone stays as it was, or what is new comes in. */
  keep(match: RevisionMatch, keep: boolean): void {
    this.view.update(
      (view) => view && { ...view, matches: view.matches.map((each) => (each === match ? { ...each, keep } : each)) },
    );
  }

  /** Puts the revision in the model's place, in one step of undo. */
  take(): void {
    const view = this.view();
    if (!view) return;
    const { asset, file, recipe, model, matches } = view;
    const pictures = pictureAssets(model.pictures);
    const { hash, sourceHash, companions, found, tree } = model;
    const revision = { hash, sourceHash, sourceName: file.slice(-LIMITS.nameLength), companions, found, recipe };
    this.studio.edit(`New revision of ${asset.name}`, (draft) => {
      const known = new Set(Object.values(draft.finishes).flatMap(({ maps }) => Object.values(maps).flatMap(({ source }) => pictureOfSource(source) ?? []))); // prettier-ignore
      for (const picture of pictures) if (picture) draft.assets[picture.id] = picture;
      applyRevision(draft, asset.id, revision, tree, matches, pictures.map((picture) => picture?.id ?? null)); // prettier-ignore
      // Pictures that no finish came to wear are no part of the project.
      const worn = new Set(Object.values(draft.finishes).flatMap(({ maps }) => Object.values(maps).flatMap(({ source }) => pictureOfSource(source) ?? []))); // prettier-ignore
      for (const picture of pictures) if (picture && !worn.has(picture.id) && !known.has(picture.id)) delete draft.assets[picture.id]; // prettier-ignore
    });
    this.view.set(null);
  }

  leave = (): void => this.view.set(null);
}
