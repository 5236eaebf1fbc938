import { describe, expect, it } from 'vitest';
import { newDocument, newFinish, newNode, newShot, sceneDigest, type ProjectDocument } from '../document';
import { dressedBy } from './colourways';
import { evaluate } from './evaluate';

function product(): ProjectDocument {
  const document = newDocument('Colourways');
  const mesh = { asset: 'a'.repeat(64), index: 0 };
  document.finishes = Object.fromEntries(['ivory', 'pine', 'red'].map((id) => [id, newFinish({ id, name: id })]));
  document.nodes = {
    body: newNode({ id: 'body', kind: 'part', mesh, finish: 'ivory' }),
    lid: newNode({ id: 'lid', kind: 'part', mesh, finish: 'ivory' }),
    bare: newNode({ id: 'bare', kind: 'part', mesh }),
  };
  document.colourways = {
    dark: { name: 'Dark', order: 0, wears: { ivory: 'pine', lid: 'red', bare: 'pine' } },
    plain: { name: 'Plain', order: 1, wears: {} },
  };
  document.shots = { one: newShot({ id: 'one' }) };
  return document;
}
const worn = (document: ProjectDocument) =>
  Object.fromEntries(evaluate(document, document.shots['one']!, 1).parts.map(({ node, finish }) => [node, finish]));

describe('a colourway', () => {
  it('replaces finishes wherever they are worn, and of single parts before that', () => {
    const document = product();
    expect(worn(document)).toEqual({ body: 'ivory', lid: 'ivory', bare: null });
    document.colourway = 'dark';
    expect(worn(document)).toEqual({ body: 'pine', lid: 'red', bare: 'pine' });
    document.colourway = 'plain';
    expect(worn(document)).toEqual({ body: 'ivory', lid: 'ivory', bare: null });
  });

  it('of a shot counts before that of the project', () => {
    const document = product();
    document.colourway = 'plain';
    document.shots['one']!.colourway = 'dark';
    expect(worn(document)['body']).toBe('pine');
  });

  it('that is gone, or wears what is gone, leaves parts as they are', () => {
    const document = product();
    document.colourway = 'never';
    expect(worn(document)['body']).toBe('ivory');
    document.colourway = 'dark';
    delete document.finishes['pine'];
    expect(dressedBy(document, null)(document.nodes['body']!)).toBe('ivory');
  });

  it('is another scene, by which older takes are told', () => {
    const document = product();
    const before = sceneDigest(document, 'one');
    expect(sceneDigest({ ...document, colourway: 'dark' }, 'one')).not.toBe(before);
  });
});
