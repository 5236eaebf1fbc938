import type { DataSource } from 'typeorm';
import {
  LIMITS,
  newDocument,
  newId,
  openDocument,
  UserProblem,
  type Asset,
  type DocumentPatch,
  type ProjectDocument,
} from '@zippy/core/document';
import type { Events } from '../events/events';
import { atomically, NothingChanged } from '../storage/atomically';
import { EditRow, ProjectRow, VersionRow } from '../storage/entities';
import { directly, type DocumentPart, type DocumentWork } from './documentWork';

export interface OpenProject {
  id: string;
  revision: number;
  document: ProjectDocument;
}

/** A project with its document as text: it goes to windows as it lies on the disk. */
export interface StoredProject {
  id: string;
  revision: number;
  text: string;
}

/** The newer state that an edit on an older one meets. */
export class RevisionConflict extends UserProblem {
  constructor(readonly newer: StoredProject) {
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
    private readonly documents: DocumentWork = directly,
  ) {}

  list(): Promise<Pick<ProjectRow, 'id' | 'name' | 'revision' | 'updatedAt'>[]> {
    return this.database.getRepository(ProjectRow).find({
      select: { id: true, name: true, revision: true, updatedAt: true },
      order: { updatedAt: 'DESC' },
    });
  }

  /** @param from a document from elsewhere, as text */
  async create(name: string, from?: string, id = newId()): Promise<StoredProject> {
    const { text } =
      from === undefined
        ? { text: JSON.stringify(this.begin(name)) }
        : await this.documents.run({ kind: 'create', text: from, name });
    await this.database
      .getRepository(ProjectRow)
      .insert({ id, name, revision: 1, document: text, updatedAt: Date.now() });
    return { id, revision: 1, text };
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
    const { revision, text } = await this.stored(id);
    return { id, revision, document: openDocument(JSON.parse(text)) };
  }

  /** A project's document as text, with some of what is in it: a large one is read by a thread of its own. */
  async withPart<P extends DocumentPart>(
    id: string,
    names: readonly P[],
  ): Promise<{ text: string; name: string; part: Pick<ProjectDocument, P> }> {
    const { document } = await this.row(id);
    const { text, name, part } = await this.documents.run({ kind: 'open', text: document, part: names });
    return { text, name, part: part as Pick<ProjectDocument, P> };
  }

  /** A project as it is stored, its document brought up to date. */
  async stored(id: string): Promise<StoredProject> {
    const { revision, document } = await this.row(id);
    const { text } = await this.documents.run({ kind: 'open', text: document });
    return { id, revision, text };
  }

  /**
   * Saves patches made on `revision`. When it answers, they are on the disk. A save of the same name that is there already, sent again
   * because its answer was lost, is answered as it was.
   * @throws RevisionConflict where another window was first; nothing is changed then
   */
  async edit(id: string, revision: number, patches: DocumentPatch[], window: string, save = ''): Promise<number> {
    try {
      const present = await this.row(id);
      if (present.revision !== revision) throw new RevisionConflict(await this.stored(id));
      const written = JSON.stringify(patches);
      const changed = await this.documents.run({ kind: 'edit', text: present.document, patches: written });
      return await this.write(id, revision, changed, { patches: written, window, save });
    } catch (error) {
      if (error instanceof RevisionConflict && (await this.hasSaved(id, revision + 1, save))) return revision + 1;
      throw error;
    }
  }

  private async hasSaved(project: string, revision: number, save: string): Promise<boolean> {
    return save !== '' && (await this.database.getRepository(EditRow).existsBy({ project, revision, save }));
  }

  async remove(id: string): Promise<void> {
    const gone = (table: typeof ProjectRow | typeof EditRow | typeof VersionRow, column: string) =>
      this.database.createQueryBuilder().delete().from(table).where(`${column} = :id`, { id });
    try {
      atomically(this.database, [gone(ProjectRow, 'id'), gone(EditRow, 'project'), gone(VersionRow, 'project')]);
    } catch (error) {
      throw error instanceof NothingChanged ? missing() : error;
    }
  }

  versions(id: string): Promise<Omit<VersionRow, 'document'>[]> {
    return this.database.getRepository(VersionRow).find({
      select: { id: true, project: true, name: true, revision: true, createdAt: true },
      where: { project: id },
      order: { createdAt: 'DESC' },
    });
  }

  async keepVersion(id: string, name: string): Promise<{ id: string }> {
    const { revision, document } = await this.row(id);
    const version = newId();
    await this.database
      .getRepository(VersionRow)
      .insert({ id: version, project: id, name, revision, document, createdAt: Date.now() });
    return { id: version };
  }

  /** Goes back to a version as a new revision: nothing between is lost, and windows learn of it like of any edit. */
  async restoreVersion(id: string, version: string, window: string): Promise<StoredProject> {
    const row = await this.database.getRepository(VersionRow).findOneBy({ id: version, project: id });
    if (!row) throw new UserProblem('not-found', 'This version is no longer there.', 404);
    const present = await this.row(id);
    const opened = await this.documents.run({ kind: 'open', text: row.document });
    // What is gone back from stays too.
    if (present.document !== row.document) await this.keepVersion(id, `Before going back to "${row.name}"`.slice(0, LIMITS.nameLength)); // prettier-ignore
    const patches = `[{"op":"replace","path":[],"value":${opened.text}}]`;
    const revision = await this.write(id, present.revision, opened, { patches, window, save: '' });
    return { id, revision, text: opened.text };
  }

  private async row(id: string): Promise<ProjectRow> {
    const row = await this.database.getRepository(ProjectRow).findOneBy({ id });
    if (!row) throw missing();
    return row;
  }

  /** Writes the state after `revision`, unless another one has come meanwhile. */
  private async write(
    id: string,
    revision: number,
    { text, name }: { text: string; name: string },
    { patches, window, save }: { patches: string; window: string; save: string },
  ): Promise<number> {
    const next = revision + 1;
    const query = () => this.database.createQueryBuilder();
    try {
      atomically(this.database, [
        query()
          .update(ProjectRow)
          .set({ revision: next, name, document: text, updatedAt: Date.now() })
          .where('id = :id AND revision = :revision', { id, revision }),
        query().insert().into(EditRow).values({ project: id, revision: next, patches, save, createdAt: Date.now() }),
      ]);
    } catch (error) {
      throw error instanceof NothingChanged ? new RevisionConflict(await this.stored(id)) : error;
    }
    this.events.send({ type: 'project', project: id, revision: next, window });
    return next;
  }
}

const missing = () =>
  new UserProblem('not-found', 'This project is no longer there. Choose another one from the list.', 404);
