import { describe, expect, it } from 'vitest';
import {
  makeEdit,
  newCamera,
  newDocument,
  newLight,
  newNode,
  newShot,
  sceneDigest,
  type ProjectDocument,
} from './index';

function studio(): ProjectDocument {
  const document = structuredClone(newDocument('digests'));
  document.nodes = { box: newNode({ id: 'box', name: 'Box' }) };
  document.lights = { key: newLight('panel', { id: 'key' }) };
  document.cameras = { eye: newCamera({ id: 'eye' }) };
  document.shots = { one: newShot({ id: 'one', camera: 'eye' }), two: newShot({ id: 'two', camera: 'eye' }) };
  return document;
}
const after = (recipe: (draft: ProjectDocument) => void) =>
  sceneDigest(makeEdit(studio(), 'Edit', recipe).document, 'one');

describe('the digest of a scene', () => {
  const before = sceneDigest(studio(), 'one');

  it('is the same of the same scene, whatever things are called and how it is developed', () => {
    expect(after((draft) => void (draft.nodes['box']!.name = 'Crate'))).toBe(before);
    expect(after((draft) => void (draft.look.exposure = 2))).toBe(before);
    expect(after((draft) => void (draft.shots['two']!.length = 7))).toBe(before);
  });

  it('is another one once something is elsewhere, lit otherwise, or moves', () => {
    const changed = [
      after((draft) => void (draft.nodes['box']!.position = [1, 0, 0])),
      after((draft) => void (draft.lights['key']!.power = 7)),
      after((draft) => void (draft.set.floor.roughness = 0.1)),
      after((draft) => void (draft.shots['one']!.length = 7)),
      after((draft) => void delete draft.lights['key']),
      after((draft) => void (draft.shots['one']!.picture = { width: 100, height: 100 })),
    ];
    expect(new Set([before, ...changed]).size).toBe(changed.length + 1);
  });

  it('of a shot that is gone is none', () => {
    expect(sceneDigest(studio(), 'three')).toBe('');
  });
});
