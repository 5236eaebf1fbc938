import { beforeEach, describe, expect, it, vi } from 'vitest';
import { choose } from '../../testing/controls';
import { mount, type Mounted } from '../../testing/mount';
import { openStudio } from '../../testing/studioBed';
import type { Studio } from '../store/studio';
import { CardComponent } from './card.component';

let studio: Studio;
let page: Mounted<CardComponent>;
const field = (label: string) => page.show.getByLabelText(label);

beforeEach(async () => {
  localStorage.clear();
  vi.stubGlobal('EventSource', class {});
  studio = openStudio({});
  studio.edit('Key', (draft) => {
    draft.shots['one']!.tracks['lights/key/power'] = [
      { frame: 1, value: 10, pace: 'linear' },
      { frame: 25, value: 20, pace: 'linear' },
    ];
  });
  page = await mount(CardComponent);
});

describe('the card of the project', () => {
  it('is there where nothing is selected', async () => {
    expect(page.host.textContent).toContain('Sample');
    expect(field('Frames').textContent).toContain('24 a second');
    studio.select('node', 'lid');
    await page.fixture.whenStable();
    expect(page.show.queryByLabelText('Frames')).toBeNull();
  });

  it('keeps the seconds at which things happen, in one step that is undone', async () => {
    await choose(page.user, field('Frames'), '30 a second');
    const { frameRate, shots } = studio.document();
    expect(frameRate).toEqual({ numerator: 30, denominator: 1 });
    expect([shots['one']!.length, shots['two']!.length]).toEqual([60, 30]);
    expect(shots['one']!.tracks['lights/key/power']!.map(({ frame }) => frame)).toEqual([1, 31]);
    expect(studio.frameRate()).toBe(30);
    studio.undo();
    expect(studio.document().shots['one']!.length).toBe(48);
    expect(studio.frameRate()).toBe(24);
  });

  it('keeps the frames where that was asked for, and remembers it', async () => {
    await choose(page.user, field('Another frame rate keeps'), 'The frames: all goes faster or slower');
    await choose(page.user, field('Frames'), '25 a second');
    expect(studio.document().shots['one']!.length).toBe(48);
    expect(studio.frameRate()).toBe(25);
    page = await mount(CardComponent);
    expect(field('Another frame rate keeps').textContent).toContain('The frames');
  });

  it('sets the size of the picture, whole pixels within the limits', async () => {
    await choose(page.user, field('Ready sizes'), '1080 × 1920 upright');
    expect(studio.document().picture).toEqual({ width: 1080, height: 1920 });
    await page.user.clear(field('Width'));
    await page.user.type(field('Width'), '99999{Enter}');
    expect(studio.document().picture).toEqual({ width: 8192, height: 1920 });
    expect(studio.pictureSize()).toEqual({ width: 8192, height: 1920 });
  });

  it('tells in which unit lengths are shown', async () => {
    await choose(page.user, field('Lengths in'), 'Inches');
    expect(studio.lengthUnit()).toBe('inch');
    expect(studio.history().done.at(-1)!.label).toBe('Lengths in');
  });
});
