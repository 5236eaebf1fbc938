import { TestBed } from '@angular/core/testing';
import { newFinish, newLabel } from '@zippy/core/document';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { openStudio } from '../../../testing/studioBed';
import type { Studio } from '../studio';
import { FinishSwap } from './finish-swap';

let studio: Studio;
let swap: FinishSwap;

beforeEach(() => {
  vi.stubGlobal('EventSource', class {});
  studio = openStudio();
  swap = TestBed.inject(FinishSwap);
  studio.edit('Dress', (draft) => {
    draft.finishes['red'] = newFinish({ id: 'red', name: 'Red' });
    draft.nodes['lid']!.labels = { l: newLabel('p', { finish: 'gold' }) };
    draft.colourways['c'] = { name: 'C', order: 0, wears: { shell: 'gold', lid: 'red', gold: 'red' } };
  });
});

describe('a finish in the place of another', () => {
  it('comes wherever that is worn: parts, labels and colourways, in one step', () => {
    swap.replace('gold', 'red');
    const { nodes, colourways, finishes } = studio.document();
    expect([nodes['knob']!.finish, nodes['lid']!.finish]).toEqual(['red', null]);
    expect(nodes['lid']!.labels['l']!.finish).toBe('red');
    // The row that dressed what wore gold dresses what wears red now.
    expect(colourways['c']!.wears).toEqual({ shell: 'red', lid: 'red', red: 'red' });
    expect(finishes['gold']).toBeDefined();
    studio.undo();
    expect(studio.document().nodes['knob']!.finish).toBe('gold');
  });

  it('comes from the shelf too, and nothing is done with itself or what is gone', () => {
    swap.waiting.set('gold');
    swap.replace('gold', { name: 'Marigold' });
    expect(swap.waiting()).toBeNull();
    expect(studio.document().finishes[studio.document().nodes['knob']!.finish!]!.name).toBe('Marigold');
    const before = studio.document();
    swap.replace('red', 'red');
    swap.replace('gone', 'red');
    expect(studio.document()).toBe(before);
  });
});
