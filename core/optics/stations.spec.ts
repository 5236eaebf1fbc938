import { describe, expect, it } from 'vitest';
import { length, subtract, type Vector } from '../geometry';
import { freeStation, stationAt, STATIONS, type Lit, type StationName } from './stations';

const names = Object.keys(STATIONS) as StationName[];
const lit = (over: Partial<Lit> = {}): Lit => ({ center: [0, 50, 0], size: 100, eye: [0, 80, 500], floor: 0, ...over });

describe('stations of lamps', () => {
  it('lie round the product as its camera sees it', () => {
    expect(stationAt('key', lit()).map(Math.round)).toEqual([-90, 130, 110]);
    // Seen from the side: what was to the left lies behind, from the world's front.
    const [x, y, z] = stationAt('key', lit({ eye: [500, 50, 0] }));
    expect([x, y, z].map(Math.round)).toEqual([110, 130, 90]);
    expect(stationAt('above', lit({ eye: [0, 900, 0] }))[1]).toBe(200);
  });

  it('stay above the floor, at any size', () => {
    for (const size of [2, 200, 20_000]) {
      const about = lit({ size, center: [0, size * 0.1, 0] });
      for (const name of names) expect(stationAt(name, about)[1]).toBeGreaterThan(0);
      expect(stationAt('below', { ...about, floor: null })[1]).toBeLessThan(0);
    }
  });

  it('are taken one after another, each far from the lamps that are there', () => {
    const lamps: Vector[] = [];
    const taken: StationName[] = [];
    for (let k = 0; k < 7; k++) {
      const name = freeStation(lit(), lamps);
      taken.push(name);
      const at = stationAt(name, lit());
      if (k < 6) for (const lamp of lamps) expect(length(subtract(lamp, at))).toBeGreaterThan(45);
      lamps.push(at);
    }
    expect(taken).toEqual([...names, 'key']);
  });
});
