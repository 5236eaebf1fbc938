import { newMove } from '@zippy/core/motion';
import { newTrack, sceneDigest } from '@zippy/core/document';
import { fireEvent } from '@testing-library/dom';
import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { mount, type Mounted } from '../../testing/mount';
import { openStudio, sampleTake } from '../../testing/studioBed';
import { ShotStills } from '../tasks/shot-stills';
import { TakesActions } from '../store/takes/takes.actions';
import type { Studio } from '../store/studio';
import { StripComponent } from './strip.component';

const POWER = 'lights/key/power';
const stills = { stills: () => new Map([['one', ['data:sketch']]]), older: signal(new Set<string>()) };
let studio: Studio;
let page: Mounted<StripComponent>;
const drawn = () => page.fixture.whenStable();
const frames = (path = POWER) => studio.shot()!.tracks[path]!.map(({ frame }) => frame);
const key = (frame: number) => page.show.getByLabelText(`Key of Key power at frame ${frame}`);
const moves = () => Object.values(studio.shot()!.moves);
/** Where a frame lies on the page of the tests, on which the strip begins at the left edge. */
const at = (frame: number) => ({ clientX: 176 + page.component.x()(frame) });

async function open(): Promise<void> {
  page = await mount(StripComponent);
}
async function withKeys(...at: number[]): Promise<void> {
  for (const frame of at) {
    studio.goTo(frame);
    studio.toggleKeys([POWER]);
  }
  studio.goTo(1);
  await open();
}
async function withMoves(): Promise<void> {
  studio.edit('Moves', (draft) => {
    for (const [id, start] of [
      ['spin', 5],
      ['rise', 20],
    ] as const)
      draft.shots['one']!.moves[id] = { ...newMove('ramp', POWER, start, 10), id, name: id };
  });
  await open();
}
const block = (name: string, part = 'rect') =>
  page.show.getByRole('button', { name: new RegExp(`^${name} of Key`) }).querySelector(part)!;

beforeEach(() => {
  vi.stubGlobal('EventSource', class {});
  studio = openStudio({ frameUrl: (take: string, frame: number) => `/takes/${take}/${frame}` }, [{ provide: ShotStills, useValue: stills }]); // prettier-ignore
});

describe('the time strip', () => {
  it('shows the shots with their part of the film, and opens them', async () => {
    await open();
    expect(page.host.textContent).toContain('3.0 s');
    const [one, two] = [page.show.getByText('1 One'), page.show.getByText('2 Two')].map((each) => each.parentElement!);
    expect([one!.style.flexGrow, two!.style.flexGrow]).toEqual(['48', '24']);
    two!.getBoundingClientRect = one!.getBoundingClientRect = () => new DOMRect(100, 0, 200, 40);
    fireEvent.click(two!, { clientX: 250 });
    expect([studio.shotId(), studio.frame()]).toEqual(['two', 1]);
    // In the shot that is open already, the place in it counts.
    fireEvent.click(two!, { clientX: 200 });
    expect(studio.frame()).toBe(12);
    expect(studio.primary()).toEqual({ kind: 'shot', id: 'two' });
  });

  it('shows frames of the newest take of a shot that has some, else sketches', async () => {
    await open();
    const pictures = () => [...page.host.querySelectorAll('img')].map((img) => img.getAttribute('src'));
    expect(pictures()).toEqual(['data:sketch']);
    const takes = [
      sampleTake({ id: 'old' }),
      sampleTake({ id: 'new', last: 48, done: [1, 20, 48] }),
      sampleTake({ id: 'none', done: [] }),
    ];
    TestBed.inject(Store).dispatch(TakesActions.arrived({ takes }));
    await drawn();
    expect(pictures()).toEqual([1, 20, 20, 48].map((frame) => `/takes/new/${frame}`));
  });

  it('shows one rendered frame where it is, and sketches in the rest of the shot', async () => {
    await open();
    TestBed.inject(Store).dispatch(TakesActions.arrived({ takes: [sampleTake({ id: 'still', first: 45, last: 45, done: [45] })] })); // prettier-ignore
    await drawn();
    const shown = [...page.host.querySelectorAll('.shot')[0]!.querySelectorAll('img')].map((each) =>
      each.getAttribute('src'),
    );
    expect(shown).toEqual(['data:sketch', '/takes/still/45']);
  });

  it('says which small pictures are of an older state, until they are that no more', async () => {
    await open();
    const older = () => page.show.queryAllByText('· older').map((each) => each.parentElement!.textContent!.trim());
    expect(older()).toEqual([]);
    stills.older.set(new Set(['one']));
    await drawn();
    expect(older()).toEqual(['1 One · older']);
    // Frames of a take are as old as the scene that it was rendered of.
    const take = sampleTake({ scene: sceneDigest(studio.document(), 'one') });
    TestBed.inject(Store).dispatch(TakesActions.arrived({ takes: [take] }));
    await drawn();
    expect(older()).toEqual([]);
    studio.setProperty('Dim', POWER, 12);
    await drawn();
    expect(older()).toEqual(['1 One · older']);
    studio.undo();
    await drawn();
    expect(older()).toEqual([]);
    stills.older.set(new Set());
  });

  it('says what to do where nothing moves', async () => {
    await open();
    expect(page.host.textContent).toContain('Nothing moves in this shot yet.');
    studio.edit('Track', (draft) => void (draft.lights['key']!.track = newTrack()));
    await page.fixture.whenStable();
    expect(page.host.textContent).toContain('Key runs on a track, without keys.');
    expect(page.host.textContent).not.toContain('Nothing moves');
  });

  it('scrubs from the ruler, within the shot, and no longer plays', async () => {
    await open();
    studio.play(true);
    const lanes = page.host.querySelector('.lanes')!;
    fireEvent.pointerDown(page.host.querySelector('.ruler')!, at(12));
    expect([studio.frame(), studio.playing()]).toEqual([12, false]);
    fireEvent.pointerMove(lanes, at(30));
    fireEvent.pointerMove(lanes, { clientX: 9000 });
    expect(studio.frame()).toBe(48);
    fireEvent.pointerUp(lanes);
    fireEvent.pointerMove(lanes, at(3));
    expect(studio.frame()).toBe(48);
  });
});

describe('keys on the strip', () => {
  it('are dragged together, as one step to undo', async () => {
    await withKeys(5, 10, 30);
    const lanes = page.host.querySelector('.lanes')!;
    fireEvent.pointerDown(key(5), at(5));
    fireEvent.pointerUp(lanes);
    fireEvent.pointerDown(key(10), { ...at(10), ctrlKey: true });
    for (const frame of [12, 14, 13]) fireEvent.pointerMove(lanes, at(frame));
    fireEvent.pointerUp(lanes);
    expect(frames()).toEqual([8, 13, 30]);
    expect(studio.keys().map(({ frame }) => frame)).toEqual([8, 13]);
    studio.undo();
    expect(frames()).toEqual([5, 10, 30]);
  });

  it('are moved by arrows, tenfold with Shift, and picked with Enter', async () => {
    await withKeys(5, 30);
    fireEvent.keyDown(key(30), { key: 'Enter' });
    expect(studio.keys()).toEqual([{ path: POWER, frame: 30 }]);
    fireEvent.keyDown(key(30), { key: 'ArrowLeft' });
    await drawn();
    fireEvent.keyDown(key(29), { key: 'ArrowLeft', shiftKey: true });
    expect(frames()).toEqual([5, 19]);
    await drawn();
    expect(key(19).classList.contains('picked')).toBe(true);
    fireEvent.keyDown(key(19), { key: 'Home' });
    expect(frames()).toEqual([5, 19]);
  });

  it('are copied to the playhead', async () => {
    await withKeys(5);
    fireEvent.keyDown(key(5), { key: ' ' });
    studio.goTo(22);
    await drawn();
    await page.user.click(page.show.getByRole('button', { name: 'Copy to frame 22' }));
    expect(frames()).toEqual([5, 22]);
  });
});

describe('moves on the strip', () => {
  it('are dragged together, and stretched at their end', async () => {
    await withMoves();
    const lanes = page.host.querySelector('.lanes')!;
    fireEvent.pointerDown(block('spin'), at(6));
    fireEvent.pointerUp(lanes);
    fireEvent.pointerDown(block('rise'), { ...at(21), shiftKey: true });
    fireEvent.pointerMove(lanes, at(25));
    fireEvent.pointerUp(lanes);
    expect(moves().map(({ start }) => start)).toEqual([9, 24]);
    await drawn();
    fireEvent.pointerDown(block('rise', '.end'), at(34));
    fireEvent.pointerMove(lanes, at(40));
    fireEvent.pointerUp(lanes);
    expect(moves().map(({ length }) => length)).toEqual([10, 16]);
    studio.undo();
    studio.undo();
    expect(moves().map(({ start, length }) => [start, length])).toEqual([
      [5, 10],
      [20, 10],
    ]);
  });

  it('are shifted and stretched by arrows', async () => {
    await withMoves();
    const spin = () => page.show.getByRole('button', { name: /^spin of Key/ });
    fireEvent.keyDown(spin(), { key: 'ArrowRight' });
    await drawn();
    fireEvent.keyDown(spin(), { key: 'ArrowRight', altKey: true });
    expect(moves()[0]).toMatchObject({ start: 6, length: 11 });
    expect(studio.primary()).toEqual({ kind: 'move', id: 'spin' });
  });

  it('do not reach beyond the end of the shot', async () => {
    await withMoves();
    studio.edit('Long', (draft) => void (draft.shots['one']!.moves['rise']!.length = 5000));
    await drawn();
    const right = page.component.x()(20) + Number(block('rise').getAttribute('width'));
    expect(right).toBeLessThanOrEqual(page.component.x()(48.5) + 1e-6);
  });
});

describe('a box on the lanes', () => {
  const rows = () => {
    for (const [k, row] of [...page.host.querySelectorAll<HTMLElement>('zr-lane')].entries()) {
      Object.defineProperty(row, 'offsetTop', { value: 22 + 30 * k });
      Object.defineProperty(row, 'offsetHeight', { value: 30 });
    }
  };
  const draw = (from: number, to: number, top: number, bottom: number, over: object = {}) => {
    const lanes = page.host.querySelector('.lanes')!;
    fireEvent.pointerDown(lanes, { ...at(from), clientY: top, ...over });
    fireEvent.pointerMove(lanes, { ...at(to), clientY: bottom });
    fireEvent.pointerUp(lanes, { ...at(to), clientY: bottom });
  };

  it('picks the keys in it, more with Ctrl, and nothing where there is none', async () => {
    await withKeys(5, 10, 30);
    rows();
    draw(4, 12, 25, 45);
    expect(studio.keys().map(({ frame }) => frame)).toEqual([5, 10]);
    draw(25, 40, 25, 45, { ctrlKey: true });
    expect(studio.keys().map(({ frame }) => frame)).toEqual([5, 10, 30]);
    draw(12, 20, 25, 45);
    expect(studio.keys()).toEqual([]);
    draw(4, 12, 80, 120);
    expect(studio.keys()).toEqual([]);
  });

  it('picks moves where it meets no keys; without being drawn it takes the playhead there', async () => {
    await withMoves();
    rows();
    draw(12, 22, 25, 40);
    expect(studio.selection().map(({ id }) => id)).toEqual(['spin', 'rise']);
    draw(17, 17, 25, 25);
    expect(studio.frame()).toBe(17);
  });
});

describe('picked keys', () => {
  it('are stretched with Alt about the end that is not held', async () => {
    await withKeys(10, 14, 20);
    studio.pickKeys([10, 14, 20].map((frame) => ({ path: POWER, frame })));
    await drawn();
    const lanes = page.host.querySelector('.lanes')!;
    fireEvent.pointerDown(key(20), { ...at(20), altKey: true });
    fireEvent.pointerMove(lanes, { ...at(25), ctrlKey: true });
    fireEvent.pointerMove(lanes, { ...at(30), ctrlKey: true });
    fireEvent.pointerUp(lanes);
    expect(frames()).toEqual([10, 18, 30]);
    studio.undo();
    expect(frames()).toEqual([10, 14, 20]);
  });

  it('are drawn to the playhead and to markers, but not with Ctrl', async () => {
    await withKeys(10);
    studio.edit('Long', (draft) => void (draft.shots['one']!.length = 480));
    studio.goTo(200);
    await drawn();
    const lanes = page.host.querySelector('.lanes')!;
    fireEvent.pointerDown(key(10), at(10));
    fireEvent.pointerMove(lanes, at(198));
    expect(frames()).toEqual([200]);
    fireEvent.pointerMove(lanes, { ...at(198), ctrlKey: true });
    expect(frames()).toEqual([198]);
  });
});

describe('the time that is seen', () => {
  it('is zoomed about the pointer by the wheel with Ctrl, scrolled with Shift, and all again', async () => {
    await withKeys(5);
    const lanes = page.host.querySelector('.lanes')!;
    const seen = () => page.component.window.range();
    const frame = 20;
    fireEvent.wheel(lanes, { ...at(frame), deltaY: -400, ctrlKey: true });
    expect(seen()[1] - seen()[0]).toBeCloseTo(47 / Math.E, 5);
    expect(page.component.x()(frame) + 176).toBeCloseTo(at(frame).clientX, 3);
    const [from] = seen();
    fireEvent.wheel(lanes, { ...at(20), deltaX: 0, deltaY: 200, shiftKey: true });
    expect(seen()[0]).toBeGreaterThan(from);
    fireEvent.wheel(lanes, { ...at(20), deltaY: 4000, ctrlKey: true });
    expect(seen()).toEqual([1, 48]);
  });

  it('is told in frames, seconds, or minutes, seconds and frames', async () => {
    await open();
    studio.goTo(25);
    await drawn();
    const told = () => page.host.querySelector('zr-frame-number')!.textContent;
    const words = () => page.user.click(page.show.getByRole('button', { name: /at 24 per second/ }));
    expect(told()).toBe('25');
    await words();
    await drawn();
    expect(told()).toBe('1.00');
    await words();
    await drawn();
    expect(told()).toBe('0:01:00');
    await words();
  });

  it('is played between the ends of the ruler, which are dragged, and marked by a double click', async () => {
    await open();
    studio.edit('Ends', (draft) => void (draft.shots['one']!.range = [10, 30]));
    await drawn();
    const ruler = page.host.querySelector('.ruler')!;
    fireEvent.pointerDown(page.show.getByRole('slider', { name: 'Begins at' }), at(10));
    fireEvent.pointerMove(ruler, at(16));
    fireEvent.pointerUp(ruler);
    expect(studio.shot()!.range).toEqual([16, 30]);
    await drawn();
    fireEvent.keyDown(page.show.getByRole('slider', { name: 'Ends at' }), { key: 'ArrowRight' });
    expect(studio.shot()!.range).toEqual([16, 31]);
    fireEvent.dblClick(ruler, at(22));
    await drawn();
    const marker = page.show.getByRole('button', { name: 'Marker Mark 22 at frame 22' });
    fireEvent.pointerDown(marker, at(22));
    fireEvent.pointerMove(ruler, at(25));
    fireEvent.pointerUp(ruler);
    expect(Object.values(studio.shot()!.markers)).toMatchObject([{ frame: 25, note: 'Mark 22' }]);
    await drawn();
    fireEvent.keyDown(page.show.getByRole('button', { name: 'Marker Mark 22 at frame 25' }), { key: 'Delete' });
    expect(studio.shot()!.markers).toEqual({});
  });
});

describe('the curve of a lane', () => {
  it('shows values that are dragged, with the time of their keys, as one step', async () => {
    await withKeys(10, 30);
    studio.edit('Values', (draft) => void (draft.shots['one']!.tracks[POWER]![1]!.value = 0));
    await drawn();
    await page.user.click(page.show.getByRole('button', { name: 'Open the curve of Key power' }));
    await drawn();
    const values = () => studio.shot()!.tracks[POWER]!.map(({ value }) => value as number);
    const [before] = values();
    const lanes = page.host.querySelector('.lanes')!;
    const point = page.show.getByRole('button', { name: 'Value of Key power at frame 10' });
    fireEvent.pointerDown(point, { ...at(10), clientY: 50 });
    fireEvent.pointerMove(lanes, { ...at(14), clientY: 60 });
    fireEvent.pointerUp(lanes);
    expect(frames()).toEqual([14, 30]);
    expect(values()[0]).toBeLessThan(before!);
    studio.undo();
    expect([frames(), values()[0]]).toEqual([[10, 30], before]);
    await drawn();
    fireEvent.keyDown(page.show.getByRole('button', { name: 'Value of Key power at frame 30' }), { key: 'ArrowUp' });
    expect(values()[1]).toBe(5);
  });

  it('has handles of curves of one’s own, and shows speed instead', async () => {
    await withKeys(10, 30);
    studio.edit('Values', (draft) => {
      const [first, second] = draft.shots['one']!.tracks[POWER]!;
      second!.value = 0;
      first!.pace = { curve: [0.3, 0, 0.7, 1] };
    });
    studio.pickKeys([{ path: POWER, frame: 10 }]);
    await drawn();
    await page.user.click(page.show.getByRole('button', { name: 'Open the curve of Key power' }));
    await drawn();
    const handle = page.show.getByRole('slider', { name: 'Leaving handle of the key at frame 10' });
    fireEvent.keyDown(handle, { key: 'ArrowRight' });
    const { pace } = studio.shot()!.tracks[POWER]![0]!;
    expect((pace as { curve: number[] }).curve[0]).toBeGreaterThan(0.3);
    await page.user.click(page.show.getByRole('button', { name: 'value' }));
    await drawn();
    expect(page.show.queryByRole('slider', { name: /handle/ })).toBeNull();
    expect(page.host.querySelector('zr-lane-curve')!.textContent).toContain('/s');
  });
});

describe('many lanes and many keys', () => {
  it('fold by what they are of, and are found by their names', async () => {
    studio.edit('Keys', (draft) => {
      for (const property of ['power', 'kelvin'])
        draft.shots['one']!.tracks[`lights/key/${property}`] = [{ frame: 3, value: 3000, pace: 'ease' }];
      draft.shots['one']!.tracks['lights/lamp/power'] = [{ frame: 3, value: 3, pace: 'ease' }];
      draft.shots['one']!.tracks['cameras/eye/fStop'] = [{ frame: 3, value: 3, pace: 'ease' }];
    });
    await open();
    const lanes = () => page.host.querySelectorAll('zr-lane').length;
    expect(lanes()).toBe(4);
    await page.user.click(page.show.getByRole('button', { name: 'Fold the lanes of Key' }));
    await drawn();
    expect(lanes()).toBe(2);
    await page.user.type(page.show.getByLabelText('Find a lane'), 'lamp');
    await drawn();
    expect(lanes()).toBe(1);
  });

  it('draw what stands too close as one line', async () => {
    studio.edit('Many', (draft) => {
      draft.shots['one']!.length = 10_000;
      draft.shots['one']!.tracks[POWER] = Array.from({ length: 10_000 }, (_, k) => ({ frame: k + 1, value: k % 7, pace: 'linear' as const })); // prettier-ignore
    });
    await open();
    expect(page.host.querySelectorAll('.key')).toHaveLength(0);
    expect(page.host.querySelector('.crowd')!.getAttribute('d')!.match(/M/g)!.length).toBeLessThan(1000);
    page.component.window.focus(100, 140);
    await drawn();
    expect(page.host.querySelectorAll('.key').length).toBeGreaterThan(40);
  });
});
