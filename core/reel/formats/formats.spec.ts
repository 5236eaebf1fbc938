import { describe, expect, it } from 'vitest';
import { deliveredFrames, deliveryFor, deliverySchema, USES } from '../delivery';
import { FILM_FORMATS, FILM_QUALITIES, type FilmFormat, type FilmSettings } from './index';

const settings: FilmSettings = {
  width: 10,
  height: 10,
  rate: { numerator: 24_000, denominator: 1001 },
  quality: 'good',
  colors: 64,
  open: false,
  sound: null,
};
const asked = ({ plan }: FilmFormat, over: Partial<FilmSettings> = {}): string[] =>
  plan.by === 'encoder' ? plan.arguments({ ...settings, ...over }, 'out') : [];
const encoded = Object.values(FILM_FORMATS).filter(({ plan }) => plan.by === 'encoder');

describe('a film', () => {
  it('asks for an exact rate', () => {
    for (const format of encoded) expect(asked(format)).toContain('24000/1001');
  });

  it('keeps more of the picture the finer it is asked for', () => {
    for (const format of encoded.filter(({ hasQuality }) => hasQuality)) {
      const numbers = FILM_QUALITIES.map((quality) => {
        const all = asked(format, { quality });
        return Number(all[1 + Math.max(all.indexOf('-crf'), all.indexOf('-quality'))]);
      });
      expect(new Set(numbers).size).toBe(3);
    }
  });

  it('stays open only where its format can', () => {
    const transparent = Object.values(FILM_FORMATS).filter((format) =>
      asked(format, { open: true }).some((each) => each.includes('yuva')),
    );
    expect(transparent.map(({ title, alpha }) => [title, alpha])).toEqual([
      ['WebM (VP9)', true],
      ['ProRes 4444', true],
      ['Animated WebP', true],
    ]);
  });

  it('has sound where its format can', () => {
    const sound = { inputs: ['-i', 's.flac'], filter: '[1:a]anull[sound]', label: '[sound]' };
    for (const format of encoded) expect(asked(format, { sound }).includes('[sound]')).toBe(format.sounds);
  });
});

describe('a delivery', () => {
  it('for each use is one that can be asked for', () => {
    for (const use of USES) {
      const delivery = deliveryFor(use, { width: 1920, height: 1080 });
      expect(deliverySchema.parse(delivery)).toEqual(delivery);
    }
    expect(
      deliveryFor(
        USES.find(({ id }) => id === 'mail')!,
        { width: 1920, height: 1080 },
      ).size,
    ).toEqual({
      width: 480,
      height: 270,
    });
  });

  it('keeps one of so many frames, and of a poster its own', () => {
    expect(deliveredFrames({ format: 'gif', every: 3, frame: 1 }, 8)).toEqual([1, 4, 7]);
    expect(deliveredFrames({ format: 'poster', every: 1, frame: 99 }, 8)).toEqual([8]);
  });
});
