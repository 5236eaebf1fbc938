import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { length, subtract } from '@zippy/core/geometry';
import { placedAimed } from '@zippy/core/scene';
import { openStudio } from '../../../testing/studioBed';
import { Notices } from '../notices';
import { PointingTask, type PointedPlace } from '../pointing';
import type { Studio } from '../studio';
import { Shines } from './shines';
import { Things } from './things';

let studio: Studio;
let shines: Shines;
let pointing: PointingTask;
const place = (over: Partial<PointedPlace> = {}): PointedPlace => ({
  node: 'lid',
  point: [10, 40, 0],
  normal: [0, 0, 1],
  eye: [10, 40, 500],
  between: () => null,
  ...over,
});
const key = () => placedAimed(studio.present()).lights['key']!;
const told = () => TestBed.inject(Notices).notice();

beforeEach(() => {
  vi.stubGlobal('EventSource', class {});
  studio = openStudio();
  shines = TestBed.inject(Shines);
  pointing = TestBed.inject(PointingTask);
});

describe('a lamp that is placed by pointing', () => {
  it('follows the pointer at its distance, in one step of undo', () => {
    const before = key();
    const away = length(subtract(before.position, before.target));
    shines.begin('key', 'mirrored');
    pointing.task()!.over(place({ eye: [310, 40, 400] }));
    pointing.task()!.done(place({ eye: [310, 40, 400] }));
    expect(key().target).toEqual([10, 40, 0]);
    // Seen from the right of a plane it shines from the left.
    expect(key().position.map(Math.round)).toEqual([10 - 0.6 * away, 40, 0.8 * away].map(Math.round));
    studio.undo();
    expect(key().position).toEqual(before.position);
  });

  it('that hangs on something comes to the same place in the world', () => {
    studio.edit('Hang', (draft) => {
      draft.nodes['box']!.position = [500, 0, 0];
      draft.nodes['box']!.turn = [0, 1, 0];
      draft.lights['key']!.parent = 'box';
    });
    shines.begin('key', 'square');
    pointing.task()!.done(place());
    expect(key().target.map((v) => Number(v.toFixed(6)))).toEqual([10, 40, 0]);
    expect(Math.abs(key().position[0] - 10)).toBeLessThan(1e-6);
    expect(studio.document().lights['key']!.position[0]).not.toBeCloseTo(10, 1);
  });

  it('says what keeps it from shining there, and where nothing was pointed at stays', () => {
    shines.begin('key', 'mirrored');
    pointing.task()!.done(place({ between: () => 'Shell' }));
    expect(told()).toMatch(/^"Shell" stands between "Key" and that place/);
    studio.edit('Floor', (draft) => void (draft.set.floor.kind = 'floor'));
    shines.begin('key', 'mirrored');
    pointing.task()!.done(place({ eye: [10, 900, 100] }));
    expect(told()).toMatch(/go below the floor/);
    const { position } = key();
    shines.begin('key', 'mirrored');
    pointing.task()!.done(null);
    expect(key().position).toEqual(position);
  });
});

describe('new lamps', () => {
  it('stand at one station after another and are called by it', () => {
    const things = TestBed.inject(Things);
    for (let k = 0; k < 3; k++) things.addLightBeside('panel');
    things.addLightBeside('tube', 'above');
    const names = Object.values(studio.document().lights).slice(2).map(({ name }) => name); // prettier-ignore
    expect(new Set(names).size).toBe(4);
    expect(names.at(-1)).toBe('Above tube');
    const places = Object.values(studio.document().lights).slice(2).map(({ position }) => position.join()); // prettier-ignore
    expect(new Set(places).size).toBe(4);
  });

  it('sweeps its highlight along where the pointer goes, at even speed to the end of the shot, in one step of undo', () => {
    const before = key();
    const away = length(subtract(before.position, before.target));
    shines.sweep('key');
    const at = (x: number) => place({ point: [x, 40, 0], eye: [x, 40, 900] });
    for (const x of [0, 1, 2, 3, 30]) pointing.task()!.over(at(x));
    pointing.task()!.done(at(60));
    const { tracks, length: frames } = studio.shot()!;
    const keys = tracks['lights/key/target']!;
    expect([keys[0]!.frame, keys.at(-1)!.frame]).toEqual([1, frames]);
    for (const { frame, value } of keys)
      expect((value as number[])[0]).toBeCloseTo((60 * (frame - 1)) / (frames - 1), -0.4);
    expect(tracks['lights/key/position']!.map(({ frame }) => frame)).toEqual(keys.map(({ frame }) => frame));
    // Straight before a plane that is looked at squarely.
    expect((tracks['lights/key/position']![0]!.value as number[]).map(Math.round)).toEqual([0, 40, Math.round(away)]);
    expect(studio.document().lights['key']!.position).toEqual(before.position);
    studio.undo();
    expect(studio.shot()!.tracks).toEqual({});
    expect(key().position).toEqual(before.position);
  });

  it('says how to sweep where the pointer was not moved, and is as it was', () => {
    const before = studio.document().lights['key'];
    shines.sweep('key');
    pointing.task()!.done(place());
    expect(TestBed.inject(Notices).news()).toMatch(/press on the product where the highlight begins/);
    expect(studio.document().lights['key']).toEqual(before);
    expect(studio.shot()!.tracks).toEqual({});
  });

  it('stays aimed at a part where it is aimed by pointing, and at the floor once', () => {
    shines.aim('key');
    pointing.task()!.done(place());
    expect(studio.document().lights['key']!.aimOn).toEqual({ node: 'lid', point: [10, 40, 0] });
    studio.edit('Move', (draft) => void (draft.nodes['lid']!.position = [0, 0, 100]));
    expect(key().target).toEqual([10, 40, 100]);
    shines.aim('key');
    pointing.task()!.done(place({ node: '', point: [5, 0, 5] }));
    expect(studio.document().lights['key']).toMatchObject({ aimOn: null, target: [5, 0, 5] });
    shines.aim('key');
    pointing.task()!.done(place());
    shines.begin('key', 'square');
    pointing.task()!.done(place({ point: [0, 0, 0] }));
    expect(studio.document().lights['key']!.aimOn).toBeNull();
  });
});
