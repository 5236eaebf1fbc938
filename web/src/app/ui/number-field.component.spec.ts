import { fireEvent } from '@testing-library/dom';
import { beforeEach, describe, expect, it } from 'vitest';
import { mount, type Mounted } from '../../testing/mount';
import { openStudio } from '../../testing/studioBed';
import type { Studio } from '../store/studio';
import { NumberFieldComponent, type NumberChange } from './number-field.component';

let changed: NumberChange[];
let field: HTMLInputElement;
let page: Mounted<NumberFieldComponent>;
let studio: Studio;

async function open(inputs: Record<string, unknown>): Promise<void> {
  page = await mount(NumberFieldComponent, { label: 'Height', ...inputs }, { changed });
  field = page.show.getByLabelText<HTMLInputElement>('Height');
}

beforeEach(() => {
  studio = openStudio();
  changed = [];
});

describe('a number', () => {
  it('is shown as finely as its step', async () => {
    await open({ value: 12.3456, unit: 'mm' });
    expect(field.value).toBe('12.3');
    expect(page.host.textContent).toContain('mm');
    page.fixture.componentRef.setInput('step', 0.01);
    await page.fixture.whenStable();
    expect(field.value).toBe('12.346');
  });

  it('that is small beside its step is shown all the same, and what is next to nothing as nothing', async () => {
    await open({ value: 0.0634 });
    expect(field.value).toBe('0.063');
    page.fixture.componentRef.setInput('value', 3e-15);
    await page.fixture.whenStable();
    expect(field.value).toBe('0');
  });

  it('is typed with arithmetic and units, and put within its bounds', async () => {
    await open({ value: 10, unit: 'mm', min: 1, max: 500 });
    for (const typed of ['3*(4+1)', '2 in', '9 m', '-4']) {
      await page.user.clear(field);
      await page.user.type(field, `${typed}{Enter}`);
    }
    expect(changed.map(({ value }) => value)).toEqual([15, 50.8, 500, 1]);
    expect(new Set(changed.map(({ gesture }) => gesture)).size).toBe(4);
  });

  it('stays what it is where what was typed is no number, and after Escape', async () => {
    await open({ value: 10 });
    for (const typed of ['tall{Enter}', '1e999{Enter}', '0/0{Enter}', '77{Escape}']) {
      await page.user.clear(field);
      await page.user.type(field, typed);
      expect(field.value).toBe('10');
    }
    expect(changed).toEqual([]);
  });

  it('shows lengths in the unit of the project, and tells millimetres', async () => {
    studio.edit('Inches', (draft) => void (draft.settings.lengthUnit = 'inch'));
    await open({ value: 254, unit: 'mm', step: 5 });
    expect([field.value, page.host.textContent.trim()]).toEqual(['10', 'inch']);
    for (const typed of ['2', '1 cm', '{ArrowUp}']) {
      await page.user.clear(field);
      await page.user.type(field, `${typed}{Enter}`);
    }
    expect(changed.map(({ value }) => value)).toEqual([50.8, expect.closeTo(10, 9), 259]);
  });

  it('takes seconds at the frame rate of the project', async () => {
    studio.edit('Faster', (draft) => void (draft.frameRate.numerator = 30));
    await open({ value: 1, unit: 'frames' });
    await page.user.clear(field);
    await page.user.type(field, '2 s{Enter}');
    expect(changed.map(({ value }) => value)).toEqual([60]);
  });

  it('steps with the arrows, tenfold with Shift', async () => {
    await open({ value: 10, step: 0.5, max: 12 });
    await page.user.type(field, '{ArrowUp}{ArrowDown}{Shift>}{ArrowDown}{ArrowUp}{/Shift}');
    expect(changed.map(({ value }) => value)).toEqual([10.5, 9.5, 5, 12]);
  });

  it('is dragged over sideways as one gesture, and a press without a drag begins typing', async () => {
    await open({ value: 10, step: 2 });
    fireEvent.pointerDown(field, { clientX: 100 });
    fireEvent.pointerMove(field, { clientX: 101 });
    expect(changed).toEqual([]);
    fireEvent.pointerMove(field, { clientX: 109 });
    fireEvent.pointerMove(field, { clientX: 97, shiftKey: true });
    fireEvent.pointerUp(field);
    fireEvent.pointerMove(field, { clientX: 400 });
    expect(changed.map(({ value }) => value)).toEqual([16, -10]);
    expect(changed[0]!.gesture).toBe(changed[1]!.gesture);
    expect(document.activeElement).not.toBe(field);
    fireEvent.pointerDown(field, { clientX: 100 });
    fireEvent.pointerUp(field);
    expect(document.activeElement).toBe(field);
  });

  it('cannot be dragged where it is out of use', async () => {
    await open({ value: 10, disabled: true });
    fireEvent.pointerDown(field, { clientX: 100 });
    fireEvent.pointerMove(field, { clientX: 190 });
    expect(changed).toEqual([]);
  });
});
