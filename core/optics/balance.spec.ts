import {
  checkDocument,
  newDocument,
  newFinish,
  newLight,
  newShot,
  type Light,
  type Look,
  type Move,
  type ProjectDocument,
} from '../document';
import { newMove } from '../motion';
import { describe, expect, it } from 'vitest';
import { lightColor, writeBack } from './index';

function project() {
  const document = newDocument('Balance');
  document.lights = {
    key: newLight('panel', { id: 'key', name: 'Key: left', power: 100, tint: [1, 1, 1] }),
    rim: newLight('tube', { id: 'rim', name: 'Rim', group: 'Back', power: 10 }),
    top: newLight('tube', { id: 'top', name: 'Top', group: 'Back', power: 20 }),
  };
  document.finishes = { lamp: newFinish({ id: 'lamp', name: 'Indicator', emissionPower: 3 }) };
  const fade = newMove('ramp', 'lights/key/power', 1, 9) as Extract<Move, { kind: 'ramp' }>;
  const blink = newMove('blink', 'lights/rim/power', 1, 9) as Extract<Move, { kind: 'blink' }>;
  document.shots = {
    s: newShot({
      id: 's',
      changes: { 'lights/key/power': 50 },
      tracks: { 'finishes/lamp/emissionPower': [{ frame: 1, value: 4, pace: 'linear' }] },
      moves: { f: { ...fade, id: 'f', from: 0, to: 80 }, b: { ...blink, id: 'b', low: 1, high: 5 } },
    }),
  };
  return document;
}

const write = (document: ProjectDocument, lights: Look['lights'], lightsWritten: Look['lights'] = {}) =>
  writeBack(document, { lights, lightsWritten });

describe('lights balanced on finished frames', () => {
  it('are written back to lamps, groups of them, luminous finishes and surroundings, with their keys and moves', () => {
    const document = project();
    const { brightness } = document.set.surroundings;
    const white: [number, number, number] = [1, 1, 1];
    const left = write(document, {
      'Key_left': { power: 2, tint: white },
      'Back': { power: 0.5, tint: white },
      'Indicator': { power: 3, tint: white },
      'Surroundings': { power: 0.25, tint: white },
      'Gone': { power: 9, tint: white },
    }); // prettier-ignore
    expect(left).toEqual(['Gone']);
    expect(['key', 'rim', 'top'].map((id) => document.lights[id]!.power)).toEqual(
      [200, 5, 10].map((v) => expect.closeTo(v, 9)),
    );
    expect(document.finishes['lamp']!.emissionPower).toBe(9);
    expect(document.set.surroundings.brightness).toBe(brightness / 4);
    const { changes, tracks, moves } = document.shots['s']!;
    expect(changes['lights/key/power']).toBeCloseTo(100, 9);
    expect(tracks['finishes/lamp/emissionPower']![0]!.value).toBe(12);
    expect(moves['f']).toMatchObject({ from: 0, to: expect.closeTo(160, 9) });
    expect(moves['b']).toMatchObject({ low: 0.5, high: 2.5 });
    expect(() => checkDocument(document)).not.toThrow();
  });

  it('shine as their layer did when it was multiplied, whatever their colour was', () => {
    const document = project();
    const shone = ({ power, kelvin, tint }: Light) => lightColor(kelvin, tint).map((v) => v * power);
    Object.assign(document.lights['key']!, { kelvin: 2800, tint: [1, 0.9, 0.6] });
    const before = shone(document.lights['key']!);
    write(document, { Key_left: { power: 2, tint: [1, 0.5, 0.25] } });
    expect(shone(document.lights['key']!)).toEqual(before.map((v, k) => expect.closeTo(2 * v * [1, 0.5, 0.25][k]!, 6)));
  });

  it('are not written twice: what was written before is taken out of what is written next', () => {
    const document = project();
    const white: [number, number, number] = [1, 1, 1];
    const look: Pick<Look, 'lights' | 'lightsWritten'> = {
      lights: { Back: { power: 2, tint: white } },
      lightsWritten: {},
    };
    const powers = () => ['rim', 'top'].map((id) => document.lights[id]!.power);
    writeBack(document, look);
    writeBack(document, look);
    expect(powers()).toEqual([20, 40].map((v) => expect.closeTo(v, 9)));
    look.lights = { Back: { power: 3, tint: white } };
    writeBack(document, look);
    expect(powers()).toEqual([30, 60].map((v) => expect.closeTo(v, 9)));
    look.lights = {};
    writeBack(document, look);
    expect(powers()).toEqual([10, 20].map((v) => expect.closeTo(v, 9)));
  });
});
