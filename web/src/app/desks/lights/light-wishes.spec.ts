import { describe, expect, it } from 'vitest';
import { newFinish } from '@zippy/core/document';
import { sampleDocument } from '../../../testing/studioBed';
import { lightWishes, sceneStamp } from './light-wishes';

describe('pictures of what each light does', () => {
  it('show that light alone, on even where it is off, and nothing else that shines', () => {
    const document = sampleDocument();
    document.lights['lamp']!.on = false;
    document.lights['key']!.solo = true;
    document.finishes['gold'] = newFinish({ id: 'gold', emissionPower: 500 });
    const wishes = lightWishes(document, 's', document.look, 60, 'one', 1);
    expect([...wishes.keys()]).toEqual(['key', 'lamp']);
    const { state } = wishes.get('lamp')!.draw();
    expect(state.lights.map(({ id, on }) => [id, on])).toEqual([['lamp', true]]);
    expect(state.finishes['gold']!.emissionPower).toBe(0);
    expect(state.set.surroundings.brightness).toBe(0);
  });

  it('are made anew for what changes what the light does, not for its name, layer or solo', () => {
    const document = sampleDocument();
    const shows = () => lightWishes(document, 's', document.look, 60, 'one', 1).get('key')!.shows;
    const before = shows();
    Object.assign(document.lights['key']!, { name: 'Other', group: 'Keys', solo: true });
    expect(shows()).toBe(before);
    document.lights['key']!.power += 1;
    expect(shows()).not.toBe(before);
  });

  it('tell a scene from others by what it is made of', () => {
    const [a, b] = [{}, {}];
    const first = sceneStamp([a, b, 1]);
    expect(sceneStamp([a, b, 1])).toBe(first);
    expect(sceneStamp([a, b, 2])).not.toBe(first);
    expect(sceneStamp([a, {}, 2])).not.toBe(sceneStamp([a, b, 2]));
  });
});
