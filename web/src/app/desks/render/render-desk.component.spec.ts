import { choose } from '../../../testing/controls';
import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Prediction } from '@zippy/core/trace';
import { eventually, mount, type Mounted } from '../../../testing/mount';
import { openStudio, sampleTake } from '../../../testing/studioBed';
import { ServerProblem } from '../../api/api';
import type { Foreseen, Take } from '@zippy/core/wire';
import { CardComponent } from '../../card/card.component';
import { Ask } from '../../ui/ask/ask';
import { Notices } from '../../store/notices';
import { TakesActions } from '../../store/takes/takes.actions';
import type { Studio } from '../../store/studio';
import { RenderDeskComponent } from './render-desk.component';

const server = {
  saveEdits: vi.fn(),
  createTake: vi.fn(),
  takes: vi.fn(),
  predict: vi.fn(),
  state: vi.fn(),
  stopTake: vi.fn(),
  continueTake: vi.fn(),
  removeTake: vi.fn(),
  takeDisk: vi.fn(),
  takeLayers: vi.fn(),
};
const foreseen: Prediction = {
  frames: 48,
  seconds: { low: 80, expected: 300, high: 7200 },
  secondsPerFrame: { low: 2, expected: 6, high: 150 },
  noise: { low: 0.011, expected: 0.02, high: 0.031 },
};
const prediction: Foreseen = { ...foreseen, others: [foreseen, foreseen, { ...foreseen, seconds: { low: 1, expected: 20, high: 30 } }] }; // prettier-ignore
let studio: Studio;
let page: Mounted<RenderDeskComponent>;
const button = (name: string | RegExp) => page.show.getByRole('button', { name });
const takes = async (...list: Take[]) => {
  server.takes.mockResolvedValue(list);
  TestBed.inject(Store).dispatch(TakesActions.arrived({ takes: list }));
  await page.fixture.whenStable();
};
async function type(label: string, text: string): Promise<void> {
  const field = page.show.getByLabelText(label);
  await page.user.clear(field);
  await page.user.type(field, `${text}{Enter}`);
  await page.fixture.whenStable();
}
const asked = () => server.createTake.mock.calls.map(([, shot, first, last]) => [shot, first, last]);

beforeEach(async () => {
  vi.stubGlobal('EventSource', class {});
  for (const call of Object.values(server)) call.mockReset();
  server.saveEdits.mockResolvedValue({ revision: 2 });
  server.state.mockResolvedValue({ encoder: true, workers: 2, filter: 'own' });
  server.takes.mockResolvedValue([]);
  server.takeLayers.mockResolvedValue([]);
  server.takeDisk.mockResolvedValue({ free: 1e9, project: 0, unneeded: 0 });
  server.createTake.mockImplementation(async (_: string, shot: string, first: number, last: number) =>
    sampleTake({ shot, first, last, done: [], state: 'waiting' }),
  );
  studio = openStudio(server);
  page = await mount(RenderDeskComponent);
});

describe('the Render desk', () => {
  it('renders the present shot as it is set', async () => {
    await choose(page.user, page.show.getByLabelText('Ready sizes'), '1080 × 1920 upright');
    await choose(page.user, page.show.getByLabelText('Size'), 'Full');
    await type('Samples', '64.4');
    await type('First frame', '5');
    await type('Last frame', '900');
    await type('Enough at noise', '2.5');
    await type('Longest per frame', '30');
    await page.user.click(page.show.getByLabelText('Mattes'));
    await page.user.click(page.show.getByLabelText('Motion'));
    await page.user.click(button('Render take'));
    // The shot has 48 frames.
    expect(asked()).toEqual([['one', 5, 48]]);
    expect(server.createTake.mock.calls[0]![4]).toMatchObject({
      width: 1080,
      height: 1920,
      samples: 64,
      noiseTarget: 0.025,
      secondsPerFrame: 30,
      layers: ['lights', 'mattes'],
    });
    expect([studio.shownTake(), studio.grade()]).toEqual(['take', 'take']);
  });

  it('saves before it renders, and says why it cannot', async () => {
    const order: string[] = [];
    server.saveEdits.mockImplementation(async () => (order.push('save'), { revision: 2 }));
    server.createTake.mockImplementation(async () => {
      order.push('take');
      throw new ServerProblem({ title: 'no-camera', detail: 'This shot has no camera.' });
    });
    studio.setProperty('Power', 'lights/key/power', 5);
    await page.user.click(button('Render take'));
    await eventually(() => expect(order).toEqual(['save', 'take']));
    expect(TestBed.inject(Notices).notice()).toBe('This shot has no camera.');
  });

  it('asks before it renders more than the disk may hold, and leaves the rest where that is not wanted', async () => {
    const short = new ServerProblem({ title: 'disk-short', detail: '90 frames take about 40 GB.' });
    server.createTake.mockRejectedValueOnce(short);
    const sure = vi.spyOn(TestBed.inject(Ask), 'sure').mockResolvedValueOnce(false).mockResolvedValueOnce(true);
    await page.user.click(button('Render take'));
    await eventually(() => expect(sure).toHaveBeenCalledWith('The disk may be too small', '90 frames take about 40 GB.', 'Render all the same')); // prettier-ignore
    expect(server.createTake).toHaveBeenCalledTimes(1);
    server.createTake.mockRejectedValueOnce(short);
    await page.user.click(button('Render take'));
    await eventually(() => expect(server.createTake).toHaveBeenCalledTimes(3));
    expect(server.createTake.mock.calls[2]![7]).toBe(true);
    expect(TestBed.inject(Notices).notice()).toBeNull();
  });

  it('tests the first, middle and last frame, each once', async () => {
    await page.user.click(button('Test frames'));
    await eventually(() => expect(asked()).toEqual([1, 25, 48].map((frame) => ['one', frame, frame])));
    server.createTake.mockClear();
    await type('Last frame', '2');
    await page.user.click(button('Test frames'));
    await eventually(() => expect(asked()).toEqual([1, 2].map((frame) => ['one', frame, frame])));
  });

  it('renders the frame that is seen', async () => {
    studio.goTo(17);
    await page.fixture.whenStable();
    await page.user.click(button('Still of frame 17'));
    expect(asked()).toEqual([['one', 17, 17]]);
  });

  it('tells the time and noise of a take beforehand, for what it was asked about only', async () => {
    server.predict.mockResolvedValue(prediction);
    const told = () => page.host.querySelector('.told')?.textContent.replace(/\s+/g, ' ').trim();
    await page.user.click(button('How long, how noisy?'));
    await eventually(() => expect(told()).toBeDefined());
    expect(told()).toBe(
      '48 frames in about 5 min (80 s to 2.0 h), noise about 2.0 % before denoising (1.1 % to 3.1 %).',
    );
    // The ways of rendering are offered with what they take, and taken by a click.
    expect(server.predict.mock.calls[0]![5]).toHaveLength(3);
    expect(button(/^Draft/).textContent.trim()).toBe('Draft · 5 min');
    await page.user.click(button('Best · 20 s'));
    await eventually(() => expect(page.show.getByLabelText('Preset').textContent.trim()).toBe('Best'));
    expect(told()).toBeUndefined();
    studio.undo();
    await type('Samples', '128');
    server.predict.mockResolvedValue({ ...prediction, frames: 0 });
    await page.user.click(button('How long, how noisy?'));
    await eventually(() => expect(told()).toBe('Every frame of this range is there already.'));
    // What is measured while the settings change belongs to the old ones.
    let answer: (found: Prediction) => void = () => undefined;
    server.predict.mockReturnValue(new Promise((resolve) => (answer = resolve)));
    await page.user.click(button('How long, how noisy?'));
    await eventually(() => expect(button('Measuring…')).toHaveProperty('disabled', true));
    await type('Samples', '256');
    answer(prediction);
    await eventually(() => expect(button('How long, how noisy?')).toHaveProperty('disabled', false));
    expect(told()).toBeUndefined();
  });

  it('says what filters the noise', async () => {
    await eventually(() => expect(page.host.textContent).toContain('our own filter: the learned one is not installed'));
  });

  it('keeps for every shot which frames are rendered, inside the shot', async () => {
    const range = () => ['First frame', 'Last frame'].map((label) => page.show.getByLabelText<HTMLInputElement>(label).value); // prettier-ignore
    await type('First frame', '9');
    studio.openShot('two');
    await page.fixture.whenStable();
    expect(range()).toEqual(['1', '24']);
    studio.openShot('one');
    await page.fixture.whenStable();
    expect(range()).toEqual(['9', '48']);
    // The first cannot come behind the last.
    await type('Last frame', '4');
    expect(range()).toEqual(['4', '4']);
    await type('First frame', '1');
    await type('Last frame', '48');
    expect(studio.document().shots['one']!.range).toBeNull();
  });

  it('takes settings over from a preset, and says when they are no longer its', async () => {
    const preset = () => page.show.getByLabelText('Preset').textContent.trim();
    expect(preset()).toBe('Draft');
    expect(page.component.settings()).toMatchObject({ width: 960, height: 540, samples: 32 });
    await choose(page.user, page.show.getByLabelText('Preset'), 'Best');
    expect(page.component.settings()).toMatchObject({ width: 1920, height: 1080, samples: 1024, noiseTarget: 0.01 });
    expect(page.component.settings().layers).toEqual(['motion', 'lights']);
    await type('Samples', '77');
    expect(preset()).toBe('Changed');
    studio.undo();
    studio.undo();
    await page.fixture.whenStable();
    expect(preset()).toBe('Draft');
  });

  it('keeps settings under a name in the project, and forgets them', async () => {
    vi.spyOn(TestBed.inject(Ask), 'name').mockResolvedValue('Web page');
    await type('Samples', '77');
    await page.user.click(button('Keep as a preset'));
    await page.fixture.whenStable();
    await choose(page.user, page.show.getByLabelText('Preset'), 'Draft');
    expect(page.component.settings().samples).toBe(32);
    await choose(page.user, page.show.getByLabelText('Preset'), 'Web page');
    expect(page.component.settings().samples).toBe(77);
    await page.user.click(button('Forget the preset "Web page"'));
    expect(studio.document().presets).toEqual({});
    expect(page.component.settings().samples).toBe(77);
  });

  it('lets a shot have settings and a picture of its own', async () => {
    await page.user.click(page.show.getByRole('switch', { name: 'Own settings' }));
    await page.user.click(page.show.getByRole('switch', { name: 'Own size' }));
    await page.fixture.whenStable();
    await choose(page.user, page.show.getByLabelText('Ready sizes'), '1080 × 1080 square');
    await choose(page.user, page.show.getByLabelText('Size'), 'Full');
    await page.user.click(page.show.getByText('Noise, time and layers'));
    await page.user.click(page.show.getByLabelText('Mattes'));
    await page.fixture.whenStable();
    expect(page.component.settings()).toMatchObject({
      width: 1080,
      height: 1080,
      layers: ['motion', 'lights', 'mattes'],
    });
    studio.openShot('two');
    await page.fixture.whenStable();
    expect(page.component.settings()).toMatchObject({ width: 960, height: 540, layers: ['motion', 'lights'] });
    studio.openShot('one');
    await page.fixture.whenStable();
    await page.user.click(page.show.getByRole('switch', { name: 'Own settings' }));
    await page.user.click(page.show.getByRole('switch', { name: 'Own size' }));
    expect(page.component.settings()).toMatchObject({ width: 960, height: 540 });
  });

  it('lets a shot have a look of its own, which its takes begin with', async () => {
    await page.user.click(page.show.getByRole('switch', { name: 'Own look' }));
    await page.fixture.whenStable();
    await choose(page.user, page.show.getByLabelText('Ready look'), 'Silver');
    expect([studio.look().saturation, studio.document().look.saturation]).toEqual([0, 1]);
    studio.openShot('two');
    await page.fixture.whenStable();
    expect(studio.look().saturation).toBe(1);
    await takes(sampleTake());
    await page.user.click(button('Show take 1'));
    expect(studio.document().takeLooks['take']!.saturation).toBe(0);
    const card = await mount(CardComponent);
    // Taken back while all of it is shown: nothing that shows it may fall over what is gone.
    for (let k = 0; k < 3; k++) {
      studio.undo();
      await card.fixture.whenStable();
    }
    expect(card.show.queryByLabelText('Exposure')).toBeNull();
    expect(studio.document().shots['one']!.look).toBeNull();
  });

  it('renders the marked region, until the whole picture is asked for', async () => {
    studio.markRegion({ left: 0.1, top: 0.2, right: 0.5, bottom: 0.6 });
    await page.fixture.whenStable();
    expect(page.component.settings().region).toEqual({ left: 0.1, top: 0.2, right: 0.5, bottom: 0.6 });
    await page.user.click(button('Whole picture'));
    await page.fixture.whenStable();
    expect(page.component.settings().region).toBeNull();
  });
});

describe('takes', () => {
  it('are listed newest first, with how far they are and what goes wrong', async () => {
    await takes(
      sampleTake({ id: 'a', number: 1, last: 10, done: [1, 2, 3], state: 'rendering' }),
      sampleTake({ id: 'b', number: 2, last: 10, named: 10, distinct: 4, done: [], state: 'failed', failure: 'The disk is full.' }), // prettier-ignore
    );
    const boxes = page.show.getAllByRole('group', { name: /^Take \d/ });
    expect(boxes.map((box) => box.getAttribute('aria-label'))).toEqual(['Take 2', 'Take 1']);
    expect(boxes[0]!.textContent).toContain('failed · 0 of 10 frames · 6 repeat and are traced once');
    expect(boxes[0]!.textContent).toContain('The disk is full.');
    expect(boxes[1]!.querySelector('[role=progressbar]')!.getAttribute('aria-valuenow')).toBe('30');
    expect([...boxes[1]!.querySelectorAll('.row button')].map((each) => each.textContent.trim())).toEqual(['Pause', 'Put on the reel', 'Delete']); // prettier-ignore
  });

  it('are stopped, go on, and are deleted once it was asked', async () => {
    for (const call of [server.stopTake, server.continueTake, server.removeTake]) call.mockResolvedValue(undefined);
    await takes(sampleTake({ state: 'rendering' }));
    await page.user.click(button('Pause'));
    await takes(sampleTake({ state: 'stopped' }));
    await page.user.click(button('Go on'));
    expect([server.stopTake.mock.calls, server.continueTake.mock.calls]).toEqual([[['take']], [['take']]]);
    const sure = vi.spyOn(TestBed.inject(Ask), 'sure').mockResolvedValueOnce(false).mockResolvedValueOnce(true);
    await page.user.click(button('Delete'));
    expect(server.removeTake).not.toHaveBeenCalled();
    await page.user.click(button('Delete'));
    expect(sure.mock.calls[0]![0]).toBe('Delete take 1?');
    await eventually(() => expect(server.removeTake).toHaveBeenCalledWith('take'));
    // None of that opened it.
    expect(studio.shownTake()).toBeNull();
  });

  it('are shown in their shot, on a frame they have, with a look of their own', async () => {
    await takes(sampleTake({ shot: 'two', first: 5, last: 8 }));
    studio.goTo(40);
    await page.user.click(button('Show take 1'));
    expect([studio.shotId(), studio.shownTake(), studio.grade()]).toEqual(['two', 'take', 'take']);
    expect(studio.frame()).toBeGreaterThanOrEqual(5);
    expect(studio.document().takeLooks['take']).toEqual(studio.document().look);
  });

  it('are put on the reel', async () => {
    await takes(sampleTake({ first: 5, last: 8 }));
    await page.user.click(button('Put on the reel'));
    expect(Object.values(studio.document().reel.clips)).toMatchObject([
      { source: { kind: 'take', take: 'take' }, from: 5, to: 8 },
    ]);
    expect(studio.desk()).toBe('reel');
  });
});
