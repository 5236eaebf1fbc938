import { TestBed } from '@angular/core/testing';
import { newFinish } from '@zippy/core/document';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { openStudio } from '../../testing/studioBed';
import type { Studio } from '../store/studio';
import { finishFields } from './field-specs';
import { FieldValues } from './field-values';

let studio: Studio;
let values: FieldValues;
const group = (id: string, title: string) =>
  finishFields(`finishes/${id}`, studio.document().finishes[id]!).find((each) => each.title === title)!;

beforeEach(() => {
  vi.stubGlobal('EventSource', class {});
  studio = openStudio();
  values = TestBed.inject(FieldValues);
  studio.edit('Finishes', (draft) => {
    Object.assign(draft.finishes['gold']!, { coatWeight: 0.8, coatColor: [1, 0.5, 0], specularRoughness: 0.9 });
    draft.finishes['red'] = newFinish({ id: 'red', name: 'Red' });
  });
});

describe('the values of one group', () => {
  it('are carried to the same group of another thing, in one step, and to no other group', () => {
    expect(values.fits(group('red', 'Coat'))).toBe(false);
    values.copy(group('gold', 'Coat'));
    expect(values.fits(group('red', 'Surface'))).toBe(false);
    values.paste(group('red', 'Coat'));
    expect(studio.document().finishes['red']).toMatchObject({
      coatWeight: 0.8,
      coatColor: [1, 0.5, 0],
      specularRoughness: 0.35,
    });
    studio.undo();
    expect(studio.document().finishes['red']!.coatWeight).toBe(0);
  });

  it('are given to all that is selected', () => {
    values.copy(group('gold', 'Coat'));
    const { title, fields } = group('red', 'Coat');
    const both = fields.map((field) => ({ ...field, also: [{ ...field, path: field.path.replace('red', 'gold') }] }));
    studio.setProperty('Coat', 'finishes/gold/coatWeight', 0.1);
    values.paste({ title, fields: both });
    expect(studio.document().finishes['gold']!.coatWeight).toBe(0.8);
    expect(studio.document().finishes['red']!.coatWeight).toBe(0.8);
  });
});
