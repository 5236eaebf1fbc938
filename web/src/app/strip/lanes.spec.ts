import { newDocument, newLight, newNode, newShot, type Move, type ProjectDocument } from '@zippy/core/document';
import { newMove } from '@zippy/core/motion';
import { describe, expect, it } from 'vitest';
import { moveText } from '../kinds/moves';
import { lanesOf } from './lanes';

const document: ProjectDocument = structuredClone(newDocument('Lanes'));
document.nodes = { box: newNode({ id: 'box', name: 'Box' }) };
document.lights = { key: newLight('panel', { id: 'key', name: 'Key' }) };
const move = (kind: Move['kind'], target: string, over: object = {}): Move =>
  ({ ...newMove(kind, target, 1, 10), ...over }) as Move;
const shotWith = (over: Parameters<typeof newShot>[0]) => newShot({ length: 10, ...over });
const byId = (...moves: Move[]) => Object.fromEntries(moves.map((each) => [each.id, each]));

describe('lanes', () => {
  it('draw a track from 0 to 1 over its own range, with its keys', () => {
    const keys = [
      { frame: 1, value: 200, pace: 'linear' as const },
      { frame: 9, value: 600, pace: 'linear' as const },
    ];
    const [lane] = lanesOf(document, shotWith({ tracks: { 'lights/key/power': keys } }));
    expect(lane).toMatchObject({ name: 'Key', property: 'power', tone: 'light', low: 200, high: 600 });
    expect(lane!.graph).toHaveLength(10);
    expect([lane!.graph[0], lane!.graph[4], lane!.graph[8], lane!.graph[9]]).toEqual([0, 0.5, 1, 1]);
  });

  it('draw a place as the distance from where it begins', () => {
    const keys = [
      { frame: 1, value: [100, 0, 0] as [number, number, number], pace: 'linear' as const },
      { frame: 10, value: [100, 30, 40] as [number, number, number], pace: 'linear' as const },
    ];
    const [lane] = lanesOf(document, shotWith({ tracks: { 'nodes/box/position': keys } }));
    expect([lane!.low, lane!.high, lane!.tone]).toEqual([0, 50, 'motion']);
  });

  it('put keys and fades of one property into one lane, and moves of places into their own', () => {
    const shot = shotWith({
      tracks: { 'lights/key/power': [{ frame: 1, value: 1, pace: 'ease' }] },
      moves: byId(
        move('ramp', 'lights/key/power'),
        move('turntable', 'nodes/box'),
        move('travel', 'nodes/box', { start: 3 }),
        move('travel', 'nodes/box', { start: 6 }),
      ),
    });
    const lanes = lanesOf(document, shot);
    expect(lanes.map((lane) => [lane.property, lane.moves.length, lane.track])).toEqual([
      ['power', 1, 'lights/key/power'],
      ['turntable', 1, null],
      ['travel', 2, null],
    ]);
  });

  it('draw a value that stays as a level line', () => {
    const [lane] = lanesOf(document, shotWith({ moves: byId(move('blink', 'lights/key/power', { low: 5, high: 5 })) }));
    expect(new Set(lane!.graph)).toEqual(new Set([0.5]));
  });

  it('are none in a shot that rests', () => expect(lanesOf(document, shotWith({}))).toEqual([]));
});

describe('a move’s block', () => {
  it.each([
    [move('turntable', 'nodes/box', { turns: 2, repeat: 3 }), '2 turns, 3 times'],
    [move('turntable', 'nodes/box'), '1 turn'],
    [move('orbit', 'lights/key', { angle: Math.PI }), '180°'],
    [move('travel', 'nodes/box', { from: [0, 0, 0], to: [3, 4, 0] }), '5 mm'],
    [move('ramp', 'lights/key/power', { from: 0.123, to: 7 }), '0.12 to 7'],
    [move('ramp', 'lights/key/on', { from: false, to: true }), 'off to on'],
    [move('blink', 'lights/key/power', { count: 4 }), '4 times'],
  ])('%# says %s', (each, text) => expect(moveText(each)).toBe(text));
});
