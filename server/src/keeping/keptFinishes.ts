import type { DataSource } from 'typeorm';
import { newId, UserProblem, type ProjectDocument } from '@zippy/core/document';
import type { KeptFinish } from '@zippy/core/wire';
import type { Events } from '../events/events';
import { KeptFinishRow } from '../storage/entities';

/** Finishes that one user's shelf holds at most. */
const MOST = 2000;

/** The user's own shelf: finishes that are kept for all projects. Their pictures are files like all others, by content. */
export class KeptFinishes {
  constructor(
    private readonly database: DataSource,
    private readonly events: Events,
  ) {}

  private get rows() {
    return this.database.getRepository(KeptFinishRow);
  }

  async list(): Promise<KeptFinish[]> {
    const rows = await this.rows.find({ order: { folder: 'ASC', name: 'ASC', createdAt: 'ASC' } });
    return rows.map(({ document, ...row }) => ({ ...row, document: JSON.parse(document) as unknown }));
  }

  async keep(name: string, folder: string, document: ProjectDocument): Promise<KeptFinish> {
    if ((await this.rows.count()) >= MOST)
      throw new UserProblem('shelf-full', `Your shelf holds ${MOST} finishes. Take some off it first.`, 422);
    const row = { id: newId(), name, folder, createdAt: Date.now() };
    await this.rows.insert({ ...row, document: JSON.stringify(document) });
    this.events.send({ type: 'kept' });
    return { ...row, document };
  }

  async change(id: string, name: string, folder: string): Promise<void> {
    const { affected } = await this.rows.update({ id }, { name, folder });
    if (!affected) throw new UserProblem('not-found', 'This finish is no longer on your shelf.', 404);
    this.events.send({ type: 'kept' });
  }

  async remove(id: string): Promise<void> {
    await this.rows.delete({ id });
    this.events.send({ type: 'kept' });
  }
}
