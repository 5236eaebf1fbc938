import { describe, expect, it } from 'vitest';
import { newDocument, newLight, newNode, openDocument, type ProjectDocument } from '../document';
import type { Lit } from '../optics';
import { newMove } from '../motion';
import { applySet, READY_SETS, surpriseSet } from './index';

const lit = (over: Partial<Lit> = {}): Lit => ({ center: [0, 60, 0], size: 120, eye: [0, 90, 500], floor: 0, ...over });
const named = (name: string) => READY_SETS.find((ready) => ready.name === name)!;
const whole = (document: ProjectDocument) => openDocument(JSON.parse(JSON.stringify(document)));

describe('a ready set', () => {
  it.each(READY_SETS.map(({ name }) => name))('%s makes a sound project, at any size and from any side', (name) => {
    for (const size of [2, 200, 20_000]) {
      for (const eye of [
        [0, 90, 500],
        [500, 90, 0],
        [0, 900, 0],
      ] as const) {
        // prettier-ignore
        const document = newDocument('Set');
        const about = lit({ size, center: [0, size / 2, 0], eye: eye.map((v) => (v * size) / 100) as never });
        applySet(document, named(name), about);
        const { set, lights } = whole(document);
        expect(set.ready!.name).toBe(name);
        for (const { position } of Object.values(lights)) expect(position[1]).toBeGreaterThan(0);
        // As much light on a small product as on a large one.
        for (const { unit } of Object.values(lights)) expect(unit).toBe('nit');
      }
    }
  });

  it('are told apart by name and found by words', () => {
    expect(new Set(READY_SETS.map(({ name }) => name)).size).toBe(READY_SETS.length);
    expect(READY_SETS.length).toBeGreaterThanOrEqual(16);
    for (const { words } of READY_SETS) expect(words.split(' ').length).toBeGreaterThan(3);
  });

  it('takes the place of the one before it, and leaves what belongs to the product', () => {
    const document = newDocument('Set');
    const [shot] = Object.values(document.shots);
    document.nodes['lamp'] = newNode({ id: 'lamp' });
    document.lights['bulb'] = newLight('bulb', { id: 'bulb', parent: 'lamp' });
    const before = Object.keys(document.lights).find((id) => id !== 'bulb')!;
    shot!.moves['m'] = { ...newMove('blink', `lights/${before}/power`, 1, 9), id: 'm' };
    shot!.tracks['nodes/lamp/position'] = [{ frame: 1, value: [1, 2, 3], pace: 'linear' }];
    shot!.changes['set/floor/color'] = [1, 0, 0];
    applySet(document, named('Tunnel of light'), lit());
    expect(document.lights[before]).toBeUndefined();
    expect(document.lights['bulb']).toBeDefined();
    expect([shot!.moves, Object.keys(shot!.tracks), shot!.changes]).toEqual([{}, ['nodes/lamp/position'], {}]);
    expect(Object.values(document.nodes).map(({ name }) => name)).toEqual(['Group', 'Frame of light']);
    const own = Object.keys(document.lights).length;
    // A lamp of the user's own stays through the next set.
    document.lights['mine'] = newLight('spot', { id: 'mine' });
    applySet(document, named('Bright and even'), lit());
    expect(Object.values(document.nodes).map(({ name }) => name)).toEqual(['Group']);
    expect(document.finishes).toEqual({});
    expect(Object.keys(document.lights)).toHaveLength(2 + 3);
    expect(own).toBe(3);
    whole(document);
  });

  it('keeps a finish of a former one that something of the product wears by now', () => {
    const document = newDocument('Set');
    applySet(document, named('Turntable'), lit());
    const [finish] = document.set.ready!.finishes as [string];
    document.nodes['part'] = newNode({ id: 'part', finish });
    applySet(document, named('Cut out'), lit());
    expect(Object.keys(document.finishes)).toEqual([finish]);
  });
});

describe('a surprise', () => {
  it('is the same for the same seed and product, and another for the next', () => {
    expect(surpriseSet(7, 0.5)).toEqual(surpriseSet(7, 0.5));
    const made = Array.from({ length: 60 }, (_, seed) => JSON.stringify({ ...surpriseSet(seed, 0.5), name: '' }));
    expect(new Set(made).size).toBe(60);
  });

  it.each([0, 0.02, 0.18, 0.5, 0.8])('has a ground that a product of %s stands out from, and lamps above it', (own) => {
    for (let seed = 0; seed < 200; seed++) {
      const made = surpriseSet(seed, own);
      const [r, g, b] = made.floor.color!;
      const ground = 0.2126 * r + 0.7152 * g + 0.0722 * b;
      expect(Math.abs(Math.log2(ground / Math.max(0.03, own))), `seed ${seed}`).toBeGreaterThan(1.2);
      for (const { at, nits } of made.lamps!) {
        expect(at[1]).toBeGreaterThan(0.2);
        expect(nits).toBeGreaterThan(0);
      }
      // All that falls where the product stands, as a white ground would show it: no more than the brightest of the ready sets.
      const light = made.lamps!.reduce((sum, { at, size, nits }) => sum + (nits * size[0] * size[1]) / Math.hypot(...at) ** 2, 0); // prettier-ignore
      expect(light * Math.max(ground, 0.3)).toBeLessThan(2400);
    }
  });

  it('stands as any ready set does', () => {
    const document = newDocument('Set');
    for (let seed = 1; seed < 30; seed++) applySet(document, surpriseSet(seed, 0.4), lit());
    expect(whole(document).set.ready!.name).toBe('Surprise 29');
    expect(Object.keys(document.lights).length).toBeLessThan(6);
  });
});
