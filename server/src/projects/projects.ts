import type { DataSource, EntityManager } from 'typeorm';
import {
  applyDocumentPatches,
  checkDocument,
  newDocument,
  newId,
  openDocument,
  UserProblem,
  type Asset,
  type DocumentPatch,
  type ProjectDocument,
} from '@zippy/core/document';
import type { Events } from '../events/events';
import { EditRow, ProjectRow, VersionRow } from '../storage/entities';

export interface OpenProject {
  id: string;
  revision: number;
  document: ProjectDocument;
}

/** The newer state that an edit on an older one meets. */
export class RevisionConflict extends UserProblem {
  constructor(readonly newer: OpenProject) {
    super(
      'revision-conflict',
      'Another window saved this project in the meantime. Merge your changes into its state, or keep both as two projects.',
      409,
    );
  }
}

/** Projects, their edits and their named versions. */
export class Projects {
  constructor(
    private readonly database: DataSource,
    private readonly events: Events,
    /** Surroundings that come with the program. */
    private readonly surroundings: Asset[] = [],
  ) {}

  list(): Promise<Pick<ProjectRow, 'id' | 'name' | 'revision' | 'updatedAt'>[]> {
    return this.database.getRepository(ProjectRow).find({
      select: { id: true, name: true, revision: true, updatedAt: true },
      order: { updatedAt: 'DESC' },
    });
  }

  async create(name: string, from?: unknown, id = newId()): Promise<OpenProject> {
    const document = from === undefined ? this.begin(name) : { ...openDocument(from), name };
    await this.database.getRepository(ProjectRow).insert({
      id,
      name,
      revision: 1,
      document: JSON.stringify(checkDocument(document)),
      updatedAt: Date.now(),
    });
    return { id, revision: 1, document };
  }

  /** A new document that has the shipped surroundings and is lit by the last of them, the soft ones. */
  private begin(name: string): ProjectDocument {
    const document = newDocument(name);
    const picture = this.surroundings.at(-1);
    if (!picture) return document;
    const assets = Object.fromEntries(this.surroundings.map((asset) => [asset.id, asset]));
    const surroundings = {
      ...document.set.surroundings,
      kind: 'picture' as const,
      picture: picture.id,
      brightness: 0.6,
    };
    return { ...document, assets, set: { ...document.set, surroundings } };
  }

  async open(id: string): Promise<OpenProject> {
    return this.read(this.database.manager, id);
  }

  /**
   * Saves patches made on `revision`.
   * @throws RevisionConflict where another window was first; nothing is changed then
   */
  async edit(id: string, revision: number, patches: DocumentPatch[], window: string): Promise<number> {
    const saved = await this.database.transaction(async (manager) => {
      const present = await this.read(manager, id);
      if (present.revision !== revision) throw new RevisionConflict(present);
      const document = checkDocument(applyDocumentPatches(present.document, patches));
      return this.write(manager, id, revision + 1, document, patches);
    });
    this.events.send({ type: 'project', project: id, revision: saved, window });
    return saved;
  }

  async remove(id: string): Promise<void> {
    const { affected } = await this.database.getRepository(ProjectRow).delete({ id });
    if (!affected) throw missing();
    await this.database.getRepository(EditRow).delete({ project: id });
    await this.database.getRepository(VersionRow).delete({ project: id });
  }

  versions(id: string): Promise<Omit<VersionRow, 'document'>[]> {
    return this.database.getRepository(VersionRow).find({
      select: { id: true, project: true, name: true, revision: true, createdAt: true },
      where: { project: id },
      order: { createdAt: 'DESC' },
    });
  }

  async keepVersion(id: string, name: string): Promise<{ id: string }> {
    const present = await this.open(id);
    const version = newId();
    await this.database.getRepository(VersionRow).insert({
      id: version,
      project: id,
      name,
      revision: present.revision,
      document: JSON.stringify(present.document),
      createdAt: Date.now(),
    });
    return { id: version };
  }

  /** Goes back to a version as a new revision: nothing between is lost, and windows learn of it like of any edit. */
  async restoreVersion(id: string, version: string, window: string): Promise<OpenProject> {
    const opened = await this.database.transaction(async (manager) => {
      const row = await manager.findOneBy(VersionRow, { id: version, project: id });
      if (!row) throw new UserProblem('not-found', 'This version is no longer there.', 404);
      const present = await this.read(manager, id);
      const document = openDocument(JSON.parse(row.document));
      const patches = [{ op: 'replace', path: [], value: document }] as DocumentPatch[];
      const revision = await this.write(manager, id, present.revision + 1, document, patches);
      return { id, revision, document };
    });
    this.events.send({ type: 'project', project: id, revision: opened.revision, window });
    return opened;
  }

  private async read(manager: EntityManager, id: string): Promise<OpenProject> {
    const row = await manager.findOneBy(ProjectRow, { id });
    if (!row) throw missing();
    return { id, revision: row.revision, document: openDocument(JSON.parse(row.document)) };
  }

  private async write(
    manager: EntityManager,
    id: string,
    revision: number,
    document: ProjectDocument,
    patches: DocumentPatch[],
  ): Promise<number> {
    await manager.update(
      ProjectRow,
      { id },
      { revision, name: document.name, document: JSON.stringify(document), updatedAt: Date.now() },
    );
    await manager.insert(EditRow, { project: id, revision, patches: JSON.stringify(patches), createdAt: Date.now() });
    return revision;
  }
}

const missing = () =>
  new UserProblem('not-found', 'This project is no longer there. Choose another one from the list.', 404);
