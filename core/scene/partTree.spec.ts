import { evaluateProperties } from '../motion';
import { worldTransforms } from './placement';
import { beforeEach, describe, expect, it } from 'vitest';
import { checkDocument, meshOfModel, newDocument, newNode, type ProjectDocument } from '../document';
import { transformPoint } from '../geometry';
import {
  attachNodes,
  duplicateNodes,
  groupNodes,
  joinParts,
  nameByPattern,
  partsAlike,
  splitPart,
  topmost,
  ungroupNode,
} from './partTree';

let document: ProjectDocument;
const asset = 'a'.repeat(64);
const place = (id: string, point: [number, number, number] = [1, 2, 3]) =>
  transformPoint(worldTransforms(evaluateProperties(document, null, 1)).get(id)!, point);
const close = (point: readonly number[]) => point.map((v) => expect.closeTo(v, 4) as number);

beforeEach(() => {
  document = structuredClone(newDocument('Parts'));
  const add = (id: string, parent: string | null, over: Partial<ReturnType<typeof newNode>> = {}) => {
    const order = Object.keys(document.nodes).length;
    document.nodes[id] = newNode({
      id,
      name: id.toUpperCase(),
      parent,
      order,
      kind: over.mesh ? 'part' : 'group',
      ...over,
    });
  };
  add('car', null, { position: [100, 0, 0], turn: [0, 1, 0], pivot: [5, 0, 5], scale: [2, 2, 2] });
  add('door', 'car', {
    position: [0, 10, 0],
    turn: [0.4, 0, 0.3],
    pivot: [3, 1, 0],
    mesh: { asset, index: 0 },
    finish: null,
  });
  add('knob', 'door', { position: [1, 1, 1], mesh: { asset, index: 1 } });
  add('wheel', 'car', { position: [0, 0, 9], mesh: { asset, index: 2 } });
  add('spare', null, { position: [7, 7, 7], turn: [0.2, 0.1, 0], mesh: { asset, index: 2 } });
});

describe('nodes of the tree', () => {
  it('below others do not count where those are meant', () => {
    expect(topmost(document, ['knob', 'door', 'spare', 'gone'])).toEqual(['door', 'spare']);
  });

  it.each([
    ['door', null],
    ['wheel', 'spare'],
    ['spare', 'door'],
    ['knob', 'car'],
  ])('hung elsewhere stay in the world: %s under %s', (id, parent) => {
    // prettier-ignore
    const before = [place(id), place('knob')];
    attachNodes(document, [id!], parent);
    expect(document.nodes[id!]!.parent).toBe(parent);
    expect(place(id!)).toEqual(close(before[0]!));
    expect(place('knob')).toEqual(close(before[1]!));
  });

  it('cannot be hung below themselves', () => {
    attachNodes(document, ['car'], 'knob');
    expect(document.nodes['car']!.parent).toBeNull();
    checkDocument(document);
  });

  it('are grouped from anywhere and ungrouped without moving', () => {
    const before = ['door', 'spare'].map((id) => place(id));
    const group = groupNodes(document, ['door', 'knob', 'spare'], 'Shiny')!;
    expect(document.nodes[group]).toMatchObject({ name: 'Shiny', parent: 'car' });
    expect(document.nodes['knob']!.parent).toBe('door');
    expect(['door', 'spare'].map((id) => place(id))).toEqual(before.map(close));
    expect(ungroupNode(document, group).sort()).toEqual(['door', 'spare']);
    expect(document.nodes[group]).toBeUndefined();
    expect(['door', 'spare'].map((id) => place(id))).toEqual(before.map(close));
    expect(groupNodes(document, ['gone'])).toBeNull();
    expect(ungroupNode(document, 'door')).toEqual([]);
  });

  it('are copied with all below them', () => {
    const [copy] = duplicateNodes(document, ['door']) as [string];
    expect(document.nodes[copy]).toMatchObject({ name: 'DOOR copy', parent: 'car' });
    const below = Object.values(document.nodes).filter((node) => node.parent === copy);
    expect(below).toMatchObject([{ name: 'KNOB', mesh: { asset, index: 1 } }]);
    expect(place(below[0]!.id)).toEqual(close(place('knob')));
    checkDocument(document);
  });
});

describe('parts', () => {
  it('are joined where they stand, also those that were joined before', () => {
    const corner = place('spare');
    joinParts(document, ['wheel', 'spare']);
    const knob = place('knob');
    expect(joinParts(document, ['door', 'wheel'])).toBe('door');
    const { joined } = document.nodes['door']!.mesh!;
    expect(joined!.map((each) => meshOfModel(each)!.index)).toEqual([2, 2]);
    const door = worldTransforms(evaluateProperties(document, null, 1)).get('door')!;
    expect(transformPoint(door, transformPoint(joined![1]!.transform, [1, 2, 3]))).toEqual(close(corner));
    expect(place('knob')).toEqual(close(knob));
    expect(Object.keys(document.nodes).sort()).toEqual(['car', 'door', 'knob']);
    expect(joinParts(document, ['door'])).toBeNull();
    checkDocument(document);
  });

  it('are split into faces that wear what the whole wore', () => {
    document.nodes['wheel']!.finish = 'rubber';
    const made = splitPart(document, 'wheel', [[0, 2], [1]]);
    expect(made.map((id) => document.nodes[id])).toMatchObject([
      { name: 'WHEEL 1', parent: 'wheel', finish: 'rubber', mesh: { asset, index: 2, faces: [0, 2] } },
      { name: 'WHEEL 2', mesh: { faces: [1] } },
    ]);
    expect(document.nodes['wheel']).toMatchObject({ kind: 'group', mesh: null });
    expect(splitPart(document, 'door', [[0]])).toEqual([]);
  });

  it('that are alike are found by shape and by finish', () => {
    document.nodes['spare']!.finish = document.nodes['knob']!.finish = 'red';
    expect(partsAlike(document, ['wheel'], 'shape')).toEqual(['wheel', 'spare']);
    expect(partsAlike(document, ['spare'], 'finish')).toEqual(['knob', 'spare']);
    expect(partsAlike(document, ['car'], 'shape')).toEqual([]);
  });

  it('are named by a pattern', () => {
    expect(nameByPattern('Screw ##', ['a', 'b'])).toEqual(['Screw 01', 'Screw 02']);
    expect(nameByPattern('Old *', ['a', 'b'])).toEqual(['Old a', 'Old b']);
    expect(nameByPattern('Screw', ['a', 'b'])).toEqual(['Screw 1', 'Screw 2']);
    expect(nameByPattern('Screw', ['a'])).toEqual(['Screw']);
    expect(nameByPattern('  ', ['a'])).toEqual(['a']);
  });
});
