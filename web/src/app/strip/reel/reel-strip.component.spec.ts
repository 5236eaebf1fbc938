import { fireEvent } from '@testing-library/dom';
import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { inOrder, newAsset } from '@zippy/core/document';
import { mount, type Mounted } from '../../../testing/mount';
import { openStudio, sampleTake } from '../../../testing/studioBed';
import { ReelEdits } from '../../store/edits/reel-edits';
import { Playback } from '../../store/playback';
import { ReelFilm } from '../../store/reel/reel-film';
import type { Studio } from '../../store/studio';
import { TakesActions } from '../../store/takes/takes.actions';
import { ReelStripComponent } from './reel-strip.component';

const HASH = 'a'.repeat(64);
let studio: Studio;
let page: Mounted<ReelStripComponent>;
let edits: ReelEdits;
const clips = () => inOrder(studio.document().reel.clips);
const at = (frame: number) => ({ clientX: 96 + page.component.x()(frame), button: 0, pointerId: 1 });
const lanes = () => page.host.querySelector('.lanes')!;
const drag = async (on: Element, from: number, to: number, over: object = {}) => {
  fireEvent.pointerDown(on, { ...at(from), ...over });
  fireEvent.pointerMove(lanes(), { ...at((from + to) / 2), ...over });
  fireEvent.pointerMove(lanes(), { ...at(to), ...over });
  fireEvent.pointerUp(lanes(), at(to));
  await page.fixture.whenStable();
};
const block = (name: string | RegExp) => page.show.getByRole('button', { name });

beforeEach(async () => {
  vi.stubGlobal('EventSource', class {});
  vi.stubGlobal('fetch', () => Promise.resolve(new Response(Uint8Array.of(0, 255, 128))));
  const playback = { rate: signal(1), shown: signal(null), wholeFilm: signal(false) };
  studio = openStudio({ frameUrl: (take: string, frame: number) => `/takes/${take}/${frame}` }, [{ provide: Playback, useValue: playback }]); // prettier-ignore
  edits = TestBed.inject(ReelEdits);
  const done = Array.from({ length: 60 }, (_, k) => k + 1);
  TestBed.inject(Store).dispatch(TakesActions.arrived({ takes: [sampleTake({ last: 60, done })] }));
  edits.addTake('take', 11, 30);
  edits.addTake('take', 31, 50);
  studio.openDesk('reel');
  page = await mount(ReelStripComponent);
});
afterEach(() => vi.unstubAllGlobals());

describe('the film’s strip', () => {
  it('shows clips with small pictures, and the way that they run', async () => {
    studio.edit('Run', ({ reel }) => void Object.assign(reel.clips[clips()[0]!.id]!, { loop: 2, play: 'backwards' }));
    await page.fixture.whenStable();
    const first = block(/^Clip 1, One, 40 frames/);
    expect(first.textContent).toContain('← · 2 times');
    const [picture] = first.querySelectorAll('img');
    expect(picture!.getAttribute('src')).toMatch(/^\/takes\/take\/\d+$/);
    expect(page.host.textContent).toContain('2.5 s');
  });

  it('cuts clips at their ends, and shows the frame that is cut at', async () => {
    await drag(block(/^Clip 1/).querySelector('.end.last')!, 21, 15);
    expect([clips()[0]!.from, clips()[0]!.to]).toEqual([11, 24]);
    expect(TestBed.inject(ReelFilm).frame()).toBe(14);
    await drag(block(/^Clip 2/).querySelector('.end.first')!, 15, 18);
    expect([clips()[1]!.from, clips()[1]!.to]).toEqual([34, 50]);
    studio.undo();
    studio.undo();
    expect(clips().map(({ from, to }) => [from, to])).toEqual([[11, 30], [31, 50]]); // prettier-ignore
  });

  it('lets clips change places, and slip with Alt', async () => {
    await drag(block(/^Clip 1/), 5, 38);
    expect(clips().map(({ from }) => from)).toEqual([31, 11]);
    await drag(block(/^Clip 1/), 12, 8, { altKey: true });
    expect([clips()[0]!.from, clips()[0]!.to]).toEqual([35, 54]);
  });

  it('is gone through by pressing it, and by the clips', async () => {
    await drag(lanes(), 9, 26);
    expect(TestBed.inject(ReelFilm).frame()).toBe(26);
    fireEvent.pointerDown(block(/^Clip 1/), at(4));
    fireEvent.pointerUp(lanes(), at(4));
    expect([TestBed.inject(ReelFilm).frame(), studio.primary()?.kind]).toEqual([1, 'clip']);
  });

  it('by keyboard: arrows move what has the focus', async () => {
    block(/^Clip 1/).focus();
    await page.user.keyboard('{ArrowRight}');
    expect(clips().map(({ from }) => from)).toEqual([31, 11]);
    fireEvent.keyDown(block(/^Clip 1/), { key: 'ArrowRight', altKey: true, shiftKey: true });
    expect(clips()[0]!.from).toBe(41);
  });

  it('has titles that are shifted and pulled, drawn to the cut, with their keys', async () => {
    edits.addTitle({ words: 'Hello', start: 5, length: 10 });
    const { id } = studio.primary()!;
    studio.toggleKeys([`reel/titles/${id}/x`]);
    await page.fixture.whenStable();
    const title = () => studio.document().reel.titles[id]!;
    expect(page.host.querySelectorAll('.key')).toHaveLength(1);
    await drag(block('Title Hello'), 8, 12, { ctrlKey: true });
    expect([title().start, title().length]).toEqual([9, 10]);
    // Near to the cut at 21 it is drawn to it.
    await drag(block('Title Hello').querySelector('.end.last')!, 19, 20.8);
    expect([title().start, title().length]).toEqual([9, 12]);
    await drag(block('Title Hello').querySelector('.end.first')!, 9, 13, { ctrlKey: true });
    expect([title().start, title().length]).toEqual([13, 8]);
    fireEvent.pointerDown(page.host.querySelector('.key')!, { button: 0 });
    expect(studio.keys()).toEqual([{ path: `reel/titles/${id}/x`, frame: 1 }]);
  });

  it('has sounds with their wave, whose ends leave parts of them out', async () => {
    edits.addSound(newAsset({ id: 's', name: 'Song', kind: 'sound', hash: HASH, sound: { seconds: 1, loudness: HASH } })); // prettier-ignore
    const { id } = studio.primary()!;
    await page.fixture.whenStable();
    await vi.waitFor(() => expect(page.host.querySelector('zr-sound-wave path')!.getAttribute('d')).toMatch(/^M/));
    const sound = () => studio.document().reel.sounds[id]!;
    await drag(block('Sound Song'), 3, 9, { ctrlKey: true });
    expect(sound().start).toBe(7);
    await drag(block('Sound Song').querySelector('.end.first')!, 7, 13, { ctrlKey: true });
    expect([sound().start, sound().from, sound().lasts]).toEqual([13, 0.25, 0.75]);
    await drag(block('Sound Song').querySelector('.end.last')!, 20, 14, { ctrlKey: true });
    expect(sound().lasts).toBeCloseTo(0.5);
  });
});
