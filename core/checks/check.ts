import type { ProjectDocument } from '../document';
import type { ReelTake } from '../reel';

/** What a check has to know besides the document. */
export interface Surrounding {
  takes: readonly ReelTake[];
}

/** Looks for one thing that will spoil the film. @returns one entry for each place where it is so */
export type Check<F> = (document: ProjectDocument, surrounding: Surrounding) => F[];
