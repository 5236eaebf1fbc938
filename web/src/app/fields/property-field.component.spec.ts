import { choose } from '../../testing/controls';
import { newMove } from '@zippy/core/motion';
import type { Value } from '@zippy/core/document';
import { within } from '@testing-library/dom';
import { beforeEach, describe, expect, it } from 'vitest';
import { linearFromHex } from '@zippy/core/optics';
import { mount } from '../../testing/mount';
import { openStudio } from '../../testing/studioBed';
import type { Studio } from '../store/studio';
import type { FieldSpec } from '../kinds/field';
import { PropertyFieldComponent } from './property-field.component';

let studio: Studio;
const open = (spec: FieldSpec) => mount(PropertyFieldComponent, { spec });
const power: FieldSpec = { path: 'lights/key/power', label: 'Power', kind: 'number', min: 0 };

beforeEach(() => (studio = openStudio()));

describe('a field of the card', () => {
  it('shows a number in its own unit and writes it in that of the document, as one step to undo', async () => {
    const spec: FieldSpec = { path: 'lights/key/power', label: 'Power', kind: 'number', scale: 10, max: 50 };
    const before = studio.document().lights['key']!.power;
    const { show, user } = await open(spec);
    const field = show.getByLabelText<HTMLInputElement>('Power');
    expect(Number(field.value)).toBeCloseTo(before / 10, 1);
    await user.clear(field);
    await user.type(field, '42{Enter}');
    expect(studio.document().lights['key']!.power).toBe(420);
    studio.undo();
    expect(studio.document().lights['key']!.power).toBe(before);
  });

  it('changes one axis of a place and leaves the others', async () => {
    studio.setProperty('Move', 'nodes/knob/position', [1, 2, 3]);
    const { show, user } = await open({
      path: 'nodes/knob/position',
      label: 'Place',
      kind: 'vector',
      bring: (value) => (value as number[]).map(Math.round) as Value,
    });
    await user.clear(show.getByLabelText('Place Y'));
    await user.type(show.getByLabelText('Place Y'), '7.6{Enter}');
    expect(studio.document().nodes['knob']!.position).toEqual([1, 8, 3]);
  });

  it('takes a colour as it looks, and keeps light that is linear', async () => {
    const { show, user } = await open({ path: 'finishes/gold/baseColor', label: 'Colour', kind: 'color' });
    await user.click(show.getByRole('button', { name: /^Colour/ }));
    const panel = within(await within(document.body).findByRole('dialog', { name: 'Colour: Colour' }));
    const code = panel.getByLabelText('Colour code');
    await user.clear(code);
    await user.type(code, '804000{Enter}');
    expect(studio.document().finishes['gold']!.baseColor).toEqual(linearFromHex('#804000'));
    studio.undo();
    expect(studio.document().finishes['gold']!.baseColor).not.toEqual(linearFromHex('#8040ff'));
  });

  it('switches, chooses, and names', async () => {
    const lamp = await open({ path: 'lights/lamp/on', label: 'On', kind: 'switch' });
    await lamp.user.click(lamp.show.getByRole('switch', { name: 'On' }));
    expect(studio.document().lights['lamp']!.on).toBe(false);
    const options = [
      { value: '', label: 'nothing' },
      { value: 'box', label: 'Box' },
    ];
    const carrier = await open({ path: 'lights/lamp/parent', label: 'Carried by', kind: 'choice', options });
    await choose(carrier.user, carrier.show.getByLabelText('Carried by'), 'Box');
    expect(studio.document().lights['lamp']!.parent).toBe('box');
    await choose(carrier.user, carrier.show.getByLabelText('Carried by'), 'nothing');
    expect(studio.document().lights['lamp']!.parent).toBeNull();
    const group = await open({ path: 'lights/lamp/name', label: 'Called', kind: 'text' });
    await group.user.clear(group.show.getByLabelText('Called'));
    await group.user.type(group.show.getByLabelText('Called'), '  Eye light  {Tab}');
    expect(studio.document().lights['lamp']!.name).toBe('Eye light');
  });

  it('sets and takes away the key of this frame, and shows that a value moves', async () => {
    const { show, user, fixture } = await open(power);
    await user.click(show.getByLabelText('Set key of Power'));
    await fixture.whenStable();
    expect(studio.shot()!.tracks['lights/key/power']).toHaveLength(1);
    const key = show.getByLabelText('Remove key of Power');
    const moves = (button: HTMLElement) => button.closest('zr-small-button')!.classList.contains('moving');
    expect([key.getAttribute('aria-pressed'), moves(key)]).toEqual(['true', true]);
    studio.goTo(9);
    await fixture.whenStable();
    expect(moves(show.getByLabelText(/Set key of Power/))).toBe(true);
    studio.goTo(1);
    await fixture.whenStable();
    await user.click(show.getByLabelText('Remove key of Power'));
    expect(studio.shot()!.tracks['lights/key/power']).toBeUndefined();
  });

  it('shows that a move acts on it, and has no key where nothing can move', async () => {
    studio.edit('Ramp', (draft) => {
      draft.shots['one']!.moves['m'] = newMove('ramp', 'lights/key/power', 1, 10);
    });
    const { show } = await open(power);
    expect(show.getByLabelText('Moves. Set key of Power')).toBeTruthy();
    const still = await open({ ...power, still: true });
    expect(still.show.queryByLabelText('Set key of Power')).toBeNull();
  });

  it('shows that this shot has a value of its own', async () => {
    studio.changeThisShotOnly(true);
    studio.setProperty('Power', 'lights/key/power', 77);
    const { show } = await open(power);
    expect(show.getByText('Power').title).toBe('Has its own value in this shot');
    expect(show.getByLabelText<HTMLInputElement>('Power').value).toBe('77');
    studio.openShot('two');
    const there = await open(power);
    expect(there.show.getByText('Power').title).toBe('');
  });

  it('says that it counts for all shots, where changes are for this one and it cannot be', async () => {
    const carrier: FieldSpec = { path: 'lights/lamp/parent', label: 'Carried by', kind: 'choice', options: [] };
    expect((await open(carrier)).show.queryByTitle('Counts for all shots')).toBeNull();
    studio.changeThisShotOnly(true);
    expect((await open(carrier)).show.getByTitle('Counts for all shots').textContent).toBe('Carried by');
    expect((await open(power)).show.queryByTitle('Counts for all shots')).toBeNull();
  });

  it('leaves more than itself to a writer of its own', async () => {
    const written: unknown[] = [];
    const { show, user } = await open({ ...power, write: (_, value) => written.push(value) });
    await user.clear(show.getByLabelText('Power'));
    await user.type(show.getByLabelText('Power'), '5{Enter}');
    expect(written).toEqual([5]);
  });
});
