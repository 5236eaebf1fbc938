import { describe, expect, it } from 'vitest';
import { footageKey, newAsset, newDocument, type ProjectDocument } from '../document';
import { evaluate } from './evaluate';

const hash = (k: number) => k.toString(16).padStart(64, '0');
function filmed(frames: number, rate: number, over: Partial<ProjectDocument['set']['behind']> = {}): ProjectDocument {
  const document: ProjectDocument = structuredClone(newDocument('Plate'));
  const footage = {
    frames: Array.from({ length: frames }, (_, k) => hash(k)),
    rate,
    size: null,
    brightness: Array.from({ length: frames }, () => 0.5),
  };
  document.assets['f'] = newAsset({ id: 'f', name: 'Filmed', kind: 'footage', hash: hash(0), footage });
  document.assets['p'] = newAsset({ id: 'p', name: 'Still', kind: 'picture', hash: hash(99) });
  Object.assign(document.set.behind, { kind: 'plate', plate: 'f', ...over });
  return document;
}
const plateOn = (document: ProjectDocument, frame: number): string | null =>
  evaluate(document, Object.values(document.shots)[0]!, frame).set.behind.plate;

describe('a plate that was filmed', () => {
  it('keeps its own time, whatever its rate', () => {
    const document = filmed(60, 30);
    expect([1, 2, 5, 25].map((frame) => plateOn(document, frame))).toEqual(
      [0, 1, 5, 30].map((k) => footageKey('f', k)),
    );
  });

  it('begins where it is said, at its own second, and runs as fast as it shall', () => {
    const document = filmed(60, 24, { plateStart: 11, plateFrom: 0.5, plateSpeed: 2 });
    expect([1, 11, 13].map((frame) => plateOn(document, frame))).toEqual([12, 12, 16].map((k) => footageKey('f', k)));
  });

  it('stands still at its end, begins again, runs back, or is gone', () => {
    const at = (plateAfter: 'hold' | 'again' | 'toAndFro' | 'gone') => plateOn(filmed(4, 24, { plateAfter }), 6);
    expect([at('hold'), at('again'), at('toAndFro'), at('gone')]).toEqual([
      footageKey('f', 3),
      footageKey('f', 1),
      footageKey('f', 1),
      null,
    ]);
  });

  it('stands still while the shutter is open', () => {
    expect([plateOn(filmed(60, 24), 5.2), plateOn(filmed(60, 24), 5.9)]).toEqual(Array(2).fill(footageKey('f', 4)));
  });

  it('that is a picture, or not shown, is left as it is', () => {
    expect(plateOn(filmed(4, 24, { plate: 'p' }), 3)).toBe('p');
    const hidden = filmed(4, 24, { kind: 'color' });
    expect(evaluate(hidden, null, 3).set).toBe(hidden.set);
  });
});
