import { Injectable } from '@angular/core';
import type { output, ZodType } from 'zod';
import type { Matte } from '@zippy/core/develop';
import type { DocumentPatch, Look, ProjectDocument, Recipe } from '@zippy/core/document';
import type { Delivery } from '@zippy/core/reel';
import type { RenderSettings } from '@zippy/core/trace';
import {
  addressOf,
  FILES,
  FILMS,
  FINISHES,
  FOOTAGE,
  KEPT,
  MODELS,
  OVER_FILM,
  PROJECTS,
  SERVER,
  TAKES,
  type StoredFile,
} from '@zippy/core/wire';
import { ask, asProblem, parse } from './ask';
import { ServerLost } from './problems';

export { ServerLost, ServerProblem } from './problems';

/** A layer of a take, or a matte of things. */
export interface ShownInstead {
  layer?: string;
  matte?: Matte;
}

export const insteadQuery = ({ layer, matte }: ShownInstead): Record<string, string> =>
  matte ? { matte: JSON.stringify(matte) } : layer ? { layer } : {};

/** Calls of the server, one method each. */
@Injectable({ providedIn: 'root' })
export class Api {
  state = () => ask(SERVER.state, {});
  projects = () => ask(PROJECTS.list, {});
  openProject = (id: string) => ask(PROJECTS.open, { id });
  createProject = (name: string, document?: ProjectDocument) => ask(PROJECTS.create, {}, { name, document });
  removeProject = (id: string) => ask(PROJECTS.remove, { id });
  saveEdits = (id: string, revision: number, patches: DocumentPatch[], window: string, save: string) =>
    ask(PROJECTS.edit, { id }, { revision, patches, window, save });
  versions = (id: string) => ask(PROJECTS.versions, { id });
  keepVersion = (id: string, name: string) => ask(PROJECTS.keepVersion, { id }, { name });
  restoreVersion = (id: string, version: string, window: string) =>
    ask(PROJECTS.restoreVersion, { id, version }, { window });

  startImport = (files: StoredFile[]) => ask(MODELS.startImport, {}, { files });
  showImport = (id: string) => ask(MODELS.showImport, { id });
  stopImport = (id: string) => ask(MODELS.stopImport, { id });
  acceptImport = (id: string, recipe: Recipe) => ask(MODELS.acceptImport, { id }, { recipe });
  rebuildModel = (source: StoredFile, companions: StoredFile[], recipe: Recipe, meshes: number) =>
    ask(MODELS.rebuild, {}, { source, companions, recipe, meshes });
  compareModels = (before: string, after: string) => ask(MODELS.compare, {}, { before, after });
  /** A small picture of one mesh of a model. */
  meshUrl = (hash: string, mesh: number): string => addressOf(MODELS.mesh, { hash, mesh: `${mesh}.png` });

  unpack = (source: StoredFile) => ask(FILES.unpack, {}, source);
  checkSurroundings = (name: string, hash: string) => ask(FILES.surroundings, {}, { name, hash });
  checkLookup = (name: string, hash: string) => ask(FILES.lookup, {}, { name, hash });
  startFootage = (files: StoredFile[], rate: number) => ask(FOOTAGE.start, {}, { files, rate });
  showFootage = (id: string) => ask(FOOTAGE.show, { id });
  stopFootage = (id: string) => ask(FOOTAGE.stop, { id });
  keepPicture = (name: string, hash: string) => ask(FILES.picture, {}, { name, hash });

  takes = (project: string) => ask(TAKES.list, { id: project });
  createTake = (
    project: string,
    shot: string,
    first: number,
    last: number,
    settings: RenderSettings,
    scene: string,
    colourway?: string,
    anyway = false,
  ) => ask(TAKES.create, { id: project }, { shot, first, last, settings, scene, colourway, anyway });
  takeDisk = (project: string) => ask(TAKES.disk, { id: project });
  deliverFrames = (take: string, leaving: Readonly<Record<string, string>>) =>
    ask(TAKES.deliver, { id: take }, undefined, leaving);
  tidyFrames = () => ask(TAKES.tidy, {});
  predict = (
    project: string,
    shot: string,
    first: number,
    last: number,
    settings: RenderSettings,
    others: RenderSettings[],
  ) => ask(TAKES.predict, { id: project }, { shot, first, last, settings, others });
  stopTake = (id: string) => ask(TAKES.stop, { id });
  continueTake = (id: string) => ask(TAKES.resume, { id });
  queueTake = (id: string, before: string | null) => ask(TAKES.queue, { id }, { before });
  removeTake = (id: string) => ask(TAKES.remove, { id });
  takeDocument = (id: string) => ask(TAKES.document, { id });
  takeLayers = (id: string) => ask(TAKES.layers, { id });
  probeFrame = (take: string, frame: number, x: number, y: number) =>
    ask(TAKES.probe, { id: take, frame: String(frame) }, undefined, { x: String(x), y: String(y) });

  /** @param shown what is looked at instead of the picture */
  frameUrl(take: string, frame: number, look: Look, width?: number, shown: ShownInstead = {}): string {
    const query = { look: JSON.stringify(look), ...(width ? { width: String(width) } : {}), ...insteadQuery(shown) };
    return addressOf(TAKES.frame, { id: take, frame: `${frame}.webp` }, query);
  }

  readFinishes = (files: StoredFile[]) => ask(FINISHES.read, {}, { files });
  keptFinishes = () => ask(KEPT.list, {});
  keepFinish = (name: string, folder: string, document: ProjectDocument) =>
    ask(KEPT.keep, {}, { name, folder, document });
  changeKept = (id: string, name: string, folder: string) => ask(KEPT.change, { id }, { name, folder });
  removeKept = (id: string) => ask(KEPT.remove, { id });

  films = (project: string) => ask(FILMS.list, { id: project });
  createFilm = (project: string, delivery: Delivery) => ask(FILMS.create, { id: project }, delivery);
  foretellFilm = (project: string, delivery: Delivery) => ask(FILMS.foretell, { id: project }, delivery);
  outlineTitle = (words: string, font: string | StoredFile) => ask(OVER_FILM.outline, {}, { words, font });
  readFont = (name: string, hash: string) => ask(OVER_FILM.font, {}, { name, hash });
  keepSound = (name: string, hash: string) => ask(OVER_FILM.sound, {}, { name, hash });
  removeFilm = (id: string) => ask(FILMS.remove, { id });
  stopFilm = (id: string) => ask(FILMS.stop, { id });

  /** Sends a file; `progress` hears the part that has gone, 0 to 1. Aborting the signal ends it. */
  upload = (file: File, progress: (part: number) => void, signal: AbortSignal): Promise<{ hash: string }> =>
    send(FILES.store.path, FILES.store.answer, file, progress, signal);

  /** Sends the file of a whole project. */
  unpackProject = (file: File, progress: (part: number) => void): Promise<{ id: string; notes: string[] }> =>
    send(addressOf(PROJECTS.unpack, {}, { name: file.name.slice(-300) }), PROJECTS.unpack.answer, file, progress);
  copyProject = (id: string) => ask(PROJECTS.copy, { id });
}

function send<A extends ZodType>(
  address: string,
  schema: A,
  file: File,
  progress: (part: number) => void,
  signal?: AbortSignal,
): Promise<output<A>> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', address);
    request.setRequestHeader('Content-Type', 'application/octet-stream');
    request.upload.onprogress = ({ loaded, total }) => progress(total > 0 ? loaded / total : 0);
    request.onload = () => {
      const kept = schema.safeParse(parse(request.responseText));
      if (request.status < 300 && kept.success) resolve(kept.data);
      else reject(asProblem(request.responseText));
    };
    request.onerror = () => reject(new ServerLost());
    request.onabort = () => reject(new DOMException('Stopped', 'AbortError'));
    signal?.addEventListener('abort', () => request.abort());
    request.send(file);
  });
}
