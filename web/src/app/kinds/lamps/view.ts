import type { FieldSpec } from '../field';

/** All that the page knows of a kind of lamp. */
export interface LampView {
  /** Everyday words for it. */
  words: string;
  /** Fields of what it is shaped by. @param own the field of one of a lamp's properties */
  fields(own: (key: string, label: string) => FieldSpec): FieldSpec[];
}
