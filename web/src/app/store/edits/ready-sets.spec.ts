import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { READY_SETS } from '@zippy/core/sets';
import { openStudio } from '../../../testing/studioBed';
import { SceneBounds } from '../scene-bounds';
import type { Studio } from '../studio';
import { ReadySets } from './ready-sets';

let studio: Studio;
let sets: ReadySets;
const named = (name: string) => READY_SETS.find((ready) => ready.name === name)!;
const lights = () => Object.values(studio.document().lights);

beforeEach(() => {
  vi.stubGlobal('EventSource', class {});
  studio = openStudio();
  sets = TestBed.inject(ReadySets);
  const box = { low: [-100, 0, -50], high: [100, 80, 50] } as const;
  TestBed.inject(SceneBounds).meshes.set(
    new Map([0, 1, 2].map((index) => [`${'a'.repeat(64)}/${index}`, { low: [...box.low], high: [...box.high] }])),
  );
});

describe('a ready set', () => {
  it('stands at once in proportion to the product, and is undone in one step', () => {
    const before = studio.document();
    sets.put(named('Bright and even'));
    expect(studio.document().set.ready!.name).toBe('Bright and even');
    expect(lights().map(({ name }) => name)).toEqual(['Left panel', 'Right panel', 'Top panel']);
    expect(lights()[0]!.width).toBe(240);
    expect(studio.document().nodes).toEqual(before.nodes);
    expect(studio.document().cameras).toEqual(before.cameras);
    studio.undo();
    expect(studio.document()).toEqual(before);
  });

  it('is as large where the one before it brought things along', () => {
    sets.put(named('Tunnel of light'));
    const [frame] = studio.document().set.ready!.nodes as [string];
    const meshes = TestBed.inject(SceneBounds).meshes;
    meshes.update((all) => new Map([...all, [frame, { low: [-1e4, 0, -1e4], high: [1e4, 1e4, 1e4] }]]));
    sets.put(named('Bright and even'));
    expect(lights()[0]!.width).toBe(240);
  });

  it('is tried without a change', () => {
    const before = studio.document();
    expect(sets.tried(named('Cut out')).set.behind.kind).toBe('transparent');
    expect(studio.document()).toBe(before);
  });
});
