import { newCamera, newDocument, newLight, newNode, newShot, type Move, type Shot } from '../document';
import { newMove } from './moves';
import { describe, expect, it } from 'vitest';
import { findSeamFaults } from './index';

const document = newDocument('Seam');
document.nodes = { radio: newNode({ id: 'radio', pivot: [10, 20, 30], position: [5, 0, 0] }) };
document.lights = { key: newLight('panel', { id: 'key', position: [0, 0, 300], target: [0, 0, 0] }) };
document.cameras = { eye: newCamera({ id: 'eye' }) };

const move = <K extends Move['kind']>(kind: K, target: string, over: Partial<Extract<Move, { kind: K }>> = {}): Move =>
  ({ ...newMove(kind, target, 1, 48), ...over, id: 'm' }) as Move;
const faults = (of: Partial<Shot>) => findSeamFaults(document, newShot({ length: 48, ...of }));
const moved = (...args: Parameters<typeof move>) => faults({ moves: { m: move(...args) } });
const keyed = (path: string, keys: [number, number | boolean][], length = 48) =>
  faults({ length, tracks: { [path]: keys.map(([frame, value]) => ({ frame, value, pace: 'linear' as const })) } });

describe('the seam of a shot', () => {
  it('is even for whole turns, whatever the axis and direction', () => {
    expect(moved('turntable', 'nodes/radio')).toEqual([]);
    expect(moved('turntable', 'nodes/radio', { turns: 3, direction: -1, axis: [1, 1, 0] })).toEqual([]);
    expect(moved('orbit', 'lights/key', { angle: 2 * Math.PI, pace: 'linear', length: 49 })).toEqual([]);
  });

  it('jumps where a turn is not whole, by what is missing', () => {
    expect(moved('turntable', 'nodes/radio', { turns: 1.25 })).toEqual([
      { path: 'nodes/radio', of: 'turn', jump: expect.closeTo(Math.PI / 2, 9), before: expect.any(Number), after: expect.any(Number), twice: false },
    ]); // prettier-ignore
    // A hundredth of a turn too far is less than a frame's own step, and seen all the same.
    expect(moved('turntable', 'nodes/radio', { turns: 1.01 })![0]!.jump).toBeCloseTo(0.02 * Math.PI, 9);
  });

  it('is even where a turn ends before the shot and rests, not where a turn slows down and is thrown off again', () => {
    const short = moved('turntable', 'nodes/radio', { length: 24 });
    expect(short).toEqual([]);
    // From a standstill into full speed, where nothing in the shot does that.
    const stopping = moved('turntable', 'nodes/radio', { pace: 'ease-out' });
    expect(stopping).toHaveLength(1);
    expect(stopping![0]).toMatchObject({ of: 'turn', jump: 0 });
    expect(stopping![0]!.after).toBeGreaterThan(20 * stopping![0]!.before);
  });

  it('jumps where something glides away, not where it comes back', () => {
    const away = moved('travel', 'nodes/radio', { to: [0, 80, 0], pace: 'linear' });
    expect(away).toEqual([expect.objectContaining({ path: 'nodes/radio', of: 'place', jump: expect.closeTo(80, 6) })]);
    expect(moved('travel', 'nodes/radio', { length: 24, repeat: 2, mirrored: true, pace: 'ease' })).toEqual([]);
  });

  it('of a camera that glides away with what it looks at is told of both', () => {
    const away = moved('travel', 'cameras/eye', { to: [0, 0, 30], pace: 'linear' });
    expect(away!.map(({ of, jump }) => [of, Math.round(jump)])).toEqual([
      ['place', 30],
      ['aim', 30],
    ]);
  });

  it('of a light that orbits a part of a circle jumps in place', () => {
    expect(moved('orbit', 'lights/key', { angle: Math.PI })).toEqual([
      expect.objectContaining({ path: 'lights/key', of: 'place', jump: expect.closeTo(600, 6) }),
    ]);
  });

  it('shows the first frame twice where the last key repeats it', () => {
    // Up and back down by key 48: the frame after it stands still.
    const twice = keyed('lights/key/power', [[1, 0], [24, 100], [48, 0]]); // prettier-ignore
    expect(twice).toEqual([expect.objectContaining({ path: 'lights/key/power', jump: 0, twice: true })]);
    expect(keyed('lights/key/power', [[1, 0], [24, 100], [49, 0]])).toEqual([]); // prettier-ignore
    const ramp = keyed('cameras/eye/focalLength', [[1, 50], [48, 97]]); // prettier-ignore
    expect(ramp).toEqual([
      { path: 'cameras/eye/focalLength', of: 'value', jump: 47, before: 0, after: 1, twice: false },
    ]);
  });

  it('may switch hard where the shot itself does', () => {
    expect(moved('blink', 'lights/key/power', { softness: 0, count: 3 })).toEqual([]);
    expect(moved('blink', 'lights/key/power', { softness: 1, count: 3 })).toEqual([]);
    expect(keyed('lights/key/on', [[1, true], [20, false]])).toEqual([]); // prettier-ignore
    expect(moved('ramp', 'lights/key/power', { from: 0, to: 900 })).toEqual([
      expect.objectContaining({ path: 'lights/key/power', of: 'value', jump: 900 }),
    ]);
  });

  it('is not asked of a shot in which nothing moves, or what moves is gone', () => {
    expect(faults({})).toBeNull();
    expect(moved('turntable', 'nodes/gone')).toBeNull();
    expect(keyed('lights/gone/power', [[1, 2]])).toBeNull(); // prettier-ignore
  });

  it('of shots of one frame and of many is found in time', () => {
    expect(faults({ length: 1, moves: { m: move('turntable', 'nodes/radio', { length: 1 }) } })).toEqual([]);
    const start = performance.now();
    expect(faults({ length: 100_000, moves: { m: move('turntable', 'nodes/radio', { length: 100_000 }) } })).toEqual(
      [],
    );
    expect(performance.now() - start).toBeLessThan(1000);
  });
});
