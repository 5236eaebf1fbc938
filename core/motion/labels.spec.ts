import { describe, expect, it } from 'vitest';
import { newDocument, newFinish, newLabel, newNode, type Finish, type Label } from '../document';
import { evaluate } from './evaluate';
import { labelled } from './labels';

const paper = newFinish({ id: 'paper', name: 'Paper', baseColor: [0.9, 0.9, 0.9], specularRoughness: 0.9 });
const glass = newFinish({ id: 'glass', name: 'Glass', transmissionWeight: 1, specularRoughness: 0 });
const wear = (label: Partial<Label>, base: Finish | null = glass) =>
  labelled(base, 'jar', { l: newLabel('sign', label) }, { paper, glass });
const slots = (finish: Finish) => Object.values(finish.maps).map(({ slot }) => slot);

describe('a label', () => {
  it('of ink lays its colours over the finish and leaves all else as it is', () => {
    const finish = wear({ position: [1, 2, 3], width: 40, height: 20 });
    expect(slots(finish)).toEqual(['baseColor']);
    expect(Object.values(finish.maps)[0]).toMatchObject({
      source: { kind: 'picture', picture: 'sign' },
      blend: 'over',
      tiling: 'once',
      projection: 'planar',
      position: [1, 2, 3],
      size: [40, 20, 20],
    });
    expect(finish.name).toBe('Glass');
  });

  it('of a finish brings what differs, such as that paper is not clear', () => {
    const finish = wear({ finish: 'paper' });
    const of = (slot: string) => Object.values(finish.maps).find((map) => map.slot === slot);
    expect(of('transmissionWeight')).toMatchObject({ low: 0, high: 0 });
    expect(of('specularRoughness')).toMatchObject({ low: 0.9, high: 0.9 });
    expect(of('coatWeight')).toBeUndefined();
  });

  it('takes the colour of its finish where it is asked to', () => {
    const [map] = Object.values(wear({ finish: 'paper', recolored: true }).maps).filter(
      ({ slot }) => slot === 'baseColor',
    );
    expect(map!.shades).toEqual([0, 1].map((at) => ({ at, color: [0.9, 0.9, 0.9] })));
  });

  it('wrapped round has its axis behind it', () => {
    const [map] = Object.values(wear({ wrap: 'round', radius: 25, position: [0, 0, 25] }).maps);
    expect(map).toMatchObject({ projection: 'wrapped', position: [0, 0, 0] });
  });

  it('that shines lights up nothing but itself', () => {
    const lamp = newFinish({ id: 'lamp', emissionPower: 200, emissionUnit: 'nit' });
    const finish = labelled(glass, 'jar', { l: newLabel('sign', { finish: 'lamp' }) }, { lamp });
    expect(finish.emissionPower).toBe(200);
    const layers = Object.values(finish.maps).filter(({ slot }) => slot === 'emissionColor');
    expect(layers.sort((a, b) => a.order - b.order).map(({ source }) => source.kind)).toEqual(['facing', 'picture']);
  });

  it('that is hidden, or see-through, is not there', () => {
    expect(slots(wear({ visible: false }))).toEqual([]);
    expect(slots(wear({ opacity: 0 }))).toEqual([]);
  });

  it('is on its part alone, and the same finish on every frame', () => {
    const document = newDocument('Labels');
    document.finishes = { glass };
    const mesh = { asset: 'a'.repeat(64), index: 0 };
    document.nodes = {
      jar: newNode({ id: 'jar', kind: 'part', mesh, finish: 'glass', labels: { l: newLabel('sign') } }),
      lid: newNode({ id: 'lid', kind: 'part', mesh, finish: 'glass' }),
      bare: newNode({ id: 'bare', kind: 'part', mesh, labels: { l: newLabel('sign') } }),
    };
    const shot = Object.values(document.shots)[0]!;
    shot.tracks['nodes/jar/position'] = [
      { frame: 1, value: [0, 0, 0], pace: 'linear' },
      { frame: 9, value: [9, 0, 0], pace: 'linear' },
    ];
    const [one, two] = [evaluate(document, shot, 1), evaluate(document, shot, 2)];
    const worn = (state: typeof one, node: string) => state.parts.find((part) => part.node === node)!.finish!;
    expect(worn(one, 'lid')).toBe('glass');
    expect(worn(one, 'jar')).toBe('glass~jar');
    expect(one.finishes[worn(one, 'bare')]!.name).toBe('No finish');
    expect(two.finishes['glass~jar']).toBe(one.finishes['glass~jar']);
  });
});
