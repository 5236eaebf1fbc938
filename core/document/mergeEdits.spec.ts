import { describe, expect, it } from 'vitest';
import { applyDocumentPatches, makeEdit, mergeEdits, newDocument, type Key, type ProjectDocument } from './index';

const EXPOSURE = 'look/exposure';
const key = (frame: number, value: number): Key => ({ frame, value, pace: 'linear' });

/** A document with keys at frames 10, 20 and 30. */
function start(): { base: ProjectDocument; shot: string } {
  const base = newDocument('Merge');
  const [shot] = Object.keys(base.shots);
  base.shots[shot!]!.tracks[EXPOSURE] = [key(10, 1), key(20, 2), key(30, 3)];
  return { base, shot: shot! };
}
const edited = (base: ProjectDocument, change: (draft: ProjectDocument) => void) => {
  const { document, edit } = makeEdit(base, 'edit', change);
  return { document, patches: edit!.patches };
};

describe('two windows', () => {
  it('keep each the keys that they moved, whatever the other added before them', () => {
    const { base, shot } = start();
    const keys = (document: ProjectDocument) => document.shots[shot]!.tracks[EXPOSURE]!;
    // The other window adds a key at 5 and takes the one at 30 away; this one brightens the key at 20 and adds one at 25.
    const other = edited(base, (draft) => {
      keys(draft).unshift(key(5, 0));
      keys(draft).pop();
    });
    const own = edited(base, (draft) => {
      keys(draft)[1]!.value = 9;
      keys(draft).splice(2, 0, key(25, 7));
    });
    const { document, patches, lost } = mergeEdits({ base, theirs: other.document, patches: own.patches });
    expect(keys(document)).toEqual([key(5, 0), key(10, 1), key(20, 9), key(25, 7)]);
    expect(lost).toBe(0);
    expect(applyDocumentPatches(other.document, patches)).toEqual(document);
  });

  it('lay everything else over each other as it was said, and count what has nowhere to go', () => {
    const { base, shot } = start();
    const [light] = Object.keys(base.lights);
    const other = edited(base, (draft) => void delete draft.lights[light!]);
    const own = edited(base, (draft) => {
      draft.lights[light!]!.power = 5;
      draft.look.exposure = 2;
      delete draft.shots[shot]!.tracks[EXPOSURE];
    });
    const { document, lost } = mergeEdits({ base, theirs: other.document, patches: own.patches });
    expect([document.look.exposure, document.shots[shot]!.tracks, lost]).toEqual([2, {}, 1]);
  });

  it('whose beginning is not known any more change no key by its place in the list', () => {
    const { base, shot } = start();
    const own = edited(base, (draft) => void (draft.shots[shot]!.tracks[EXPOSURE]![1]!.value = 9));
    const { document, lost } = mergeEdits({ base: null, theirs: base, patches: own.patches });
    expect([document, lost]).toEqual([base, 1]);
  });
});
