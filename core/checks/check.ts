import type { ProjectDocument, TakeFrames } from '../document';

/** What a check has to know besides the document. */
export interface Surrounding {
  takes: readonly (TakeFrames & { id: string; number: number; done: readonly number[] })[];
}

/** Looks for one thing that will spoil the film. @returns one entry for each place where it is so */
export type Check<F> = (document: ProjectDocument, surrounding: Surrounding) => F[];
