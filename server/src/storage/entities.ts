import type { FilmFormatName } from '@zippy/core/reel';
import type { FilmState, TakeState } from '@zippy/core/wire';
import { Column, Entity, Index, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

@Entity('project')
export class ProjectRow {
  @PrimaryColumn('text') id!: string;
  @Column('text') name!: string;
  @Column('integer') revision!: number;
  /** The document as JSON. */
  @Column('text') document!: string;
  @Column('integer') updatedAt!: number;
}

/** One saved step of a project: the stream of patches its history consists of. */
@Entity('edit')
@Index(['project', 'revision'], { unique: true })
export class EditRow {
  @PrimaryGeneratedColumn() id!: number;
  @Column('text') project!: string;
  @Column('integer') revision!: number;
  @Column('text') patches!: string;
  /** What the window called it; empty where it gave it no name. */
  @Column('text') save!: string;
  @Column('integer') createdAt!: number;
}

/** A state of a project that its user gave a name. */
@Entity('version')
export class VersionRow {
  @PrimaryColumn('text') id!: string;
  @Index() @Column('text') project!: string;
  @Column('text') name!: string;
  @Column('integer') revision!: number;
  @Column('text') document!: string;
  @Column('integer') createdAt!: number;
}

/** One render of a shot, with exactly what made it. */
@Entity('take')
export class TakeRow {
  @PrimaryColumn('text') id!: string;
  @Index() @Column('text') project!: string;
  /** Counts up within a project and is never used again. */
  @Column('integer') number!: number;
  @Column('text') shot!: string;
  @Column('text') shotName!: string;
  @Column('text') state!: TakeState;
  @Column('integer') first!: number;
  @Column('integer') last!: number;
  @Column('text') settings!: string;
  @Column('text') document!: string;
  /** Name of the scene that it is of; empty where that is not known. */
  @Column('text') scene!: string;
  /** How many of its frames, from the first on, have been named. */
  @Column('integer') planned!: number;
  /** The frame after its last is its first again: 1, or 0. */
  @Column('integer') loops!: number;
  @Column('text') failure!: string;
  @Column('integer') order!: number;
  @Column('integer') createdAt!: number;
}

/** How many takes a project has had; apart from the project, whose row is as large as its document. */
@Entity('take_count')
export class TakeCountRow {
  @PrimaryColumn('text') project!: string;
  /** The number of the last one. */
  @Column('integer') takes!: number;
}

/** What a frame of a take is called by what is in it. */
@Entity('frame')
export class FrameRow {
  @PrimaryColumn('text') take!: string;
  @PrimaryColumn('integer') number!: number;
  @Index() @Column('text') identity!: string;
}

@Entity('film')
export class FilmRow {
  @PrimaryColumn('text') id!: string;
  @Index() @Column('text') project!: string;
  @Column('text') name!: string;
  @Column('text') format!: FilmFormatName;
  /** Its size, in words. */
  @Column('text') about!: string;
  @Column('text') state!: FilmState;
  @Column('integer') frames!: number;
  @Column('integer') encoded!: number;
  @Column('integer') bytes!: number;
  @Column('text') failure!: string;
  @Column('integer') createdAt!: number;
}

/** A finish that is kept for all projects. */
@Entity('kept_finish')
export class KeptFinishRow {
  @PrimaryColumn('text') id!: string;
  @Column('text') name!: string;
  @Column('text') folder!: string;
  @Column('text') document!: string;
  @Column('integer') createdAt!: number;
}
