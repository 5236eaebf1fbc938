import { choose } from '../../testing/controls';
import { fireEvent } from '@testing-library/dom';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Pace } from '@zippy/core/document';
import { mount } from '../../testing/mount';
import { openStudio } from '../../testing/studioBed';
import { PaceFieldComponent } from './pace-field.component';

let changed: { pace: Pace; gesture: string }[];
const open = (pace: Pace) => mount(PaceFieldComponent, { pace }, { changed });

beforeEach(() => {
  openStudio();
  changed = [];
});

describe('a pace', () => {
  it('is chosen by its name, and an own curve begins like the pace before', async () => {
    const { show, user } = await open('ease-in');
    const choice = show.getByLabelText('Pace');
    expect(choice.textContent).toContain('Eased in');
    expect(show.queryByLabelText('Leaving handle')).toBeNull();
    await choose(user, choice, 'Held');
    await choose(user, choice, 'Own curve');
    expect(changed.map(({ pace }) => pace)).toEqual(['held', { curve: [0.33, 0, 0.67, 0.33] }]);
  });

  it('has handles that arrows shift, and that tell where they are', async () => {
    const { show } = await open({ curve: [0.3, 0, 0.7, 1] });
    const arriving = show.getByLabelText('Arriving handle');
    expect(arriving.getAttribute('aria-valuetext')).toBe('0.70 of the time, 1.00 of the way');
    fireEvent.keyDown(arriving, { key: 'ArrowUp' });
    fireEvent.keyDown(show.getByLabelText('Leaving handle'), { key: 'ArrowLeft' });
    fireEvent.keyDown(arriving, { key: 'x' });
    expect(changed.map(({ pace }) => pace)).toEqual([{ curve: [0.3, 0, 0.7, 1.02] }, { curve: [0.28, 0, 0.7, 1] }]);
  });

  it('has handles that are dragged as one gesture, never outside the time or far beyond both values', async () => {
    const { show, host, component } = await open({ curve: [0.3, 0, 0.7, 1] });
    const drawing = show.getByLabelText('Curve of the pace');
    // Twice as large on the page as it is drawn.
    drawing.getBoundingClientRect = () => new DOMRect(10, 20, 440, 300);
    fireEvent.pointerDown(show.getByLabelText('Leaving handle'));
    const at = (x: number, y: number) => ({ clientX: 10 + 2 * component.x(x), clientY: 20 + 2 * component.y(y) });
    fireEvent.pointerMove(drawing, at(0.5, 0.25));
    fireEvent.pointerMove(drawing, at(-3, 9));
    fireEvent.pointerUp(drawing);
    fireEvent.pointerMove(drawing, at(0.9, 0.9));
    expect(changed.map(({ pace }) => pace)).toEqual([{ curve: [0.5, 0.25, 0.7, 1] }, { curve: [0, 1.4, 0.7, 1] }]);
    expect(changed[0]!.gesture).toBe(changed[1]!.gesture);
    expect(host.querySelector('.curve')!.getAttribute('d')).toMatch(/^M14,/);
  });
});
