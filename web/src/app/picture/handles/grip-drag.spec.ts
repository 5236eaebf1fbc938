import { describe, expect, it } from 'vitest';
import { quaternionAbout } from '@zippy/core/geometry';
import { reckonDrag, type GripDrag } from './grip-drag';

const dragged = (over: Partial<GripDrag>): GripDrag => ({
  by: [0, 0, 0],
  turn: [0, 0, 0, 1],
  size: [1, 1, 1],
  axis: 'X',
  axes: [0, 0, 0, 1],
  step: null,
  ...over,
});
const near = (a: readonly number[], b: readonly number[]) => a.forEach((v, k) => expect(v).toBeCloseTo(b[k]!, 9));

describe('a drag of handles', () => {
  it('is told as it is', () => {
    const { by, said } = reckonDrag(dragged({ by: [12.3456789, 0, 0] }), 'move', '', 'mm');
    near(by, [12.3456789, 0, 0]);
    expect(said).toBe('12.346 mm along X');
  });

  it('goes by steps along its own axes', () => {
    const axes = quaternionAbout([0, 0, 1], Math.PI / 2);
    // Its own x axis is the world's y.
    const { by, said } = reckonDrag(dragged({ by: [0, 12.3, 0], axes, step: 5 }), 'move', '', 'mm');
    near(by, [0, 10, 0]);
    expect(said).toBe('10 mm along X');
  });

  it('is what is typed, in the unit of the project, with a unit of its own or sums', () => {
    near(reckonDrag(dragged({ by: [3, 0, 0] }), 'move', '2', 'cm').by, [20, 0, 0]);
    near(reckonDrag(dragged({ by: [3, 0, 0] }), 'move', '-2m', 'mm').by, [-2000, 0, 0]);
    near(reckonDrag(dragged({ axis: 'XZ' }), 'move', '1+2 7', 'mm').by, [3, 0, 7]);
    // A sign alone is no number yet.
    near(reckonDrag(dragged({ by: [3, 0, 0] }), 'move', '-', 'mm').by, [3, 0, 0]);
  });

  it('turns by steps of 15° or by what is typed, about the axis that is held', () => {
    const axes = quaternionAbout([1, 0, 0], Math.PI / 2);
    const about = [0, 0, 1] as const;
    const turn = quaternionAbout(about, -0.4);
    // Its own y axis is the world's z.
    near(reckonDrag(dragged({ turn, axis: 'Y', axes, step: 1 }), 'turn', '', 'mm').turn, quaternionAbout(about, -Math.PI / 6)); // prettier-ignore
    const typed = reckonDrag(dragged({ turn, axis: 'Y', axes }), 'turn', '90', 'mm');
    near(typed.turn, quaternionAbout(about, Math.PI / 2));
    expect(typed.said).toBe('90° about Y');
    near(reckonDrag(dragged({ turn, axis: 'E', axes }), 'turn', '', 'mm').turn, turn);
  });

  it('sizes as a whole or along axes, never to nothing', () => {
    expect(reckonDrag(dragged({ size: [1.52, 1.52, 1.52], axis: 'XYZ', step: 1 }), 'size', '', 'mm')).toMatchObject({
      size: [1.5, 1.5, 1.5],
      said: '× 1.5',
    });
    expect(reckonDrag(dragged({ axis: 'XYZ' }), 'size', '2', 'mm').size).toEqual([2, 2, 2]);
    expect(reckonDrag(dragged({ axis: 'Y' }), 'size', '50%', 'mm').size).toEqual([1, 0.5, 1]);
    expect(reckonDrag(dragged({ size: [-0, 1, 1] }), 'size', '', 'mm').size[0]).toBeGreaterThan(0);
  });
});
