import { describe, expect, it } from 'vitest';
import { FITTED, layerStyle, zoomedAbout } from './layer-style';

const area = { width: 800, height: 400 };
const box = { left: 100, top: 50, width: 600, height: 300 };

describe('two pictures that are compared', () => {
  it('are cut at the edge, each on its side, also where they are drawn nearer', () => {
    const edge = { against: 'traced', at: 0.5, way: 'edge' } as const;
    expect(layerStyle('take', 'take', edge, box, area)).toMatchObject({ clip: 'inset(0 300px 0 0)', transform: null });
    expect(layerStyle('traced', 'take', edge, box, area).clip).toBe('inset(0 0 0 300px)');
    // Twice as near about the left edge of the area: its middle shows what lies at a quarter.
    const near = layerStyle('take', 'take', edge, box, area, { scale: 2, x: 0, y: 0 });
    expect(near).toMatchObject({
      clip: 'inset(0 500px 0 0)',
      transform: 'translate(0px, 0px) scale(2)',
      origin: '-100px -50px',
    });
    // Beyond the picture there is nothing to cut.
    expect(layerStyle('take', 'take', { ...edge, at: 0 }, box, area).clip).toBe('inset(0 600px 0 0)');
  });

  it('stand beside each other at half their size, none over the middle', () => {
    const beside = { against: 'take:b', at: 0.5, way: 'beside' } as const;
    expect(layerStyle('take', 'take', beside, box, area)).toMatchObject({
      transform: 'translate(0px, 100px) scale(0.5)',
      clip: 'inset(0 0px 0 0)',
    });
    expect(layerStyle('take:b', 'take', beside, box, area)).toMatchObject({
      transform: 'translate(400px, 100px) scale(0.5)',
      clip: 'inset(0 0 0 0px)',
    });
  });

  it('are laid over each other, the upper one as the difference, or on and off', () => {
    const blend = (shown: 'take' | 'sketch', own: 'take' | 'sketch', against: 'take' | 'sketch') =>
      layerStyle(shown, own, { against, at: 0.5, way: 'difference' }, box, area).blend;
    expect([blend('take', 'take', 'sketch'), blend('sketch', 'take', 'sketch')]).toEqual(['difference', null]);
    expect([blend('take', 'sketch', 'take'), blend('sketch', 'sketch', 'take')]).toEqual(['difference', null]);
    const blink = { against: 'kept', at: 0.5, way: 'blink' } as const;
    expect([layerStyle('kept', 'take', blink, box, area).blinks, layerStyle('take', 'take', blink, box, area).blinks]).toEqual([true, false]); // prettier-ignore
  });
});

describe('drawing nearer', () => {
  it('leaves the place that is pointed at where it is, and has limits', () => {
    const near = zoomedAbout(FITTED, 2, 300, 100);
    expect(near).toEqual({ scale: 2, x: -300, y: -100 });
    const back = zoomedAbout(near, 0.5, 300, 100);
    expect(back).toEqual(FITTED);
    expect(zoomedAbout(FITTED, 1e9, 0, 0).scale).toBe(32);
    expect(zoomedAbout(FITTED, 0, 0, 0).scale).toBe(0.5);
  });
});
