import type { ProjectDocument } from '@zippy/core/document';
import type { MapSource } from '@zippy/core/optics';
import type { FieldSpec } from '../field';

/** All that the page knows of what a map can take its values from. */
export interface SourceView {
  label: string;
  /** What one of them is called in a list, where that says more. */
  title?(source: MapSource): string;
  /** Everyday words for it. */
  words: string;
  /** What it is good for, in one sentence. */
  hint: string;
  /** Whether it lies on the surface somewhere, so that there is something to place. */
  laid: boolean;
  /** Its own fields. @param at path of the source */
  fields(at: string, document: ProjectDocument): FieldSpec[];
}
