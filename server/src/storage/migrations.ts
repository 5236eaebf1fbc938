import type { MigrationInterface, QueryRunner } from 'typeorm';

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
