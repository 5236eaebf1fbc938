import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { openStudio } from '../../../testing/studioBed';
import { newFinish } from '@zippy/core/document';
import { Ask } from '../../ui/ask/ask';
import { MeshLibrary } from '../../meshes/mesh-library';
import { Parts } from './parts';
import { SceneBounds } from '../scene-bounds';
import { Notices } from '../notices';
import type { Studio } from '../studio';

const divide = vi.fn();
const compareModels = vi.fn();
let studio: Studio;
let parts: Parts;
const pick = (...ids: string[]) => studio.selectAll(ids.map((id) => ({ kind: 'node', id })));
const nodes = () => studio.document().nodes;
const told = () => TestBed.inject(Notices).notice();

beforeEach(() => {
  vi.stubGlobal('EventSource', class {});
  divide.mockReset();
  const api = { saveEdits: vi.fn().mockResolvedValue({ revision: 2 }), compareModels };
  studio = openStudio(api, [{ provide: MeshLibrary, useValue: { divide } }]);
  parts = TestBed.inject(Parts);
});

describe('what is added', () => {
  it('is a set piece sized for the product, beside it, and under it where it is a ground', () => {
    parts.addPiece('box');
    parts.addPiece('box');
    parts.addPiece('sweep');
    const made = Object.values(nodes()).filter(({ mesh }) => mesh && 'piece' in mesh);
    expect(made.map(({ name }) => name)).toEqual(['Box 2', 'Box 3', 'Curved sweep']);
    expect(made[0]!.position[0]).toBeGreaterThan(100);
    expect(made[2]!.position).toEqual([0, 0, 0]);
    expect(studio.selectedNodes()).toEqual([made[2]!.id]);
    studio.undo();
    expect(Object.values(nodes()).some(({ name }) => name === 'Curved sweep')).toBe(false);
  });

  it('is a helper where the selection is', () => {
    const bounds = { low: [0, 0, 0], high: [10, 20, 30] };
    TestBed.inject(SceneBounds).meshes.set(new Map([[`${'a'.repeat(64)}/2`, bounds]]) as never);
    pick('lid');
    parts.addHelper();
    expect(Object.values(nodes()).find(({ kind }) => kind === 'helper')).toMatchObject({ position: [5, 10, 15], mesh: null }); // prettier-ignore
  });
});

describe('copies', () => {
  it('keep their numbers when they are laid out otherwise, and are none again', () => {
    parts.copyAs('lid', 'line');
    studio.setProperty('Count', 'nodes/lid/copies/count', 7);
    parts.copyAs('lid', 'ring');
    expect(nodes()['lid']!.copies).toMatchObject({ kind: 'ring', count: 7 });
    parts.copyAs('lid', null);
    expect(nodes()['lid']!.copies).toBeNull();
  });

  it('are dressed by a rule in place of what is worn most, with finishes of the project or of the shelf', () => {
    studio.edit('Red', (draft) => void (draft.finishes['red'] = newFinish({ id: 'red', name: 'Red' })));
    parts.copyAs('knob', 'line');
    studio.setProperty('They wear', 'nodes/knob/copies/dressed', 'alternate');
    parts.dressCopies('knob', 0, 'red');
    expect(nodes()['knob']!.copies!.wears).toEqual(['gold', 'red']);
    parts.dressCopies('knob', 2, { name: 'Slate', baseColor: [0.1, 0.1, 0.12] });
    const [, , slate] = nodes()['knob']!.copies!.wears;
    expect(studio.document().finishes[slate!]!.name).toBe('Slate');
    const worn = () => studio.frameState().parts.flatMap(({ node, finish }) => (node === 'knob' ? [finish] : []));
    expect(worn()).toEqual(['gold', 'red', slate]);
    parts.dressCopies('knob', 1, null);
    expect(worn()).toEqual(['gold', slate, 'gold']);
    parts.separate('knob');
    expect(Object.values(nodes()).filter(({ name }) => name.startsWith('Knob')).map(({ finish }) => finish)).toEqual(['gold', slate, 'gold']); // prettier-ignore
  });

  it('become parts of their own, all selected', () => {
    parts.copyAs('lid', 'line');
    parts.separate('lid');
    expect(studio.selectedNodes()).toHaveLength(3);
    expect(studio.selectedNodes()[0]).toBe('lid');
  });
});

describe('selected parts', () => {
  it('go into a group and out of it, each one step of undo, and stay selected', () => {
    pick('lid', 'knob');
    parts.group();
    const [group] = studio.selectedNodes() as [string];
    expect([nodes()['lid']!.parent, nodes()['knob']!.parent]).toEqual([group, group]);
    expect(parts.canUngroup()).toBe(true);
    parts.ungroup();
    expect(nodes()[group]).toBeUndefined();
    expect(studio.selectedNodes().sort()).toEqual(['knob', 'lid']);
    studio.undo();
    studio.undo();
    expect(nodes()['lid']!.parent).toBeNull();
  });

  it('are duplicated and the copies selected', () => {
    pick('box');
    parts.duplicate();
    expect(studio.selectedNodes()).toHaveLength(1);
    expect(nodes()[studio.selectedNodes()[0]!]!.name).toBe('Box copy');
    expect(Object.keys(nodes())).toHaveLength(7);
  });

  it('are joined where there are two, and say so where there are not', () => {
    pick('lid');
    parts.join();
    expect(told()).toMatch(/two parts or more/);
    pick('lid', 'knob');
    parts.join();
    expect(Object.keys(nodes())).toHaveLength(3);
    expect(nodes()[studio.selectedNodes()[0]!]!.mesh!.joined).toHaveLength(1);
  });

  it('are split by what the worker finds, within limits, and say why where they cannot be', async () => {
    divide.mockResolvedValueOnce([[0, 1], [2]]);
    pick('knob');
    await parts.split('shells');
    expect(divide).toHaveBeenCalledWith({ asset: 'a'.repeat(64), index: 1 }, 'shells');
    const made = Object.values(nodes()).filter((node) => node.parent === 'knob');
    expect(made).toMatchObject([{ finish: 'gold', mesh: { faces: [0, 1] } }, { mesh: { faces: [2] } }]);
    pick(made[0]!.id);
    divide.mockResolvedValueOnce([[0]]);
    await parts.split('faces');
    expect(told()).toMatch(/only 1 face; there is nothing to split/);
    divide.mockResolvedValueOnce(Array.from({ length: 501 }, (_, k) => [k]));
    await parts.split('faces');
    expect(told()).toMatch(/501 faces; at most 500/);
    divide.mockRejectedValueOnce(new Error('The model could not be shown.'));
    await parts.split('faces');
    expect(told()).toBe('The model could not be shown.');
    pick('box');
    await parts.split('faces');
    expect(told()).toMatch(/Select the part/);
  });

  it('select what is like them: of the same finish, or of the same shape under whatever mesh', async () => {
    pick('knob');
    await parts.selectAlike('finish');
    expect(studio.selectedNodes()).toEqual(['knob']);
    expect(TestBed.inject(Notices).news()).toBe('No other part is like this one.');
    const shape = (area: number) => ({ area, volume: area, moments: [area, area, area] });
    compareModels.mockResolvedValue({ before: [shape(10), shape(20), shape(20)], after: [] });
    await parts.selectAlike('shape');
    expect(studio.selectedNodes()).toEqual(['knob', 'lid']);
    studio.setProperty('Scale', 'nodes/lid/scale', [2, 2, 2]);
    pick('knob');
    await parts.selectAlike('shape');
    expect(studio.selectedNodes()).toEqual(['knob']);
  });

  it('are renamed by a pattern in the order of the tree', async () => {
    pick('lid', 'shell');
    const renamed = parts.renameAll();
    expect(TestBed.inject(Ask).question()!.title).toMatch(/Name 2 parts/);
    TestBed.inject(Ask).question()!.answer('Cover ##');
    await renamed;
    expect([nodes()['shell']!.name, nodes()['lid']!.name]).toEqual(['Cover 01', 'Cover 02']);
  });

  it('are hung under a group, not below themselves', () => {
    parts.attach(['lid'], 'box');
    expect(nodes()['lid']!.parent).toBe('box');
    parts.attach(['box'], 'box');
    expect(nodes()['box']!.parent).toBeNull();
  });
});
