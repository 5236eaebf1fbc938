import { hintOf } from '../../../testing/controls';
import { newMove } from '@zippy/core/motion';
import type { Move } from '@zippy/core/document';
import { beforeEach, describe, expect, it } from 'vitest';
import { mount, type Mounted } from '../../../testing/mount';
import { openStudio } from '../../../testing/studioBed';
import type { Studio } from '../../store/studio';
import { MotionDeskComponent } from './motion-desk.component';

let studio: Studio;
let page: Mounted<MotionDeskComponent>;
const button = (name: string) => page.show.getByRole<HTMLButtonElement>('button', { name });
const offered = async () => {
  await page.fixture.whenStable();
  return ['Turntable', 'Orbit', 'Travel', 'Fade in', 'Blink'].filter(
    (name) => button(name).getAttribute('aria-disabled') !== 'true',
  );
};

beforeEach(async () => {
  studio = openStudio();
  page = await mount(MotionDeskComponent);
});

describe('the Motion desk', () => {
  it('takes the whole product and the camera of the shot while nothing is selected, and says what the rest needs', async () => {
    expect(await offered()).toEqual(['Turntable', 'Orbit']);
    expect(hintOf(button('Travel'))).toBe('Select a part, camera or light');
    expect(page.host.textContent).toContain('Nothing is selected');
    await page.user.click(button('Push in'));
    expect(Object.values(studio.shot()!.moves)).toMatchObject([
      { kind: 'dolly', target: 'cameras/eye', name: 'Push in' },
    ]);
    // What the new move is on can have another one at once.
    await page.fixture.whenStable();
    await page.user.click(button('Shake'));
    expect(Object.values(studio.shot()!.moves).map(({ target }) => target)).toEqual(['cameras/eye', 'cameras/eye']);
  });

  it('mutes a move, and lets it act again', async () => {
    studio.select('node', 'knob');
    await page.fixture.whenStable();
    await page.user.click(button('Turntable'));
    await page.fixture.whenStable();
    const [move] = Object.values(studio.shot()!.moves);
    await page.user.click(button('Mute: Turntable of Knob'));
    expect(studio.shot()!.moves[move!.id]!.muted).toBe(true);
    await page.fixture.whenStable();
    await page.user.click(button('Let act: Turntable of Knob'));
    expect(studio.shot()!.moves[move!.id]!.muted).toBe(false);
  });

  it.each([
    ['node', 'knob', ['Turntable', 'Travel', 'Fade in', 'Blink'], 'Knob'],
    // A group has no glow of its own.
    ['node', 'box', ['Turntable', 'Travel'], 'Box'],
    ['light', 'key', ['Orbit', 'Travel', 'Fade in', 'Blink'], 'Key'],
    ['camera', 'eye', ['Orbit', 'Travel'], 'Eye'],
    ['finish', 'gold', ['Fade in', 'Blink'], 'Gold'],
    ['shot', 'one', [], ''],
  ] as const)('offers a %s (%s) what can act on it', async (kind, id, moves, name) => {
    studio.select(kind, id);
    expect(await offered()).toEqual(moves);
    expect(page.host.querySelector('h2')!.textContent.trim().replace(/\s+/g, ' ')).toBe(`Put in motion ${name}`.trim());
  });

  it('says whether the shot loops, of the state that was checked, and leads to what does not', async () => {
    const text = () => page.host.textContent;
    const check = async () => {
      await page.user.click(button('Does it loop?'));
      await page.fixture.whenStable();
    };
    await check();
    expect(text()).toContain('Nothing moves in');
    const turn = (turns: number) =>
      studio.edit('Turn', (draft) => {
        const { length } = draft.shots['one']!;
        draft.shots['one']!.moves = { t: { ...newMove('turntable', 'nodes/knob', 1, length), id: 't', turns } as Move };
      });
    turn(1.5);
    await page.fixture.whenStable();
    expect(text()).not.toContain('Nothing moves in');
    await check();
    expect(text()).toContain('Knob jumps by 180° from the last frame to the first');
    await page.user.click(page.show.getByRole('button', { name: /jumps by/ }));
    expect(studio.primary()).toEqual({ kind: 'node', id: 'knob' });
    turn(1);
    await page.fixture.whenStable();
    expect(text()).not.toContain('jumps');
    await check();
    expect(text()).toContain('runs evenly from its last frame into its first');
  });

  it('puts what is selected in motion, and lists the moves of the shot by their beginning', async () => {
    studio.select('finish', 'gold');
    await page.fixture.whenStable();
    await page.user.click(button('Fade in'));
    const [fade] = Object.values(studio.shot()!.moves);
    expect(fade).toMatchObject({ kind: 'ramp', target: 'finishes/gold/emissionPower' });
    studio.edit('Later', (draft) => void (draft.shots['one']!.moves[fade!.id]!.start = 20));
    studio.select('light', 'key');
    await page.fixture.whenStable();
    await page.user.click(button('Blink'));
    studio.openShot('one', 1);
    await page.fixture.whenStable();
    const lines = [...page.host.querySelectorAll('zr-row')].map((line) => line.querySelector('.name')!.textContent);
    expect(lines).toEqual(['Blink', 'Fade in']);
    await page.user.click(page.host.querySelectorAll('zr-row')[1]!.querySelector('button')!);
    expect(studio.primary()).toEqual({ kind: 'move', id: fade!.id });
    studio.openShot('two');
    await page.fixture.whenStable();
    expect(page.host.querySelectorAll('zr-row')).toHaveLength(0);
  });
});
