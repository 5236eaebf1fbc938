import { newGesture } from '../ui/gesture';
import { describe, expect, it } from 'vitest';
import { openStudio } from '../../testing/studioBed';

const power = 'lights/key/power';

describe('setting a property', () => {
  it('changes the resting state, seen in every shot', () => {
    const studio = openStudio();
    studio.setProperty('Power', power, 77);
    expect(studio.document().lights['key']!.power).toBe(77);
    studio.openShot('two');
    expect(studio.present().lights['key']!.power).toBe(77);
  });

  it('for this shot only leaves the other shots and the resting state alone, and stays the shot’s own', () => {
    const studio = openStudio();
    const before = studio.document().lights['key']!.power;
    studio.changeThisShotOnly(true);
    studio.setProperty('Power', power, 77);
    studio.changeThisShotOnly(false);
    studio.setProperty('Power', power, 78);
    expect(studio.present().lights['key']!.power).toBe(78);
    studio.openShot('two');
    expect(studio.present().lights['key']!.power).toBe(before);
    expect(studio.document().lights['key']!.power).toBe(before);
  });

  it('that has keys sets a key at the playhead', () => {
    const studio = openStudio();
    studio.goTo(10);
    studio.toggleKeys([power]);
    studio.goTo(20);
    studio.setProperty('Power', power, 500);
    expect(studio.shot()!.tracks[power]!.map((key) => key.frame)).toEqual([10, 20]);
    studio.goTo(15);
    expect(studio.present().lights['key']!.power).toBeCloseTo((900 + 500) / 2);
    studio.goTo(20);
    studio.setProperty('Power', power, 400);
    expect(studio.shot()!.tracks[power]).toHaveLength(2);
  });

  it('while recording begins a track', () => {
    const studio = openStudio();
    studio.record(true);
    studio.goTo(5);
    studio.setProperties('Move', { 'nodes/knob/position': [1, 2, 3], 'nodes/knob/turn': [0, 1, 0] });
    expect(Object.keys(studio.shot()!.tracks).sort()).toEqual(['nodes/knob/position', 'nodes/knob/turn']);
    expect(studio.document().nodes['knob']!.position).toEqual([0, 0, 0]);
  });

  it('in one gesture is one step of undo, several properties too', () => {
    const studio = openStudio();
    const gesture = newGesture();
    for (const value of [1, 2, 3])
      studio.setProperties('Drag', { [power]: value, 'lights/lamp/power': value }, gesture);
    studio.setProperty('Power', power, 9);
    studio.undo();
    expect(studio.document().lights['key']!.power).toBe(3);
    studio.undo();
    expect([studio.document().lights['key']!.power, studio.document().lights['lamp']!.power]).toEqual([900, 400]);
    studio.redo();
    expect(studio.document().lights['lamp']!.power).toBe(3);
  });

  it('that does not exist, or is of another kind, does nothing', () => {
    const studio = openStudio();
    studio.setProperty('Power', 'lights/gone/power', 5);
    studio.setProperty('Power', power, [1, 2, 3]);
    expect(studio.history().done).toHaveLength(0);
  });
});

describe('keys', () => {
  it('come and go; the last one takes its track along', () => {
    const studio = openStudio();
    studio.toggleKeys([power]);
    expect(studio.shot()!.tracks[power]).toEqual([{ frame: 1, value: 900, pace: 'ease' }]);
    studio.toggleKeys([power]);
    expect(studio.shot()!.tracks).toEqual({});
  });
});

describe('the selection', () => {
  it('grows and shrinks, and the last is the primary one', () => {
    const studio = openStudio();
    studio.select('node', 'knob');
    studio.select('light', 'key', true);
    expect(studio.primary()).toEqual({ kind: 'light', id: 'key' });
    studio.select('light', 'key', true);
    expect(studio.selection()).toEqual([{ kind: 'node', id: 'knob' }]);
  });
});

describe('the grade of the picture', () => {
  it('goes round, over the take only where the shot has one', () => {
    const studio = openStudio();
    const grades = () => (studio.nextGrade(), studio.grade());
    expect(studio.grade()).toBe('settle');
    expect([grades(), grades(), grades()]).toEqual(['traced', 'sketch', 'settle']);
  });
});

describe('the look of a take', () => {
  it('is its own, or the project’s', () => {
    const studio = openStudio();
    studio.edit('Look', (draft) => void (draft.takeLooks['t'] = { ...draft.look, exposure: 2 }));
    expect([studio.lookOf('t').exposure, studio.lookOf('other').exposure, studio.lookOf(null).exposure]).toEqual([
      2, 0, 0,
    ]);
  });
});
