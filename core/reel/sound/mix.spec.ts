import { describe, expect, it } from 'vitest';
import { newAsset, newSound } from '../../document';
import { reelOf } from '../testing/reels';
import { gainAt, heardSounds, mixArguments } from './mix';

const hash = 'b'.repeat(64);
function withSounds(...over: Partial<ReturnType<typeof newSound>>[]) {
  const document = reelOf([]);
  document.assets['song'] = newAsset({ id: 'song', name: 'Song', kind: 'sound', hash, sound: { seconds: 10, loudness: hash } });
  over.forEach((each, k) => {
    document.reel.sounds[`s${k}`] = newSound({ id: `s${k}`, name: 'Song', asset: 'song', order: k, ...each });
  });
  return document;
} // prettier-ignore

describe('sounds', () => {
  it('begin on their frame and end with the film, their file, or when it is said', () => {
    const sounds = heardSounds(withSounds({ start: 25 }, { from: 8 }, { lasts: 2 }), 24, 6);
    expect(sounds.map(({ at, from, lasts }) => [at, from, lasts])).toEqual([
      [1, 0, 5],
      [0, 8, 2],
      [0, 0, 2],
    ]);
  });

  it('that are muted, gone or beyond the end are not heard', () => {
    const document = withSounds({ muted: true }, { asset: 'gone' }, { start: 500 }, { from: 10 });
    expect(heardSounds(document, 24, 6)).toEqual([]);
    expect(mixArguments([], [], 6)).toBeNull();
  });

  it('come up and go down in time', () => {
    const [sound] = heardSounds(withSounds({ fadeIn: 2, fadeOut: 1, level: -6.0206 }), 24, 4);
    const gains = [-1, 0, 1, 2, 3, 3.5, 4].map((time) => gainAt(sound!, time));
    expect(gains.map((gain) => Number(gain.toFixed(3)))).toEqual([0, 0, 0.25, 0.5, 0.5, 0.25, 0]);
  });

  it('are mixed into one that has the length of the film', () => {
    const sounds = heardSounds(withSounds({}, { start: 25, fadeOut: 1 }), 24, 4);
    const mixed = mixArguments(sounds, ['a.flac', 'b.flac'], 4)!;
    expect(mixed.inputs).toEqual(['-i', 'a.flac', '-i', 'b.flac']);
    expect(mixed.filter).toContain('[2:a]');
    expect(mixed.filter).toContain('adelay=1000:all=1');
    expect(mixed.filter).toContain('apad=whole_dur=4');
  });
});
