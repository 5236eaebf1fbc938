import { beforeEach, describe, expect, it, vi } from 'vitest';
import { evaluateProperties } from '@zippy/core/motion';
import { choose } from '../../../testing/controls';
import { mount, type Mounted } from '../../../testing/mount';
import { openStudio } from '../../../testing/studioBed';
import type { Studio } from '../../store/studio';
import { CaptureComponent } from './capture.component';

let studio: Studio;
let page: Mounted<CaptureComponent>;
const type = async (label: string, text: string) => {
  const field = page.show.getByLabelText(label);
  await page.user.clear(field);
  await page.user.type(field, `${text}{Enter}`);
  await page.fixture.whenStable();
};
const make = () => page.user.click(page.show.getByRole('button', { name: /^Make a shot/ }));

beforeEach(async () => {
  vi.stubGlobal('EventSource', class {});
  studio = openStudio();
  page = await mount(CaptureComponent);
  await page.user.click(page.show.getByText('All round the product'));
});

describe('a shot all round the product', () => {
  it('has a frame for each place, all sharp, looking at the middle, and is undone in one step', async () => {
    const before = studio.document();
    await type('Pictures', '12');
    await make();
    const shot = studio.shot()!;
    expect(shot).toMatchObject({ name: 'All round', length: 12, included: false });
    expect(shot.changes).toEqual({ 'set/behind/kind': 'transparent', 'set/floor/kind': 'none' });
    const cameras = Array.from({ length: 12 }, (_, k) => evaluateProperties(studio.document(), shot, k + 1).cameras[shot.camera!]!); // prettier-ignore
    const [{ target }] = cameras as [(typeof cameras)[number]];
    const far = cameras.map(({ position }) => Math.hypot(...position.map((v, k) => v - target[k]!)));
    for (const each of far) expect(each / far[0]!).toBeCloseTo(1, 6);
    expect(new Set(cameras.map(({ position }) => position.join())).size).toBe(12);
    expect(cameras[0]).toMatchObject({ fStop: 0, shutterAngle: 0, focalLength: 50 });
    // Its poses are offered now.
    await page.fixture.whenStable();
    expect(page.show.getByRole('button', { name: 'Poses for COLMAP' })).toBeTruthy();
    studio.undo();
    expect(studio.document().shots).toEqual(before.shots);
  });

  it('has as many pictures as the overlap asks for, until they are counted', async () => {
    const few = page.component.count();
    await type('Overlap', '90');
    expect(page.component.count()).toBeGreaterThan(3 * few);
    await type('Pictures', '30');
    expect(page.component.count()).toBe(30);
    await type('Overlap', '80');
    expect(page.component.count()).toBe(few);
  });

  it('stands on rings between two heights, whichever is named first', async () => {
    await choose(page.user, page.show.getByLabelText('Where cameras stand'), 'On rings');
    await type('Pictures', '20');
    await type('Rings', '2');
    await type('Lowest ring', '50');
    await type('Highest ring', '10');
    await make();
    const shot = studio.shot()!;
    const heights = shot.tracks[`cameras/${shot.camera}/position`]!.map(({ value }) =>
      (value as number[])[1]!.toFixed(3),
    );
    expect(new Set(heights).size).toBe(2);
    expect(Number(heights[0])).toBeLessThan(Number(heights[19]));
  });
});
