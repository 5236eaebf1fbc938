import { beforeEach, describe, expect, it } from 'vitest';
import {
  newCopies,
  newDocument,
  newFinish,
  newLabel,
  newNode,
  openDocument,
  type Copies,
  type ProjectDocument,
} from '../document';
import { evaluate } from './evaluate';
import { separateDressedCopies } from './dressedCopies';

const mesh = { asset: 'a'.repeat(64), index: 0 };
let document: ProjectDocument;
const copies = (over: Partial<Copies>) =>
  newCopies({ kind: 'line', count: 4, wears: ['red', 'green', 'blue'], ...over });
const worn = (node: string) =>
  evaluate(document, null, 1)
    .parts.filter((part) => part.node === node)
    .map(({ finish }) => finish);

beforeEach(() => {
  document = newDocument('Row');
  for (const [k, id] of ['red', 'green', 'blue'].entries())
    document.finishes[id] = newFinish({ id, name: id, baseColor: [Number(k === 0), Number(k === 1), Number(k === 2)] });
  document.finishes['steel'] = newFinish({ id: 'steel', name: 'steel' });
  document.nodes['cup'] = newNode({ id: 'cup' });
  document.nodes['body'] = newNode({ id: 'body', parent: 'cup', mesh, finish: 'red' });
  document.nodes['foot'] = newNode({ id: 'foot', parent: 'cup', mesh, finish: 'steel', order: 1 });
});

describe('copies that are dressed by a rule', () => {
  it('wear finishes in turn, in place of the first of them only', () => {
    document.nodes['cup']!.copies = copies({ dressed: 'alternate' });
    expect(worn('body')).toEqual(['red', 'green', 'blue', 'red']);
    expect(worn('foot')).toEqual(['steel', 'steel', 'steel', 'steel']);
    document.nodes['cup']!.copies = copies({ dressed: 'same' });
    expect(worn('body')).toEqual(['red', 'red', 'red', 'red']);
  });

  it('wear them at random by a seed, each about as often', () => {
    document.nodes['cup']!.copies = copies({ dressed: 'random', count: 300, seed: 5 });
    const first = worn('body');
    for (const id of ['red', 'green', 'blue']) {
      const share = first.filter((each) => each === id).length;
      expect(share).toBeGreaterThan(70);
      expect(share).toBeLessThan(130);
    }
    expect(worn('body')).toEqual(first);
    document.nodes['cup']!.copies!.seed = 6;
    expect(worn('body')).not.toEqual(first);
  });

  it('go from one finish to the other along the row', () => {
    document.nodes['cup']!.copies = copies({ dressed: 'blend', count: 5 });
    const { parts, finishes } = evaluate(document, null, 1);
    const colors = parts.filter(({ node }) => node === 'body').map(({ finish }) => finishes[finish!]!.baseColor);
    expect(colors).toEqual([
      [1, 0, 0],
      [0.5, 0.5, 0],
      [0, 1, 0],
      [0, 0.5, 0.5],
      [0, 0, 1],
    ]);
    // Frames on which nothing moves share what was blended.
    const other = evaluate(document, null, 2);
    expect(other.finishes['red~green~16']).toBe(finishes['red~green~16']);
  });

  it('wear a colourway each, and rules in rules follow each other', () => {
    document.colourways = {
      b: { name: 'Second', order: 2, wears: { body: 'blue' } },
      a: { name: 'First', order: 1, wears: { steel: 'green' } },
    };
    document.nodes['cup']!.copies = copies({ dressed: 'colourways', count: 3, wears: [] });
    expect(worn('body')).toEqual(['red', 'blue', 'red']);
    expect(worn('foot')).toEqual(['green', 'steel', 'green']);
    document.nodes['foot']!.copies = copies({ dressed: 'alternate', count: 2, wears: ['steel', 'red'] });
    expect(worn('foot')).toEqual(['green', 'green', 'steel', 'red', 'green', 'green']);
    document.colourways = {};
    expect(worn('body')).toEqual(['red', 'red', 'red']);
  });

  it('leave out what is gone, and labels stay on each', () => {
    document.nodes['cup']!.copies = copies({ dressed: 'alternate', wears: ['red', 'gone', 'blue'] });
    expect(worn('body')).toEqual(['red', 'blue', 'red', 'blue']);
    document.nodes['body']!.labels['l'] = newLabel('picture');
    expect(worn('body')).toEqual(['red~body', 'blue~body', 'red~body', 'blue~body']);
    expect(evaluate(document, null, 1).finishes['blue~body']!.baseColor).toEqual([0, 0, 1]);
  });

  it('keep what they wear when they become parts of their own', () => {
    document.nodes['cup']!.copies = copies({ dressed: 'blend', count: 5 });
    const before = evaluate(document, null, 1);
    const colorsOf = ({ parts, finishes }: typeof before) =>
      parts.filter(({ name }) => name !== 'foot').map(({ finish }) => finishes[finish!]!.baseColor.join());
    const made = separateDressedCopies(document, 'cup');
    expect(made).toHaveLength(5);
    const after = evaluate(document, null, 1);
    expect(colorsOf(after).toSorted()).toEqual(colorsOf(before).toSorted());
    expect(document.nodes['cup']!.copies).toBeNull();
    expect(() => openDocument(JSON.parse(JSON.stringify(document)))).not.toThrow();
  });
});
