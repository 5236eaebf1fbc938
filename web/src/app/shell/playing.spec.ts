import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { newMove } from '@zippy/core/motion';
import { newNode } from '@zippy/core/document';
import { mount } from '../../testing/mount';
import { openStudio } from '../../testing/studioBed';
import { CardComponent } from '../card/card.component';
import { DeskPanelComponent } from '../desks/desk-panel.component';
import { DESKS } from '../desks/registry';
import { Playback } from '../store/playback';
import type { Studio } from '../store/studio';
import { StripComponent } from '../strip/strip.component';
import { HeaderComponent } from './header.component';
import { RailComponent } from './rail.component';

const LANES = 200;

/** All areas of the page but the picture, which shows every frame. */
@Component({
  imports: [CardComponent, DeskPanelComponent, HeaderComponent, RailComponent, StripComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<zr-header /><zr-rail /><zr-desk /><zr-card /><zr-strip />',
})
class PageComponent {}

/** Begin of a template's update, as the framework tells its own tools. */
const TEMPLATE_UPDATE = 2;
type Profiler = ((event: number, instance: object | null) => void) | null;
const { ng } = globalThis as unknown as { ng: { ɵsetProfiler(profiler: Profiler): void } };

let studio: Studio;

beforeEach(() => {
  vi.stubGlobal('EventSource', class {});
  // The page of the tests lays nothing out.
  Element.prototype.scrollTo = () => undefined;
  // Frames are shown by the test itself.
  const playback = { rate: signal(1), shown: signal(null), wholeFilm: signal(false) };
  studio = openStudio(
    {
      saveEdits: vi.fn().mockResolvedValue({ revision: 2 }),
      meshUrl: () => 'data:,',
      state: vi.fn().mockResolvedValue({ filter: 'own' }),
    },
    [{ provide: Playback, useValue: playback }],
  );
  studio.edit('A great deal moves', (draft) => {
    const shot = draft.shots['one']!;
    for (let k = 0; k < LANES / 2; k++) {
      const id = `n${k}`;
      draft.nodes[id] = newNode({ id, name: `Part ${k}`, order: 10 + k });
      shot.tracks[`nodes/${id}/position`] = [
        { frame: 1, value: [0, 0, 0], pace: 'ease' },
        { frame: 48, value: [10, k, 0], pace: 'ease' },
      ];
      const turn = newMove('turntable', `nodes/${id}`, 1, 48);
      shot.moves[turn.id] = turn;
    }
  });
  studio.select('node', 'n0');
});

/** How often each component was looked through while some frames were shown. */
async function lookedThrough(work: () => Promise<void>): Promise<Record<string, number>> {
  const counts: Record<string, number> = {};
  ng.ɵsetProfiler((event, instance) => {
    if (event !== TEMPLATE_UPDATE || !instance) return;
    const { name } = instance.constructor;
    counts[name] = (counts[name] ?? 0) + 1;
  });
  try {
    await work();
  } finally {
    ng.ɵsetProfiler(null);
  }
  return counts;
}

describe('a shot with 200 lanes', () => {
  it('plays without looking through any panel, whatever desk is open', { timeout: 120_000 }, async () => {
    const page = await mount(PageComponent);
    expect(page.host.querySelectorAll('zr-lane')).toHaveLength(LANES);
    const pause = () => new Promise<void>((resolve) => setTimeout(resolve, 300));
    let frame = 1;
    for (const desk of DESKS) {
      studio.play(false);
      studio.openDesk(desk);
      await vi.waitFor(() => expect(page.host.querySelector(`zr-${desk}-desk`)).not.toBeNull(), { timeout: 20_000 });
      studio.play(true);
      // Long lists go on filling themselves for a while after they were drawn.
      while (Object.keys(await lookedThrough(pause)).length > 0);
      const counts = await lookedThrough(async () => {
        for (let k = 0; k < 5; k++) {
          studio.goTo(++frame);
          await page.fixture.whenStable();
        }
      });
      // Only the number of the frame and the line over the lanes follow, each once a frame.
      expect(counts, desk).toEqual({ _FrameNumberComponent: 5, _PlayheadComponent: 5 });
      expect(page.host.querySelector('zr-frame-number')!.textContent).toBe(String(frame));
    }
  });

  it('shows in its fields where things stand as soon as it rests, and what is changed while it plays', async () => {
    const page = await mount(CardComponent);
    const x = () => page.show.getByLabelText<HTMLInputElement>('Position X').value;
    expect(x()).toBe('0');
    studio.play(true);
    studio.goTo(48);
    await page.fixture.whenStable();
    expect(x()).toBe('0');
    studio.edit('Place', (draft) => void (draft.shots['one']!.tracks['nodes/n0/position']![0]!.value = [7, 0, 0]));
    await page.fixture.whenStable();
    expect(x()).toBe('7');
    studio.play(false);
    await page.fixture.whenStable();
    expect(x()).toBe('10');
  });
});
