import { beforeEach, describe, expect, it } from 'vitest';
import { TestBed } from '@angular/core/testing';
import { mount } from '../../testing/mount';
import { openStudio } from '../../testing/studioBed';
import { Guides } from './guides';
import { GuidesComponent } from './guides.component';

beforeEach(() => {
  localStorage.removeItem('zippy-guides');
  openStudio();
});

describe('lines over the picture', () => {
  it('are kept by the browser; what it holds that is none is left out', () => {
    const guides = TestBed.inject(Guides);
    guides.toggle('thirds');
    guides.toggle('safe');
    guides.toggle('thirds');
    guides.dimming.set('all');
    TestBed.tick();
    expect(JSON.parse(localStorage.getItem('zippy-guides')!)).toEqual({ shown: ['safe'], dimming: 'all' });
    localStorage.setItem('zippy-guides', '{"shown":["safe","none of ours"],"dimming":"blue"}');
    openStudio();
    const again = TestBed.inject(Guides);
    expect([[...again.shown()], again.dimming()]).toEqual([['safe'], 'usual']);
    localStorage.setItem('zippy-guides', 'broken');
    openStudio();
    expect(TestBed.inject(Guides).shown().size).toBe(0);
  });

  it('are drawn; the horizon is where the camera sees it', async () => {
    const studio = openStudio();
    const guides = TestBed.inject(Guides);
    studio.setProperties('Level', { 'cameras/eye/position': [0, 100, 500], 'cameras/eye/target': [0, 100, 0] });
    guides.toggle('thirds');
    guides.toggle('horizon');
    const { host, fixture } = await mount(GuidesComponent);
    const horizon = () => host.querySelector('.horizon')!;
    expect(host.querySelectorAll('line:not(.horizon)')).toHaveLength(4);
    expect(Number(horizon().getAttribute('y1'))).toBeCloseTo(50, 6);
    // Looking down, the horizon goes up.
    studio.setProperties('Down', { 'cameras/eye/target': [0, 50, 0] });
    await fixture.whenStable();
    expect(Number(horizon().getAttribute('y1'))).toBeLessThan(45);
    expect(Number(horizon().getAttribute('y1'))).toBeCloseTo(Number(horizon().getAttribute('y2')), 6);
  });
});
