import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { mount, type Mounted } from '../../testing/mount';
import { openStudio } from '../../testing/studioBed';
import type { Studio } from '../store/studio';
import { FieldMoves } from './field-moves';
import { FieldMovesComponent } from './field-moves.component';

let studio: Studio;
let page: Mounted<FieldMovesComponent>;
const POWER = 'lights/key/power';

async function open(path: string): Promise<string[]> {
  TestBed.inject(FieldMoves).at.set({ x: 5, y: 5, label: 'Power', paths: [path] });
  await page.fixture.whenStable();
  await new Promise((resolve) => setTimeout(resolve, 20));
  await page.fixture.whenStable();
  return [...document.querySelectorAll('[mat-menu-item]')].map((item) => item.textContent.trim());
}
const choose = async (name: string) => {
  [...document.querySelectorAll<HTMLElement>('[mat-menu-item]')]
    .find((item) => item.textContent.trim() === name)!
    .click();
  await page.fixture.whenStable();
};

beforeEach(async () => {
  studio = openStudio();
  page = await mount(FieldMovesComponent);
});

describe('the menu of a field', () => {
  it('puts a move on its value, from what that is now', async () => {
    expect(await open(POWER)).toContain('Fade out');
    await choose('Fade out');
    const { power } = studio.document().lights['key']!;
    expect(Object.values(studio.shot()!.moves)).toMatchObject([{ kind: 'ramp', target: POWER, from: power, to: 0 }]);
  });

  it('takes back what the shot has of its own, its keys, or all that was changed', async () => {
    studio.changeThisShotOnly();
    studio.setProperty('Power', POWER, 12);
    expect(await open(POWER)).toContain('Back to its resting value');
    await choose('Back to its resting value');
    expect(studio.shot()!.changes).toEqual({});
    studio.toggleKeys([POWER]);
    expect(await open(POWER)).toContain('Take its keys away');
    await choose('Take its keys away');
    expect(studio.shot()!.tracks).toEqual({});
    studio.changeThisShotOnly();
    studio.setProperty('Power', POWER, 12);
    await open(POWER);
    await choose('As new ones have it');
    expect(studio.document().lights['key']!.power).toBe(900);
  });
});
