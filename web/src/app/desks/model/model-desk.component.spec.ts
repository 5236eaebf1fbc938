import { createEvent, fireEvent } from '@testing-library/dom';
import { effect } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import { By } from '@angular/platform-browser';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually, mount, type Mounted } from '../../../testing/mount';
import { openStudio } from '../../../testing/studioBed';
import { Importer } from '../../tasks/import/importer';
import { SceneBounds } from '../../store/scene-bounds';
import type { Studio } from '../../store/studio';
import { ModelDeskComponent } from './model-desk.component';

/** Longest sides in millimetres, and triangles. */
const bounds = {
  longest: (id: string) => ({ shell: 240, knob: 18, lid: 60 })[id] ?? null,
  triangles: () => new Map([['a'.repeat(64) + '/0', 1_234_567]]),
};
let studio: Studio;
let page: Mounted<ModelDeskComponent>;

/** The rows are drawn where they are seen: the page of the tests gives them a height. */
async function drawn(): Promise<void> {
  await page.fixture.whenStable();
  const scrolled = page.fixture.debugElement.query(By.directive(CdkVirtualScrollViewport));
  const viewport = scrolled?.componentInstance as CdkVirtualScrollViewport | undefined;
  if (viewport) Object.defineProperty(viewport.elementRef.nativeElement, 'clientHeight', { value: 400, configurable: true }); // prettier-ignore
  viewport?.checkViewportSize();
  await new Promise(requestAnimationFrame);
  await page.fixture.whenStable();
}
const names = () => [...page.host.querySelectorAll('.line .name')].map((name) => name.textContent);
const row = (name: string) => page.show.getByText(name).closest<HTMLElement>('.line')!;
const inRow = (name: string, label: string) => row(name).querySelector<HTMLElement>(`[aria-label="${label}"]`)!;
async function find(text: string): Promise<void> {
  const field = page.show.getByLabelText('Find a part');
  await page.user.clear(field);
  if (text) await page.user.type(field, text);
  await drawn();
}

beforeEach(async () => {
  vi.stubGlobal('EventSource', class {});
  studio = openStudio({ meshUrl: (_: string, mesh: number) => `/m/${mesh}` }, [{ provide: SceneBounds, useValue: bounds }]); // prettier-ignore
  page = await mount(ModelDeskComponent);
  await drawn();
});

describe('the tree of parts', () => {
  it('shows groups with what they hold, and folds them', async () => {
    expect(names()).toEqual(['Box', 'Shell', 'Knob', 'Lid']);
    expect([row('Box'), row('Knob')].map((each) => each.getAttribute('aria-level'))).toEqual(['1', '2']);
    await page.user.click(inRow('Box', 'Fold'));
    await drawn();
    expect(names()).toEqual(['Box', 'Lid']);
    expect(row('Box').getAttribute('aria-expanded')).toBe('false');
    await page.user.click(inRow('Box', 'Unfold'));
    await drawn();
    expect(names()).toHaveLength(4);
    expect(studio.selection()).toEqual([]);
  });

  it('has small pictures and triangle counts of parts', () => {
    expect(row('Shell').querySelector('img')!.getAttribute('src')).toBe('/m/0');
    expect(row('Box').querySelector('img')).toBeNull();
  });

  it.each([
    ['kno', ['Knob']],
    ['GOLD', ['Knob']],
    ['> 50 mm', ['Shell', 'Lid']],
    ['<20', ['Knob']],
    ['spring', []],
  ])('finds %s by name, finish or size', async (query, expected) => {
    await find(query);
    expect(names()).toEqual(expected);
    if (expected.length === 0) expect(page.host.textContent).toContain('No part is meant by that.');
    await find('');
    expect(names()).toHaveLength(4);
  });

  it('selects with a click, more with Ctrl, and offers what can be done with that', async () => {
    const tools = () => [...page.host.querySelectorAll('[role=toolbar] button')].map((each) => each.textContent.trim());
    expect(tools()).toEqual([]);
    await page.user.click(row('Box'));
    await drawn();
    expect(tools()).toEqual(['Group', 'Ungroup', 'Duplicate', 'Rename…']);
    fireEvent.click(row('Lid'), { ctrlKey: true });
    await drawn();
    expect(studio.selectedNodes()).toEqual(['box', 'lid']);
    expect(tools()).toEqual(expect.arrayContaining(['Join', 'Split shells', 'Split faces', 'Alike', 'Same finish']));
    expect(row('Lid').getAttribute('aria-selected')).toBe('true');
  });

  it('renames in place', async () => {
    await page.user.dblClick(row('Knob'));
    await drawn();
    const field = page.show.getByLabelText('New name');
    await page.user.clear(field);
    await page.user.type(field, 'Tuning knob{Enter}');
    await drawn();
    expect(studio.document().nodes['knob']!.name).toBe('Tuning knob');
    expect(names()).toContain('Tuning knob');
  });

  it('hides, shows and isolates without selecting', async () => {
    await page.user.click(inRow('Lid', 'Hide'));
    await drawn();
    expect(studio.document().nodes['lid']!.visible).toBe(false);
    expect(row('Lid').classList.contains('off')).toBe(true);
    await page.user.click(inRow('Lid', 'Show'));
    expect(studio.document().nodes['lid']!.visible).toBe(true);
    await page.user.click(inRow('Knob', 'Show alone'));
    await drawn();
    expect([studio.isolated(), inRow('Knob', 'Show alone').getAttribute('aria-pressed')]).toEqual(['knob', 'true']); // prettier-ignore
    await page.user.click(page.show.getByRole('button', { name: 'Show all' }));
    expect(studio.isolated()).toBeNull();
    expect(studio.selection()).toEqual([]);
  });

  it('draws the parts asunder in the sketch only', async () => {
    const before = studio.document();
    fireEvent.input(page.show.getByLabelText('Drawn apart'), { target: { value: '1.5' } });
    expect(studio.apart()).toBe(1.5);
    expect(studio.document()).toBe(before);
  });
});

describe('parts dragged in the tree', () => {
  const data = (types: string[]) => ({ types, setData: (type: string) => types.push(type) });
  function send(kind: 'dragStart' | 'dragOver' | 'drop', on: Element, dataTransfer: object): Event {
    const event = createEvent[kind](on);
    Object.defineProperty(event, 'dataTransfer', { value: dataTransfer });
    fireEvent(on, event);
    return event;
  }
  async function carry(name: string, onto: Element): Promise<void> {
    const carried = data([]);
    send('dragStart', row(name), carried);
    expect(send('dragOver', onto, carried).defaultPrevented).toBe(true);
    await drawn();
    send('drop', onto, carried);
    await drawn();
  }

  it('go into the group they are dropped on, or that of the part they are dropped on', async () => {
    await carry('Lid', row('Box'));
    expect(studio.document().nodes['lid']!.parent).toBe('box');
    studio.undo();
    await drawn();
    await carry('Lid', row('Knob'));
    expect(studio.document().nodes['lid']!.parent).toBe('box');
  });

  it('leave their group where they are dropped beside the tree', async () => {
    await carry('Knob', page.show.getByRole('tree'));
    expect(studio.document().nodes['knob']!.parent).toBeNull();
  });

  it('are told from files', async () => {
    const before = studio.document();
    expect(send('dragOver', row('Box'), data(['Files'])).defaultPrevented).toBe(false);
    expect(send('drop', row('Box'), data(['Files'])).defaultPrevented).toBe(false);
    expect(studio.document()).toBe(before);
  });
});

describe('rows out of sight', () => {
  it('are made a few at a time, and again so once many have come', async () => {
    const added = () => {
      studio.edit('Many', (draft) => {
        for (let k = 0; k < 60; k++)
          draft.nodes[`more${k}`] = { ...draft.nodes['lid']!, id: `more${k}`, order: 10 + k };
      });
      return drawn();
    };
    const seen: number[] = [];
    TestBed.runInInjectionContext(() => effect(() => void seen.push(page.component.buffer())));
    await added();
    await eventually(() => expect(page.component.buffer()).toBe(3200));
    await drawn();
    expect(names()).toHaveLength(64);
    const steps = seen.slice(seen.lastIndexOf(320));
    expect(steps).toEqual([320, 640, 960, 1280, 1600, 1920, 2240, 2560, 2880, 3200]);
  });
});

describe('a tree of very many rows', () => {
  const bring = (count: number) =>
    studio.edit('Many', (draft) => {
      for (let k = 0; k < count; k++)
        draft.nodes[`more${k}`] = { ...draft.nodes['lid']!, id: `more${k}`, order: 10 + k };
    });

  it('is filled in a task after what else they change', () => {
    const before = page.component.listed();
    bring(101);
    TestBed.tick();
    expect(page.component.rows()).toHaveLength(before.length + 101);
    expect(page.component.listed()).toBe(before);
    return eventually(() => expect(page.component.listed()).toBe(page.component.rows()));
  });

  it('is not filled with what was taken back meanwhile; fewer rows come at once', async () => {
    bring(101);
    TestBed.tick();
    studio.undo();
    TestBed.tick();
    expect(page.component.listed()).toBe(page.component.rows());
    bring(100);
    TestBed.tick();
    expect(page.component.listed()).toBe(page.component.rows());
    await new Promise((resolve) => setTimeout(resolve, 20));
    expect(page.component.listed()).toBe(page.component.rows());
  });
});

describe('an empty Model desk', () => {
  it('says what can be brought in, and brings in what was chosen', async () => {
    const bring = vi.spyOn(TestBed.inject(Importer), 'bring').mockResolvedValue(undefined);
    studio.edit('Empty', (draft) => void (draft.nodes = {}));
    await drawn();
    expect(page.host.textContent).toContain('No parts yet.');
    const files = [new File(['x'], 'a.obj'), new File(['x'], 'a.mtl')];
    await page.user.upload(page.host.querySelector<HTMLInputElement>('input[type=file]')!, files);
    expect(bring).toHaveBeenCalledWith(files);
  });
});
