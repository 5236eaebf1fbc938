import { describe, expect, it } from 'vitest';
import {
  newAsset,
  newDocument,
  newFinish,
  newLabel,
  newNode,
  newPictureMap,
  footageKey,
  type FinishMap,
} from '../document';
import { conformFrameRate } from './conformFrameRate';
import { evaluate } from './evaluate';
import { footageFrame, playFootage } from './footage';

type FootageSource = Extract<FinishMap['source'], { kind: 'footage' }>;
const hashes = (count: number) => Array.from({ length: count }, (_, k) => k.toString(16).padStart(64, '0'));
const clip = (count: number, rate: number) => ({
  frames: hashes(count),
  rate,
  size: null,
  brightness: hashes(count).map(() => 0.5),
});
const source: FootageSource = { kind: 'footage', footage: 'clip', start: 1, from: 0, speed: 1, after: 'again' };
const shown = (over: Partial<FootageSource>, frames: number[], rate = 24) =>
  frames.map((frame) => footageFrame({ ...source, ...over }, clip(4, 24), frame, rate));

describe('the frame of footage on a frame of a shot', () => {
  it('begins where it is told, and comes again, runs back, stands still or is gone', () => {
    const frames = [1, 2, 3, 4, 5, 6, 7, 8];
    expect(shown({}, frames)).toEqual([0, 1, 2, 3, 0, 1, 2, 3]);
    expect(shown({ after: 'toAndFro' }, frames)).toEqual([0, 1, 2, 3, 2, 1, 0, 1]);
    expect(shown({ after: 'hold' }, frames)).toEqual([0, 1, 2, 3, 3, 3, 3, 3]);
    expect(shown({ after: 'gone' }, frames)).toEqual([0, 1, 2, 3, null, null, null, null]);
    expect(shown({ start: 3 }, frames)).toEqual([0, 0, 0, 1, 2, 3, 0, 1]);
    expect(shown({ start: 3, after: 'gone' }, [2, 3])).toEqual([null, 0]);
  });

  it('keeps its own time at any frame rate of the film, speed and beginning', () => {
    expect(shown({}, [1, 2, 3, 4, 5], 48)).toEqual([0, 0, 1, 1, 2]);
    expect(shown({}, [1, 2, 3], 12)).toEqual([0, 2, 0]);
    expect(shown({ speed: 0.5 }, [1, 2, 3, 4])).toEqual([0, 0, 1, 1]);
    expect(shown({ speed: -1 }, [1, 2, 3, 4, 5])).toEqual([0, 3, 2, 1, 0]);
    expect(shown({ from: 2 / 24 }, [1, 2, 3])).toEqual([2, 3, 0]);
    // Of 23.976 at 23.976 every frame is shown once, for as long as it lasts.
    const long = clip(1500, 24000 / 1001);
    for (let frame = 1; frame <= 1500; frame++) expect(footageFrame(source, long, frame, 24000 / 1001)).toBe(frame - 1);
  });

  it('stands still while the shutter is open', () => {
    expect(shown({}, [1, 1.25, 1.5, 1.99])).toEqual([0, 0, 0, 0]);
  });

  it('of a single picture is that picture', () => {
    for (const after of ['again', 'toAndFro', 'hold'] as const)
      expect(footageFrame({ ...source, after }, clip(1, 24), 7, 24)).toBe(0);
  });
});

describe('a finish with footage', () => {
  const document = newDocument('Screen');
  const asset = newAsset({ id: 'clip', name: 'Clip', kind: 'footage', hash: hashes(1)[0]!, footage: clip(4, 24) });
  document.assets['clip'] = asset;
  const map: FinishMap = newPictureMap('emissionColor', asset);
  document.finishes['glass'] = newFinish({ id: 'glass', maps: { on: map } });
  document.nodes['screen'] = newNode({ id: 'screen', finish: 'glass', mesh: { asset: hashes(1)[0]!, index: 0 } });
  const [shot] = Object.values(document.shots);

  it('wears one picture on each frame, and is the same finish where that is the same', () => {
    const worn = (frame: number) => evaluate(document, shot!, frame).finishes['glass']!;
    expect(worn(2).maps['on']!.source).toEqual({ kind: 'picture', picture: footageKey('clip', 1) });
    expect(worn(2).maps['on']).toMatchObject({ coding: 'srgb', slot: 'emissionColor' });
    expect(worn(6)).toBe(worn(2));
    expect(worn(3)).not.toBe(worn(2));
    expect(document.finishes['glass']!.maps['on']!.source.kind).toBe('footage');
  });

  it('shows the same at the same time where the film gets another frame rate', () => {
    const other = structuredClone(document);
    other.finishes['glass']!.maps['on']!.source = { ...source, start: 25, after: 'hold' };
    conformFrameRate(other, { numerator: 48, denominator: 1 });
    expect(other.finishes['glass']!.maps['on']!.source).toMatchObject({ start: 49 });
    const worn = evaluate(other, Object.values(other.shots)[0]!, 53).finishes['glass']!;
    expect(worn.maps['on']!.source).toEqual({ kind: 'picture', picture: footageKey('clip', 2) });
  });

  it('has no layer where the footage is gone, or is in the project no more', () => {
    const gone = newFinish({ maps: { on: { ...map, source: { ...source, after: 'gone' } } } });
    expect(playFootage(gone, document, 99).maps).toEqual({});
    expect(playFootage(document.finishes['glass']!, { ...document, assets: {} }, 1).maps).toEqual({});
  });

  it('is played by a label too, over and over', () => {
    const { nodes } = document;
    nodes['screen']!.labels['l'] = newLabel('clip');
    const printed = evaluate(document, shot!, 6).finishes['glass~screen']!;
    const pictures = Object.values(printed.maps).map(({ source }) => source);
    expect(pictures).toEqual(pictures.map(() => ({ kind: 'picture', picture: footageKey('clip', 1) })));
    nodes['screen']!.labels = {};
  });
});
