import {
  nearest,
  propertyAt,
  type ProjectDocument,
  type Property,
  type Value,
  type ValueKind,
} from '@zippy/core/document';
import type { SceneState } from '@zippy/core/scene';

/** How one property is shown. */
export interface FieldSpec {
  path: string;
  label: string;
  kind: 'number' | 'vector' | 'color' | 'switch' | 'choice' | 'pace' | 'text' | 'words' | 'curves';
  unit?: string;
  step?: number;
  min?: number;
  max?: number;
  /** What one shown unit is in the document: radians per degree, for one. */
  scale?: number;
  options?: { value: string; label: string }[];
  /** What it does beside the obvious, told over its name. */
  hint?: string;
  /** Shown where none of the options is chosen. */
  placeholder?: string;
  /** Its three numbers may be kept in proportion. */
  proportional?: boolean;
  /** A slider would be no help, whatever the range. */
  exact?: boolean;
  /** Cannot move and is the same in every shot. */
  still?: boolean;
  /** The nearest value that the property can have, in the document's own units. */
  bring?: (value: Value) => Value;
  /** The same property of what else is selected: it changes along. */
  also?: FieldSpec[];
  /** What it shows where that is not what stands at its path. */
  read?: (document: ProjectDocument) => Value;
  /** Says in other words what stands at another path: what it is as things stand, and what that becomes. */
  derived?: { path: string; of: (state: SceneState) => Value; to: (state: SceneState, value: Value) => Value };
  /** Sets the value where more than the property itself has to change with it. */
  write?: (draft: ProjectDocument, value: unknown) => void;
}

export interface FieldGroup {
  title: string;
  fields: FieldSpec[];
}

/** How a value of a kind is shown. */
export const FIELD_KINDS: Record<ValueKind, FieldSpec['kind']> = {
  number: 'number',
  color: 'color',
  place: 'vector',
  turn: 'vector',
  vector: 'vector',
  switch: 'switch',
  choice: 'choice',
  text: 'text',
};

/** The field of a property, as its table tells it. */
export function fieldOf(property: Property, path: string, label: string, over: Partial<FieldSpec> = {}): FieldSpec {
  const { kind, unit, step, scale, min, max, moves } = property;
  const shown = {
    unit,
    step,
    scale,
    min: min / scale,
    max: max / scale,
    still: !moves,
    proportional: kind === 'vector',
  };
  const bring = (value: Value) => nearest(property, value);
  return { path, label, kind: FIELD_KINDS[kind], bring, ...shown, ...over };
}

/** The field of the property at a path. */
export function field(path: string, label: string, over: Partial<FieldSpec> = {}): FieldSpec {
  const property = propertyAt(path);
  if (!property) throw new Error(`No table holds ${path}.`);
  return fieldOf(property, path, label, over);
}

/** A choice among names. */
export const choice = <T extends string>(
  path: string,
  label: string,
  names: Record<T, string>,
  values = Object.keys(names) as T[],
): FieldSpec => ({
  path,
  label,
  kind: 'choice',
  still: !propertyAt(path)?.moves,
  options: values.map((value) => ({ value, label: names[value] })),
});
