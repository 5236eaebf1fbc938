import { describe, expect, it } from 'vitest';
import { newTitle, type ProjectDocument } from '../../document';
import { layFilm } from '../film';
import { footageAsset, reelOf, reelTake } from '../testing/reels';
import { readOtio } from './readOtio';
import { writeOtio } from './writeOtio';

const takes = [reelTake()];
function film(): ProjectDocument {
  const document = reelOf([
    { speed: 0.5 },
    { source: { kind: 'footage', asset: 'f' }, from: 3, to: 12, change: 'fade', changeFrames: 4 },
    { source: { kind: 'plain' }, to: 12, change: 'dip' },
  ]);
  document.assets['f'] = footageAsset(20, 24);
  document.reel.titles['t'] = newTitle({ id: 't', words: 'Größe 文' });
  return document;
}
interface Item {
  OTIO_SCHEMA: string;
  source_range: { start_time: { value: number }; duration: { value: number } };
  effects: { time_scalar: number }[];
  metadata: object;
}
const written = (document: ProjectDocument) => writeOtio('Film', layFilm(document, takes), document);
const childrenOf = (text: string) =>
  (JSON.parse(text) as { tracks: { children: { children: Item[] }[] } }).tracks.children[0]!.children;

describe('an edit list', () => {
  it('has the length of the film: overlaps are cut in their middle', () => {
    const document = film();
    const children = childrenOf(written(document));
    expect(children.map(({ OTIO_SCHEMA }) => OTIO_SCHEMA)).toEqual(['Clip.1', 'Transition.1', 'Clip.1', 'Clip.1']);
    const frames = children.filter(({ OTIO_SCHEMA }) => OTIO_SCHEMA === 'Clip.1').map(({ source_range }) => source_range.duration.value); // prettier-ignore
    expect(frames.reduce((sum, each) => sum + each, 0)).toBe(layFilm(document, takes).frames);
    expect(children[0]!.effects[0]!.time_scalar).toBe(0.5);
    expect(children[2]!.source_range.start_time.value).toBe(5);
  });

  it('comes back as it was', () => {
    const document = film();
    const { clips, titles, notes } = readOtio(written(document), 'film.otio', document, takes);
    const bare = (list: object[]) => list.map((clip) => ({ ...clip, id: '' }));
    expect(bare(clips)).toEqual(bare(Object.values(document.reel.clips)));
    expect([titles.map(({ words }) => words), notes]).toEqual([['Größe 文'], []]);
  });

  it('of another program is matched by name, and what is unknown keeps its time', () => {
    const document = film();
    const text = JSON.stringify({
      OTIO_SCHEMA: 'Timeline.1',
      name: 'cut',
      tracks: {
        OTIO_SCHEMA: 'Stack.1',
        children: [
          {
            OTIO_SCHEMA: 'Track.1',
            kind: 'Video',
            children: [
              clip('Turn_take-1.mov', 2, 48, [{ OTIO_SCHEMA: 'LinearTimeWarp.1', time_scalar: -2 }]),
              { OTIO_SCHEMA: 'Transition.1', name: 'x', in_offset: { rate: 24, value: 3 }, out_offset: { rate: 24, value: 3 } },
              clip('file:///somewhere/Clip.mp4', 1, 12),
              clip('stranger.mov', 1, 30),
              { OTIO_SCHEMA: 'Gap.1', name: '', source_range: span(0, 24) },
              { OTIO_SCHEMA: 'Marble.7', name: 'nobody knows' },
            ],
          },
          { OTIO_SCHEMA: 'Track.1', kind: 'Audio', children: [] },
          { OTIO_SCHEMA: 'Track.1', kind: 'Video', children: [] },
        ],
      },
    }); // prettier-ignore
    const { clips, notes } = readOtio(text, 'cut.otio', document, takes);
    expect(clips.map(({ source, from, speed, play, change }) => [source.kind, from, speed, play, change])).toEqual([
      ['take', 2, 2, 'backwards', 'cut'],
      ['footage', 1, 1, 'forwards', 'fade'],
      ['plain', 1, 1, 'forwards', 'cut'],
      ['plain', 1, 1, 'forwards', 'cut'],
    ]);
    expect(clips[2]!.to).toBe(30);
    expect(notes.join(' ')).toMatch(/1 further track.*Sounds.*1 clip is of nothing.*Marble/s);
  });

  it('whose takes are gone brings plain clips, not clips of nothing', () => {
    const document = film();
    const { clips, notes } = readOtio(written(document), 'film.otio', { ...document, assets: {} }, []);
    expect(clips.map(({ source }) => source.kind)).toEqual(['plain', 'plain', 'plain']);
    expect(notes[0]).toMatch(/2 clips are of nothing/);
  });

  it.each([
    ['nothing', '', /no JSON/],
    ['a list', '[]', /no timeline/],
    ['something else', '{"OTIO_SCHEMA":"Clip.1"}', /no timeline/],
    ['no pictures', '{"OTIO_SCHEMA":"Timeline.1","tracks":{"children":[{"a":1},7,null]}}', /no track of pictures/],
  ])('of %s is refused with a sentence', (_, text, why) => {
    expect(() => readOtio(text, 'x.otio', film(), takes)).toThrow(why);
  });

  it('with numbers beyond all measure brings clips that a reel can hold', () => {
    const text = JSON.stringify({
      OTIO_SCHEMA: 'Timeline.1',
      tracks: { children: [{ OTIO_SCHEMA: 'Track.1', children: [clip('Turn', -1e8, 1e8), clip('Turn', 1, 0)] }] },
    });
    const { clips } = readOtio(text, 'x.otio', film(), takes);
    for (const { from, to } of clips) expect([from, to].every((each) => each >= 1 && each <= 100_000)).toBe(true);
  });
});

const span = (start: number, duration: number) => ({
  start_time: { rate: 24, value: start },
  duration: { rate: 24, value: duration },
});
const clip = (address: string, start: number, duration: number, effects: object[] = []) => ({
  OTIO_SCHEMA: 'Clip.2',
  name: '',
  source_range: span(start, duration),
  media_references: { DEFAULT_MEDIA: { OTIO_SCHEMA: 'ExternalReference.1', target_url: address } },
  effects,
});
