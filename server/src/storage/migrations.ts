import type { MigrationInterface, QueryRunner } from 'typeorm';

interface OldTake {
  id: string;
  first: number;
  identities: string;
}

/** Frames of takes become rows: they are named one after another, while the first of them are rendered. */
export class FramesOfTakes1795900000000 implements MigrationInterface {
  name = 'FramesOfTakes1795900000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE frame (take text NOT NULL, number integer NOT NULL, identity text NOT NULL, PRIMARY KEY (take, number)) WITHOUT ROWID`,
    );
    await runner.query(`CREATE INDEX frame_identity ON frame (identity)`);
    await runner.query(`ALTER TABLE take ADD COLUMN planned integer NOT NULL DEFAULT 0`);
    await runner.query(`ALTER TABLE take ADD COLUMN loops integer NOT NULL DEFAULT 0`);
    for (const { id, first, identities } of (await runner.query(
      `SELECT id, first, identities FROM take`,
    )) as OldTake[]) {
      let names: string[] = [];
      try {
        names = JSON.parse(identities) as string[];
      } catch {
        // A take without names is named anew.
      }
      for (const [k, identity] of names.entries())
        await runner.query(`INSERT INTO frame (take, number, identity) VALUES (?, ?, ?)`, [id, first + k, identity]);
      await runner.query(`UPDATE take SET planned = ? WHERE id = ?`, [names.length, id]);
    }
    await runner.query(`ALTER TABLE take DROP COLUMN identities`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE take ADD COLUMN identities text NOT NULL DEFAULT '[]'`);
    await runner.query(`ALTER TABLE take DROP COLUMN loops`);
    await runner.query(`ALTER TABLE take DROP COLUMN planned`);
    await runner.query(`DROP TABLE frame`);
  }
}

/** Projects count their takes, so that the number of one that was deleted is not given again. */
export class CountOfTakes1796000000000 implements MigrationInterface {
  name = 'CountOfTakes1796000000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE take_count (project text PRIMARY KEY, takes integer NOT NULL) WITHOUT ROWID`);
    await runner.query(`INSERT INTO take_count SELECT project, max(number) FROM take GROUP BY project`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE take_count`);
  }
}

/** Takes know of which scene they are. */
export class SceneOfTakes1796100000000 implements MigrationInterface {
  name = 'SceneOfTakes1796100000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE take ADD COLUMN scene text NOT NULL DEFAULT ''`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE take DROP COLUMN scene`);
  }
}

/** A save that comes twice is known again. */
export class NamedSaves1796300000000 implements MigrationInterface {
  name = 'NamedSaves1796300000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE edit ADD COLUMN save text NOT NULL DEFAULT ''`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE edit DROP COLUMN save`);
  }
}

/** Films tell their size. */
export class AboutFilms1796400000000 implements MigrationInterface {
  name = 'AboutFilms1796400000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE film ADD COLUMN about text NOT NULL DEFAULT ''`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE film DROP COLUMN about`);
  }
}

/** Finishes are kept for all projects. */
export class KeptFinishes1796200000000 implements MigrationInterface {
  name = 'KeptFinishes1796200000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE kept_finish (id text PRIMARY KEY, name text NOT NULL, folder text NOT NULL, document text NOT NULL, createdAt integer NOT NULL)`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE kept_finish`);
  }
}

export class FirstTables1763850000000 implements MigrationInterface {
  name = 'FirstTables1763850000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE project (id text PRIMARY KEY, name text NOT NULL, revision integer NOT NULL, document text NOT NULL, updatedAt integer NOT NULL)`,
    );
    await runner.query(
      `CREATE TABLE edit (id integer PRIMARY KEY AUTOINCREMENT, project text NOT NULL, revision integer NOT NULL, patches text NOT NULL, createdAt integer NOT NULL, UNIQUE (project, revision))`,
    );
    await runner.query(
      `CREATE TABLE version (id text PRIMARY KEY, project text NOT NULL, name text NOT NULL, revision integer NOT NULL, document text NOT NULL, createdAt integer NOT NULL)`,
    );
    await runner.query(
      `CREATE TABLE take (id text PRIMARY KEY, project text NOT NULL, number integer NOT NULL, shot text NOT NULL, shotName text NOT NULL, state text NOT NULL, first integer NOT NULL, last integer NOT NULL, settings text NOT NULL, document text NOT NULL, identities text NOT NULL, failure text NOT NULL, "order" integer NOT NULL, createdAt integer NOT NULL, UNIQUE (project, number))`,
    );
    await runner.query(
      `CREATE TABLE film (id text PRIMARY KEY, project text NOT NULL, name text NOT NULL, format text NOT NULL, state text NOT NULL, frames integer NOT NULL, encoded integer NOT NULL, bytes integer NOT NULL, failure text NOT NULL, createdAt integer NOT NULL)`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['film', 'take', 'version', 'edit', 'project']) await runner.query(`DROP TABLE ${table}`);
  }
}
