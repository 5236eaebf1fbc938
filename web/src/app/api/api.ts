import { Injectable } from '@angular/core';
import type { DocumentPatch, Look, ProjectDocument, Recipe } from '@zippy/core/document';
import type { FilmQuality } from '@zippy/core/reel';
import type { Prediction, RenderSettings } from '@zippy/core/trace';
import type {
  AcceptedModel,
  Comparison,
  FilmView,
  ImportJob,
  OpenProject,
  ProjectEntry,
  RebuiltModel,
  StoredFile,
  TakeView,
  VersionEntry,
} from './types';

/** A refusal of the server: its sentence, and what came along. */
export class ServerProblem extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly body: Record<string, unknown>,
  ) {
    super(message);
  }

  /** Of the HTTP answer. */
  get status(): number {
    return Number(this.body['status'] ?? 500);
  }
}

/** The server could not be reached at all. */
export class ServerLost extends Error {
  constructor() {
    super('The server does not answer. Your changes are kept here and sent when it is back.');
  }
}

/** Calls of the server, one method each. */
@Injectable({ providedIn: 'root' })
export class Api {
  state = () => this.get<{ encoder: boolean; workers: number }>('/api/state');
  projects = () => this.get<ProjectEntry[]>('/api/projects');
  openProject = (id: string) => this.get<OpenProject>(`/api/projects/${id}`);
  createProject = (name: string, document?: ProjectDocument) =>
    this.post<OpenProject>('/api/projects', { name, document });
  removeProject = (id: string) => this.call<void>('DELETE', `/api/projects/${id}`);
  saveEdits = (id: string, revision: number, patches: DocumentPatch[], window: string) =>
    this.post<{ revision: number }>(`/api/projects/${id}/edits`, { revision, patches, window });
  versions = (id: string) => this.get<VersionEntry[]>(`/api/projects/${id}/versions`);
  keepVersion = (id: string, name: string) => this.post<{ id: string }>(`/api/projects/${id}/versions`, { name });
  restoreVersion = (id: string, version: string, window: string) =>
    this.post<OpenProject>(`/api/projects/${id}/versions/${version}/restore`, { window });
  startImport = (files: StoredFile[]) => this.post<ImportJob>('/api/imports', { files });
  showImport = (id: string) => this.get<ImportJob>(`/api/imports/${id}`);
  acceptImport = (id: string, recipe: Recipe) => this.post<AcceptedModel>(`/api/imports/${id}/accept`, { recipe });
  /** The files of an archive that was sent, each kept on its own. */
  unpack = (source: StoredFile) => this.post<StoredFile[]>('/api/archives', source);
  /** Makes a model's file again from its source, for parts that count on so many meshes. */
  rebuildModel = (source: StoredFile, companions: StoredFile[], recipe: Recipe, meshes: number) =>
    this.post<RebuiltModel>('/api/models', { source, companions, recipe, meshes });
  /** By what the meshes of two models are known again. */
  compareModels = (before: string, after: string) => this.post<Comparison>('/api/models/compare', { before, after });
  stopImport = (id: string) => this.call<void>('DELETE', `/api/imports/${id}`);
  checkSurroundings = (name: string, hash: string) =>
    this.post<{ hash: string; width: number; height: number; clipped: number }>('/api/surroundings', { name, hash });
  checkLookup = (name: string, hash: string) => this.post<{ hash: string }>('/api/lookups', { name, hash });
  /** Has a picture that was sent turned into the one form that is kept. */
  keepPicture = (name: string, hash: string) => this.post<{ hash: string }>('/api/pictures', { name, hash });
  takes = (project: string) => this.get<TakeView[]>(`/api/projects/${project}/takes`);
  createTake = (project: string, shot: string, first: number, last: number, settings: RenderSettings) =>
    this.post<TakeView>(`/api/projects/${project}/takes`, { shot, first, last, settings });
  predict = (project: string, shot: string, first: number, last: number, settings: RenderSettings) =>
    this.post<Prediction>(`/api/projects/${project}/predictions`, { shot, first, last, settings });
  stopTake = (id: string) => this.post<void>(`/api/takes/${id}/stop`, {});
  continueTake = (id: string) => this.post<void>(`/api/takes/${id}/continue`, {});
  removeTake = (id: string) => this.call<void>('DELETE', `/api/takes/${id}`);
  films = (project: string) => this.get<FilmView[]>(`/api/projects/${project}/films`);
  createFilm = (project: string, format: FilmView['format'], quality: FilmQuality) =>
    this.post<FilmView>(`/api/projects/${project}/films`, { format, quality });
  removeFilm = (id: string) => this.call<void>('DELETE', `/api/films/${id}`);
  stopFilm = (id: string) => this.post<void>(`/api/films/${id}/stop`, {});

  /** Sends a file; `progress` hears the part that has gone, 0 to 1. Aborting the signal ends it. */
  upload(file: File, progress: (part: number) => void, signal: AbortSignal): Promise<{ hash: string }> {
    return new Promise((resolve, reject) => {
      const request = new XMLHttpRequest();
      request.open('POST', '/api/blobs');
      request.setRequestHeader('Content-Type', 'application/octet-stream');
      request.upload.onprogress = ({ loaded, total }) => progress(total > 0 ? loaded / total : 0);
      request.onload = () => {
        const body = parse(request.responseText);
        if (request.status < 300) resolve(body as { hash: string });
        else reject(asProblem(body));
      };
      request.onerror = () => reject(new ServerLost());
      request.onabort = () => reject(new DOMException('Stopped', 'AbortError'));
      signal.addEventListener('abort', () => request.abort());
      request.send(file);
    });
  }

  /** Names of the light layers that a take keeps. */
  takeLights = (id: string) => this.get<string[]>(`/api/takes/${id}/lights`);

  /** A small picture of one mesh of a model. */
  meshUrl = (model: string, mesh: number): string => `/api/models/${model}/meshes/${mesh}.png`;

  frameUrl(take: string, frame: number, look: Look, width?: number): string {
    const query = new URLSearchParams({ look: JSON.stringify(look), ...(width ? { width: String(width) } : {}) });
    return `/api/takes/${take}/frames/${frame}.webp?${query}`;
  }

  private get = <T>(path: string) => this.call<T>('GET', path);
  private post = <T>(path: string, body: object) => this.call<T>('POST', path, body);

  private async call<T>(method: string, path: string, body?: object): Promise<T> {
    let response: Response;
    try {
      response = await fetch(path, {
        method,
        ...(body ? { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } } : {}),
      });
    } catch {
      throw new ServerLost();
    }
    const answer = parse(await response.text());
    if (!response.ok) throw asProblem(answer);
    return answer as T;
  }
}

function parse(text: string): Record<string, unknown> {
  try {
    return JSON.parse(text) as Record<string, unknown>;
  } catch {
    return {};
  }
}

function asProblem(body: Record<string, unknown>): ServerProblem {
  return new ServerProblem(
    String(body['title'] ?? 'server-failed'),
    String(body['detail'] ?? 'The server gave no usable answer. Try again.'),
    body,
  );
}
