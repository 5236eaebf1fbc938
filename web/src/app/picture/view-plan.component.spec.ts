import { fireEvent } from '@testing-library/dom';
import { beforeEach, describe, expect, it } from 'vitest';
import { Component, signal } from '@angular/core';
import { mount, type Mounted } from '../../testing/mount';
import { ViewPlanComponent, type Standing } from './view-plan.component';

@Component({
  imports: [ViewPlanComponent],
  template: `<zr-view-plan [standing]="standing()" (stood)="standing.set($event)" />`,
})
class Host {
  readonly standing = signal<Standing>({ around: 0, above: 0.1 });
}

let page: Mounted<Host>;
const degrees = () => Object.values(page.component.standing()).map((v) => Math.round((v * 180) / Math.PI));
const around = () => page.show.getByRole('slider', { name: 'Where the view stands around' });
const above = () => page.show.getByRole('slider', { name: 'How high the view stands' });
/** Presses at a place of the drawing. */
async function press(part: HTMLElement, x: number, y: number): Promise<void> {
  Object.assign(part, { setPointerCapture: () => undefined });
  const svg = part.closest('svg')!;
  svg.getBoundingClientRect = () => new DOMRect(100, 50, 112, 64);
  fireEvent.pointerDown(part, { clientX: 100 + x, clientY: 50 + y, buttons: 1 });
  await page.fixture.whenStable();
}

beforeEach(async () => {
  page = await mount(Host);
});

describe('the plan of where the view stands', () => {
  it('stands the view on the side that is pressed, and catches near sides', async () => {
    await press(around(), 51, 32);
    expect(degrees()[0]).toBe(90);
    await press(around(), 30, 11);
    expect(Math.abs(degrees()[0]!)).toBe(180);
    await press(around(), 30 - 20, 32 + 2);
    expect(degrees()[0]! === -90 || degrees()[0] === 270).toBe(true);
    await press(around(), 30 + 10, 32 + 25);
    expect(degrees()[0]).toBe(22);
    expect(around().getAttribute('aria-valuenow')).toBe('22');
  });

  it('lifts the view, no further than from straight above', async () => {
    await press(above(), 62, 5);
    expect(degrees()[1]).toBe(90);
    await press(above(), 104, 53);
    expect(degrees()[1]).toBe(0);
    await press(above(), 20, 0);
    expect(degrees()[1]).toBe(90);
  });

  it('is stepped by arrows, and moves by no pointer that only passes', async () => {
    for (const [part, key] of [
      [around(), 'ArrowRight'],
      [around(), 'ArrowRight'],
      [above(), 'ArrowUp'],
    ] as const) {
      fireEvent.keyDown(part, { key });
      await page.fixture.whenStable();
    }
    expect(degrees()).toEqual([30, 15]);
    fireEvent.pointerMove(around(), { clientX: 0, clientY: 0, buttons: 0 });
    expect(degrees()).toEqual([30, 15]);
  });
});
