import { TestBed } from '@angular/core/testing';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { openStudio } from '../../testing/studioBed';
import { Playback } from './playback';
import type { Studio } from './studio';

let studio: Studio;
let now: number;
let waiting: FrameRequestCallback[];

/** Lets a screen show pictures for some time. @param rate pictures a second */
function screen(seconds: number, rate: number): void {
  for (let k = 0; k < Math.round(seconds * rate); k++) {
    now += 1000 / rate;
    const due = waiting;
    waiting = [];
    for (const call of due) call(now);
  }
}

beforeEach(() => {
  now = 5000;
  waiting = [];
  vi.stubGlobal('requestAnimationFrame', (call: FrameRequestCallback) => waiting.push(call));
  vi.spyOn(performance, 'now').mockImplementation(() => now);
  studio = openStudio();
  studio.edit('Long', (draft) => void (draft.shots['one']!.length = 1000));
  TestBed.inject(Playback);
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});
const play = (playing: boolean) => {
  studio.play(playing);
  TestBed.tick();
};

describe('playing', () => {
  it.each([
    [60, 24, 1],
    [144, 24, 1],
    [60, 30000, 1001],
    [60, 60, 1],
    // A screen slower than the film leaves frames out.
    [10, 25, 1],
  ])('keeps the time on a screen of %i for a film of %i/%i', (rate, numerator, denominator) => {
    studio.edit('Rate', (draft) => void (draft.frameRate = { numerator, denominator }));
    play(true);
    screen(10, rate);
    const expected = 1 + (10 * numerator) / denominator;
    expect(Math.abs(studio.frame() - expected)).toBeLessThanOrEqual(Math.max(1, numerator / denominator / rate) + 1e-6);
  });

  it('begins anew after the last frame, and stays where it is stopped', () => {
    studio.edit('Short', (draft) => void (draft.shots['one']!.length = 48));
    play(true);
    screen(2.5, 60);
    expect(studio.frame()).toBeGreaterThan(10);
    expect(studio.frame()).toBeLessThan(15);
    play(false);
    const { length } = waiting;
    const stopped = studio.frame();
    screen(1, 60);
    expect([studio.frame(), waiting.length, length]).toEqual([stopped, 0, 1]);
  });

  it('goes on from the playhead, not from the time that it stood', () => {
    play(true);
    screen(1, 60);
    play(false);
    screen(1, 60);
    now += 30_000;
    const stopped = studio.frame();
    play(true);
    screen(0.5, 60);
    expect(Math.abs(studio.frame() - stopped - 12)).toBeLessThanOrEqual(1);
  });

  it('stays within what shall be played, backwards too, and twice as fast once more', () => {
    studio.edit('Ends', (draft) => void (draft.shots['one']!.range = [101, 148]));
    studio.goTo(101);
    const playback = TestBed.inject(Playback);
    playback.shuttle(-1);
    TestBed.tick();
    screen(0.5, 60);
    expect(studio.frame()).toBeGreaterThanOrEqual(135);
    expect(studio.frame()).toBeLessThanOrEqual(138);
    playback.shuttle(-1);
    expect(playback.rate()).toBe(-2);
    play(false);
    expect(playback.rate()).toBe(1);
  });

  it('goes on with the next shot where the whole film is played', () => {
    studio.edit('Short', (draft) => void (draft.shots['one']!.length = 24));
    TestBed.inject(Playback).wholeFilm.set(true);
    play(true);
    screen(1.5, 60);
    expect(studio.shotId()).toBe('two');
    expect(Math.abs(studio.frame() - 13)).toBeLessThanOrEqual(1);
    screen(0.75, 60);
    expect(studio.shotId()).toBe('one');
  });
});
