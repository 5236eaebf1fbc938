import type { Database } from 'better-sqlite3';
import type { DataSource } from 'typeorm';

/** What a query builder makes of itself. */
export interface Statement {
  getQueryAndParameters(): [string, unknown[]];
}

/** The first statement changed nothing: the row it was meant for is gone, or is another by now. */
export class NothingChanged extends Error {}

/**
 * Runs statements as one: when it returns all are on the disk, and when it throws none is. It takes no turn of the event loop, so
 * nothing else can come between them; and where a commit and the rollback after it both fail, as on a full disk, the connection is as it
 * was before (a transaction of TypeORM's shared runner would stay open then, and swallow all that comes after it).
 * @throws NothingChanged
 */
export function atomically(database: DataSource, [first, ...rest]: [Statement, ...Statement[]]): void {
  const { databaseConnection } = database.driver as unknown as { databaseConnection: Database };
  const run = (statement: Statement) => {
    const [sql, parameters] = statement.getQueryAndParameters();
    return databaseConnection.prepare(sql).run(...parameters).changes;
  };
  databaseConnection.transaction(() => {
    if (run(first) === 0) throw new NothingChanged();
    for (const statement of rest) run(statement);
  })();
}
