import { choose } from '../../testing/controls';
import { fireEvent } from '@testing-library/dom';
import { beforeEach, describe, expect, it } from 'vitest';
import { defaultLook, type Look } from '@zippy/core/document';
import { mount } from '../../testing/mount';
import { openStudio } from '../../testing/studioBed';
import { ToneCurvesComponent } from './tone-curves.component';

let changed: { curves: Look['curves']; gesture: string }[];
const open = (over: Partial<Look['curves']> = {}) =>
  mount(ToneCurvesComponent, { curves: { ...defaultLook().curves, ...over } }, { changed });
const bent: Look['curves']['all'] = [
  [0, 0],
  [0.5, 0.6],
  [1, 1],
];

beforeEach(() => {
  openStudio();
  changed = [];
});

/** The drawing, twice as large on the page as it is drawn, and where a value stands on it. */
async function drawing(over: Partial<Look['curves']> = {}) {
  const page = await open(over);
  const area = page.show.getByLabelText('Curve from dark to bright');
  area.getBoundingClientRect = () => new DOMRect(10, 20, 440, 300);
  Object.assign(area, { setPointerCapture: () => undefined });
  const at = (x: number, y: number) => ({
    clientX: 10 + 2 * page.component.x(x),
    clientY: 20 + 2 * page.component.y(y),
  });
  return { ...page, area, at };
}

describe('curves', () => {
  it('get a point where one clicks, which is dragged on in the same gesture', async () => {
    const { area, at } = await drawing();
    fireEvent.pointerDown(area, at(0.25, 0.5));
    expect(changed[0]!.curves.all).toEqual([[0, 0], [0.25, 0.5], [1, 1]]); // prettier-ignore
    expect(changed[0]!.curves.red).toEqual([[0, 0], [1, 1]]); // prettier-ignore
  });

  it('have points that stay between their neighbours and within the values', async () => {
    const { show, area, at } = await drawing({ all: bent });
    fireEvent.pointerDown(show.getByLabelText('Point 2'));
    fireEvent.pointerMove(area, at(3, 3));
    fireEvent.pointerMove(area, at(-1, -1));
    fireEvent.pointerUp(area);
    fireEvent.pointerMove(area, at(0.7, 0.7));
    expect(changed.map(({ curves }) => curves.all[1])).toEqual([[0.99, 1], [0.01, 0]]); // prettier-ignore
    expect(changed[0]!.gesture).toBe(changed[1]!.gesture);
  });

  it('are changed by keys, lose a point by them or by a double click, and keep two', async () => {
    const { show } = await drawing({ all: bent });
    const point = show.getByLabelText('Point 2');
    expect(point.getAttribute('aria-valuetext')).toBe('0.50 becomes 0.60');
    fireEvent.keyDown(point, { key: 'ArrowUp' });
    fireEvent.keyDown(point, { key: 'x' });
    fireEvent.keyDown(point, { key: 'Delete' });
    fireEvent.dblClick(point);
    expect(changed.map(({ curves }) => curves.all)).toEqual([
      [[0, 0], [0.5, 0.61], [1, 1]],
      [[0, 0], [1, 1]],
      [[0, 0], [1, 1]],
    ]); // prettier-ignore
    const plain = await drawing();
    changed.length = 0;
    fireEvent.dblClick(plain.show.getAllByLabelText('Point 1').at(-1)!);
    expect(changed).toEqual([]);
  });

  it('of each channel are their own, and are straightened alone', async () => {
    const { show, user, fixture } = await drawing({ blue: bent });
    expect(show.getByRole<HTMLButtonElement>('button', { name: 'Straight' }).disabled).toBe(true);
    await choose(user, show.getByLabelText('Curve of'), 'Blue');
    await fixture.whenStable();
    expect(show.getAllByRole('slider')).toHaveLength(3);
    await user.click(show.getByRole('button', { name: 'Straight' }));
    expect(changed.at(-1)!.curves).toEqual(defaultLook().curves);
  });
});
