import { describe, expect, it } from 'vitest';
import { DragBox } from './drag-box';

const area = { left: 100, top: 50, width: 200, height: 100 };
const target = { setPointerCapture: () => undefined };
const event = (type: string, clientX: number, clientY: number) =>
  ({ type, clientX, clientY, pointerId: 1, target }) as unknown as PointerEvent;

describe('a box that is dragged open', () => {
  it('is there from the first move on, whichever way it is dragged', () => {
    const box = new DragBox();
    expect(box.follow(event('pointermove', 150, 60), area)).toBeNull();
    expect(box.follow(event('pointerdown', 200, 100), area)).toBeNull();
    expect(box.follow(event('pointermove', 120, 140), area)).toEqual({ left: 0.1, top: 0.5, right: 0.5, bottom: 0.9, ended: false }); // prettier-ignore
    expect(box.follow(event('pointerup', 240, 60), area)).toEqual({ left: 0.5, top: 0.1, right: 0.7, bottom: 0.5, ended: true }); // prettier-ignore
    expect(box.follow(event('pointermove', 150, 60), area)).toBeNull();
  });

  it('stays within what it is dragged over', () => {
    const box = new DragBox();
    box.follow(event('pointerdown', 0, 0), area);
    expect(box.follow(event('pointermove', 900, 900), area)).toMatchObject({ left: 0, top: 0, right: 1, bottom: 1 });
  });
});
