import { evaluate } from '../motion';
import { joinParts, setPivot } from '../scene';
import { beforeEach, describe, expect, it } from 'vitest';
import { checkDocument, newAsset, newDocument, newFinish, type ProjectDocument, type SetPiece } from '../document';
import { pieceMesh, shapeSignature, transformMesh, type Transform, type TriangleMesh } from '../geometry';
import {
  applyRevision,
  matchParts,
  placeModel,
  presentParts,
  rematch,
  stateOfMatch,
  treeParts,
  type ModelTree,
  type RevisionPart,
} from './index';

const OLD = 'a'.repeat(64);
const NEW = 'b'.repeat(64);
const at = (x: number, y = 0, z = 0): Transform => [1, 0, 0, x, 0, 1, 0, y, 0, 0, 1, z];

interface Solid {
  name: string;
  piece: SetPiece;
  place?: Transform;
}

const box = (width: number): SetPiece => ({ kind: 'box', width, height: 10, depth: 20, bevel: 0 });
const shaft = (radius: number): SetPiece => ({ kind: 'cylinder', radius, height: 30, bevel: 0 });

/** A model of one group, "Case", with solids in it. */
function modelOf(solids: Solid[]): { tree: ModelTree; meshes: TriangleMesh[] } {
  const nodes: ModelTree['nodes'] = [
    { name: 'Case', parent: -1, transform: at(0), mesh: null, finish: null },
    ...solids.map(({ name, place }, k) => ({ name, parent: 0, transform: place ?? at(0), mesh: k, finish: 0 })),
  ];
  const finishes = [{ name: 'Grey', values: {}, maps: [] }];
  return {
    tree: { nodes, finishes, center: [5, 0, 5], bottom: -3, size: [10, 10, 10], middles: nodes.map(() => null) },
    meshes: solids.map(({ piece }) => pieceMesh(piece)),
  };
}

const BEFORE: Solid[] = [
  { name: 'Body', piece: box(100) },
  { name: 'Knob', piece: shaft(8), place: at(30, 5, 0) },
  { name: 'Latch', piece: box(7), place: at(0, 50, 0) },
  { name: 'Back cover', piece: box(61), place: at(0, 0, -20) },
  { name: 'Screw', piece: shaft(2), place: at(10, 0, 0) },
  { name: 'Screw', piece: shaft(2), place: at(20, 0, 0) },
];
/** The knob changed, the latch gone, the cover renamed, one screw moved, a socket and its ring new. */
const AFTER: Solid[] = [
  { name: 'Screw', piece: shaft(2), place: at(24, 0, 0) },
  { name: 'Screw', piece: shaft(2), place: at(10, 0, 0) },
  { name: 'Rear cover', piece: box(61), place: at(0, 0, -20) },
  { name: 'Socket', piece: shaft(5), place: at(70, 0, 0) },
  { name: 'Socket ring', piece: shaft(6), place: at(71, 0, 0) },
  { name: 'Body', piece: box(100) },
  { name: 'Knob', piece: shaft(9), place: at(30, 5, 0) },
];

let document: ProjectDocument;
const after = modelOf(AFTER);
const node = (name: string) => Object.values(document.nodes).find((each) => each.name === name)!;
const revision = { hash: NEW, sourceHash: NEW, sourceName: 'case-2.step', companions: [], found: {}, recipe: null };

function parts(): { before: RevisionPart[]; after: RevisionPart[] } {
  const { meshes } = modelOf(BEFORE);
  return {
    before: presentParts(document, OLD).map((part) => ({ ...part, shape: shapeSignature(meshes[part.mesh]!) })),
    after: treeParts(after.tree).map((part) => ({ ...part, shape: shapeSignature(after.meshes[part.mesh]!) })),
  };
}

const swap = (matches = matchParts(parts().before, parts().after)) =>
  applyRevision(document, 'case', revision, after.tree, matches);

beforeEach(() => {
  document = newDocument('Revision');
  const { tree } = modelOf(BEFORE);
  document.assets['case'] = newAsset({ id: 'case', name: 'Case', kind: 'model', hash: OLD });
  const placed = placeModel(tree, OLD, 'Case', 0);
  for (const each of placed.nodes) document.nodes[each.id] = each;
  for (const each of placed.finishes) document.finishes[each.id] = each;
});

describe('the signature of a shape', () => {
  it('has the closed forms of a sphere and a box', () => {
    const ball = shapeSignature(pieceMesh({ kind: 'sphere', radius: 10 }));
    expect(ball.area / (400 * Math.PI)).toBeCloseTo(1, 2);
    expect(ball.volume / ((4000 / 3) * Math.PI)).toBeCloseTo(1, 2);
    // A sphere's surface has a third of its radius squared along each axis.
    for (const moment of ball.moments) expect(moment).toBeCloseTo(100 / 3, 1);
    const crate = shapeSignature(pieceMesh({ kind: 'box', width: 2, height: 2, depth: 2, bevel: 0 }));
    expect(crate.area).toBeCloseTo(24, 5);
    expect(crate.volume).toBeCloseTo(8, 5);
    // Of each axis: two faces at distance one, four with a mean square of a third.
    for (const moment of crate.moments) expect(moment).toBeCloseTo((2 + 4 / 3) / 6, 5);
  });

  it('stays when the shape is turned and moved, and tells other shapes apart', () => {
    const mesh = pieceMesh(box(50));
    const [c, s] = [Math.cos(0.7), Math.sin(0.7)];
    const turned = shapeSignature(transformMesh(mesh, [c, -s, 0, 100, s, c, 0, -40, 0, 0, 1, 3]));
    const own = shapeSignature(mesh);
    expect(turned.volume / own.volume).toBeCloseTo(1, 4);
    turned.moments.forEach((moment, k) => expect(moment / own.moments[k]!).toBeCloseTo(1, 3));
    expect(shapeSignature({ ...mesh, indices: new Uint32Array() })).toEqual({ area: 0, volume: 0, moments: [0, 0, 0] });
  });
});

describe('parts of a revision', () => {
  it('are found by path, by name, and by shape whatever their name', () => {
    const all = parts();
    const found = matchParts(all.before, all.after).map((match) => [
      match.before === null ? null : all.before[match.before]!.name,
      match.after === null ? null : all.after[match.after]!.name,
      stateOfMatch(match, all),
      match.by,
    ]);
    expect(found).toEqual([
      ['Body', 'Body', 'same', 'path'],
      ['Knob', 'Knob', 'changed', 'path'],
      ['Back cover', 'Rear cover', 'same', 'shape'],
      ['Screw', 'Screw', 'same', 'path'],
      ['Screw', 'Screw', 'moved', 'path'],
      ['Latch', null, 'gone', null],
      [null, 'Socket', 'new', null],
      [null, 'Socket ring', 'new', null],
    ]);
  });

  it('of which thousands are alike are found by where they are, at once', () => {
    const shape = { area: 5, volume: 1, moments: [1, 2, 3] as [number, number, number] };
    const screws = (shift: number): RevisionPart[] =>
      Array.from({ length: 2000 }, (_, k) => ({ path: 'Case / Screw', name: 'Screw', mesh: 0, shape, place: at((k % 50) * 9 + shift, Math.floor(k / 50) * 9) })); // prettier-ignore
    const start = performance.now();
    const matches = matchParts(screws(0), screws(0.5).reverse());
    expect(performance.now() - start).toBeLessThan(2000);
    for (const match of matches) expect(match.after).toBe(1999 - match.before!);
  });

  it('can be said by hand, and what had them is free again', () => {
    const { before, after: next } = parts();
    const matches = matchParts(before, next);
    const [latch, socket, knob] = [before.findIndex(({ name }) => name === 'Latch'), next.findIndex(({ name }) => name === 'Socket'), next.findIndex(({ name }) => name === 'Knob')]; // prettier-ignore
    const made = rematch(matches, latch, socket);
    expect(made.find((match) => match.before === latch)).toEqual({
      before: latch,
      after: socket,
      by: 'hand',
      keep: true,
    });
    expect(made.some((match) => match.before === null && match.after === socket)).toBe(false);
    const robbed = rematch(matches, latch, knob);
    expect(robbed.filter((match) => match.after === knob)).toHaveLength(1);
    expect(robbed.find((match) => match.before !== null && before[match.before]!.name === 'Knob')!.after).toBeNull();
    const freed = rematch(made, latch, null);
    expect(freed.find((match) => match.before === null && match.after === socket)!.keep).toBe(true);
    for (const list of [made, robbed, freed]) {
      expect(list.filter((match) => match.before !== null)).toHaveLength(before.length);
      expect(new Set(list.flatMap((match) => match.after ?? [])).size).toBe(next.length);
    }
  });
});

describe('a new revision', () => {
  it('keeps finishes, turning points, keys, moves and places, and shows the new meshes', () => {
    document.finishes['gold'] = newFinish({ id: 'gold', name: 'Gold' });
    const knob = node('Knob');
    Object.assign(knob, { finish: 'gold', name: 'Volume', turn: [0, 1, 0], glow: 3 });
    setPivot(document, knob.id, [0, 15, 0], [0, 0, 1]);
    const shot = Object.values(document.shots)[0]!;
    shot.tracks[`nodes/${knob.id}/turn`] = [{ frame: 1, value: [0, 0, 0], pace: 'linear' }];
    const before = structuredClone(knob);
    swap();
    expect(document.nodes[knob.id]).toEqual({
      ...before,
      mesh: { asset: NEW, index: 6 },
      origin: { path: 'Case / Knob', place: [...at(30, 5, 0)] },
    });
    expect(shot.tracks[`nodes/${knob.id}/turn`]).toHaveLength(1);
    expect(node('Back cover').mesh).toEqual({ asset: NEW, index: 2 });
    expect(document.assets['case']).toMatchObject({ id: 'case', hash: NEW, sourceName: 'case-2.step' });
    expect(checkDocument(structuredClone(document)).name).toBe('Revision');
  });

  it('drops what is gone and brings what is new where the file has it, in a finish of its like', () => {
    const finish = node('Body').finish;
    const root = node('Case');
    const made = swap();
    expect(node('Latch')).toBeUndefined();
    expect(made.map((id) => document.nodes[id]!.name)).toEqual(['Socket', 'Socket ring']);
    const socket = document.nodes[made[0]!]!;
    expect(socket).toMatchObject({ parent: root.id, finish, mesh: { asset: NEW, index: 3 }, position: [70, 0, 0] });
    expect(Object.values(document.assets)).toHaveLength(1);
    expect(Object.values(document.finishes)).toHaveLength(1);
  });

  it('moves what the file moved, also where it was moved by hand before', () => {
    const [, second] = Object.values(document.nodes).filter(({ name }) => name === 'Screw');
    second!.position = [20, 7, 0];
    second!.turn = [0, Math.PI / 2, 0];
    const shot = Object.values(document.shots)[0]!;
    shot.tracks[`nodes/${second!.id}/position`] = [{ frame: 1, value: [20, 100, 0], pace: 'linear' }];
    swap();
    expect(document.nodes[second!.id]!.position.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([24, 7, 0]);
    expect(document.nodes[second!.id]!.turn[1]).toBeCloseTo(Math.PI / 2, 6);
    expect((shot.tracks[`nodes/${second!.id}/position`]![0]!.value as number[]).map((v) => Math.round(v))).toEqual([24, 100, 0]); // prettier-ignore
  });

  it('keeps what is gone with its old file where that is wanted, and leaves out what is new where it is not', () => {
    const matches = matchParts(parts().before, parts().after).map((match) => ({
      ...match,
      keep: match.before !== null,
    }));
    expect(swap(matches)).toEqual([]);
    expect(node('Latch').mesh).toMatchObject({ asset: OLD });
    expect(Object.values(document.assets).map(({ name, hash }) => [name, hash])).toEqual([
      ['Case', NEW],
      ['Case before', OLD],
    ]);
  });

  it('reaches duplicates, joined parts and parts of other groups', () => {
    const screws = Object.values(document.nodes).filter(({ name }) => name === 'Screw');
    const copy = { ...structuredClone(screws[0]!), id: 'copy', parent: null, name: 'Spare' };
    document.nodes['copy'] = copy;
    joinParts(document, [node('Body').id, node('Back cover').id]);
    swap();
    expect(document.nodes['copy']!.mesh).toEqual({ asset: NEW, index: 1 });
    expect(node('Body').mesh).toMatchObject({ asset: NEW, index: 5 });
    const files = new Set(evaluate(document, null, 1).parts.map(({ mesh }) => ('asset' in mesh ? mesh.asset : '')));
    expect(files).toEqual(new Set([NEW]));
  });

  it('knows the parts of projects that kept no origins by the names in their tree', () => {
    for (const each of Object.values(document.nodes)) each.origin = null;
    const all = parts();
    const states = matchParts(all.before, all.after).map((match) => stateOfMatch(match, all));
    expect(states).toEqual(['same', 'changed', 'same', 'same', 'same', 'gone', 'new', 'new']);
    const made = swap();
    // The model was centred and stood on the floor: what is new goes along.
    expect(document.nodes[made[0]!]!.parent).toBe(node('Case').id);
  });
});
