import 'reflect-metadata';
import { DataSource } from 'typeorm';
import { EditRow, FilmRow, FrameRow, KeptFinishRow, ProjectRow, TakeCountRow, TakeRow, VersionRow } from './entities';
import {
  AboutFilms1796400000000,
  CountOfTakes1796000000000,
  FirstTables1763850000000,
  FramesOfTakes1795900000000,
  KeptFinishes1796200000000,
  NamedSaves1796300000000,
  SceneOfTakes1796100000000,
} from './migrations';

/** Opens the database file, making or migrating it as needed. */
export async function openDatabase(file: string): Promise<DataSource> {
  const database = new DataSource({
    type: 'better-sqlite3',
    database: file,
    entities: [ProjectRow, EditRow, VersionRow, TakeRow, TakeCountRow, FrameRow, FilmRow, KeptFinishRow],
    migrations: [
      FirstTables1763850000000,
      FramesOfTakes1795900000000,
      CountOfTakes1796000000000,
      SceneOfTakes1796100000000,
      KeptFinishes1796200000000,
      NamedSaves1796300000000,
      AboutFilms1796400000000,
    ],
    migrationsRun: true,
    synchronize: false,
    prepareDatabase: (connection: { pragma(sql: string): void }) => {
      connection.pragma('journal_mode = WAL');
      connection.pragma('synchronous = FULL');
    },
  });
  return database.initialize();
}
