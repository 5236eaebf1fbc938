import { describe, expect, it } from 'vitest';
import { makeEdit } from './edits';
import { editFault } from './editFault';
import { newCopies, newDocument, newLight, newNode, newShot } from './defaults';
import { emptyHistory, newestSteps, redo, remember, undo, without } from './history';
import type { ProjectDocument } from './schema';

function sample(): ProjectDocument {
  const document = newDocument('Sample');
  document.nodes = { a: newNode({ id: 'a', copies: newCopies() }), b: newNode({ id: 'b', parent: 'a' }) };
  document.lights = { key: newLight('panel', { id: 'key' }) };
  document.shots = {
    one: newShot({ id: 'one', tracks: { 'lights/key/power': [{ frame: 1, value: 5, pace: 'linear' }] } }),
  };
  return document;
}

const fault = (recipe: (draft: ProjectDocument) => void) => {
  const { document, edit } = makeEdit(sample(), 'try', recipe);
  return editFault(document, edit!.patches);
};

describe('an edit', () => {
  it('that is sound has no fault', () => {
    expect(fault((draft) => void (draft.lights['key']!.power = 3))).toBeNull();
    expect(fault((draft) => void (draft.nodes['b']!.parent = null))).toBeNull();
    expect(fault((draft) => void delete draft.lights['key'])).toBeNull();
    expect(fault((draft) => void delete draft.shots['one']!.tracks['lights/key/power'])).toBeNull();
    expect(fault((draft) => void draft.shots['one']!.tracks['lights/key/power']!.push({ frame: 9, value: 1, pace: 'held' }))).toBeNull(); // prettier-ignore
    expect(fault((draft) => void (draft.name = 'Other'))).toBeNull();
  });

  it.each<[string, (draft: ProjectDocument) => void]>([
    ['a number beyond its range', (draft) => void (draft.lights['key']!.kelvin = 50)],
    ['half a frame', (draft) => void (draft.shots['one']!.length = 55.2)],
    ['no number', (draft) => void (draft.lights['key']!.power = NaN)],
    ['a vector of two', (draft) => void (draft.nodes['a']!.position as number[]).pop()],
    ['a key in no time', (draft) => void (draft.shots['one']!.tracks['lights/key/power']![0]!.frame = 1e9)],
    ['more copies than a grid takes', (draft) => void (draft.nodes['a']!.copies!.counts = [1000, 1000, 1])],
    ['an unknown property', (draft) => void delete (draft.lights['key'] as { power?: number }).power],
    ['a light on nothing', (draft) => void (draft.lights['key']!.parent = 'gone')],
    ['a group in itself', (draft) => void (draft.nodes['a']!.parent = 'b')],
    ['children of what was deleted', (draft) => void delete draft.nodes['a']],
    ['a light that is half there', (draft) => void (draft.lights['new'] = { id: 'new' } as never)],
    ['a name without a letter', (draft) => void (draft.name = '')],
  ])('with %s has one, in a sentence', (_, recipe) => {
    expect(fault(recipe)).toMatch(/\w.*\.$/);
  });
});

describe('steps', () => {
  const made = () => {
    let document = sample();
    let history = emptyHistory;
    for (const power of [1, 2, 3]) {
      const next = makeEdit(document, `${power}`, (draft) => void (draft.lights['key']!.power = power));
      document = next.document;
      history = remember(history, next.edit!);
    }
    return { document, history };
  };

  it('go without those that were refused', () => {
    const { history } = made();
    const left = without(history, history.done[1]!.patches);
    expect(left.done.map(({ label }) => label)).toEqual(['1', '3']);
  });

  it('that belong to what is gone are left out, and the ones before them are undone', () => {
    const { document, history } = made();
    const other = makeEdit(document, 'node', (draft) => void (draft.nodes['a']!.glow = 2));
    let steps = { done: [other.edit!, ...history.done], undone: history.done.slice(0, 1) };
    const gone = makeEdit(other.document, 'gone', (draft) => void delete draft.lights['key']).document;
    const back = undo(gone, steps);
    expect([back.applied?.label, back.document.nodes['a']!.glow, back.history.done]).toEqual(['node', 1, []]);
    steps = { ...steps, done: [] };
    expect(redo(gone, steps)).toMatchObject({ applied: null, history: { undone: [] } });
  });

  it('are kept from the newest on, as many as there is room for', () => {
    const { history } = made();
    expect(newestSteps(history, 2).done.map(({ label }) => label)).toEqual(['2', '3']);
    expect(newestSteps(history, 9)).toEqual(history);
  });
});
