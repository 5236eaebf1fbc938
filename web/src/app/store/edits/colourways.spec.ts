import { TestBed } from '@angular/core/testing';
import { newFinish } from '@zippy/core/document';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { openStudio } from '../../../testing/studioBed';
import type { Studio } from '../studio';
import { Colourways } from './colourways';
import { Things } from './things';

let studio: Studio;
let colourways: Colourways;
const worn = (id: string) => studio.dressed()(studio.document().nodes[id]!);

beforeEach(() => {
  vi.stubGlobal('EventSource', class {});
  studio = openStudio();
  colourways = TestBed.inject(Colourways);
  studio.edit('Finish', (draft) => void (draft.finishes['red'] = newFinish({ id: 'red', name: 'Red' })));
});

describe('colourways', () => {
  it('take what is put on parts while they are shown, and leave the product itself alone', () => {
    colourways.add();
    TestBed.inject(Things).wear(['box'], 'red');
    expect([worn('shell'), worn('knob')]).toEqual(['red', 'red']);
    colourways.show(null);
    expect([worn('shell'), worn('knob')]).toEqual([null, 'gold']);
    TestBed.inject(Things).wear(['lid'], 'red');
    expect(studio.document().nodes['lid']!.finish).toBe('red');
  });

  it('begin as what is shown, each with a name of its own, and are undone', () => {
    colourways.add();
    TestBed.inject(Things).wear(['knob'], 'red');
    colourways.add();
    expect(colourways.all().map(({ name, wears }) => [name, wears])).toEqual([
      ['Colourway 1', { knob: 'red' }],
      ['Colourway 2', { knob: 'red' }],
    ]);
    studio.undo();
    expect(colourways.all()).toHaveLength(1);
  });

  it('tell in rows what they dress differently, and leave it as it is again', () => {
    colourways.add();
    const { id } = colourways.all()[0]!;
    colourways.put(id, ['knob', 'gold'], 'red');
    expect(colourways.rows().map(({ name, kind, resting }) => [name, kind, resting])).toEqual([
      ['Gold', 'finish', 'gold'],
      ['Knob', 'node', 'gold'],
    ]);
    colourways.put(id, ['knob'], null);
    expect(colourways.rows()).toHaveLength(1);
  });

  it('that are deleted are shown nowhere, nor are finishes that are', () => {
    colourways.add();
    const { id } = colourways.all()[0]!;
    TestBed.inject(Things).wear(['knob'], 'red');
    studio.edit('Own', (draft) => void (draft.shots['one']!.colourway = id));
    studio.select('finish', 'red');
    TestBed.inject(Things).deleteSelected();
    expect(studio.document().colourways[id]!.wears).toEqual({});
    colourways.remove(id);
    expect([studio.document().colourway, studio.document().shots['one']!.colourway]).toEqual([null, null]);
  });

  it('stand beside each other, the product once in each, and are undone in one step', () => {
    for (const finish of ['red', 'gold']) {
      colourways.add();
      TestBed.inject(Things).wear(['knob'], finish);
    }
    colourways.lineUp();
    const { box } = studio.document().nodes;
    expect(box!.copies).toMatchObject({ kind: 'line', count: 2, dressed: 'colourways' });
    const knobs = studio.frameState().parts.filter(({ node }) => node === 'knob');
    expect(knobs.map(({ finish }) => finish)).toEqual(['red', 'gold']);
    studio.undo();
    expect(studio.document().nodes['box']!.copies).toBeNull();
  });
});
