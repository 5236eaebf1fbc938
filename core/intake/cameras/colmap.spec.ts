import { describe, expect, it } from 'vitest';
import { quaternionAbout, multiplyQuaternions, rotateVector, type Quaternion, type Vector } from '../../geometry';
import type { CameraSample } from './cameraSamples';
import { readColmap } from './colmap';
import { writePosesColmap } from './poses';

/** A camera that walks round something, held level, tipped down. */
const samples = Array.from({ length: 6 }, (_, k): CameraSample => {
  const around = quaternionAbout([0, 1, 0], 0.3 * k);
  return {
    frame: k + 1,
    position: [...rotateVector([0, 600, 1500], around)] as [number, number, number],
    turn: multiplyQuaternions(around, quaternionAbout([1, 0, 0], -0.4)),
    focalLength: 35,
    sensorWidth: 36,
    focusDistance: 1000,
    fStop: 0,
  };
});
const size = { width: 1280, height: 720, file: ({ frame }: CameraSample) => `images/frame_${frame + 11}.png` };
const written = writePosesColmap(samples, size);
const files = { cameras: written['cameras.txt'], images: written['images.txt'] };
const ways = (turn: Quaternion): Vector[] => [rotateVector([1, 0, 0], turn), rotateVector([0, 1, 0], turn)];
const same = (found: readonly CameraSample[], real: readonly CameraSample[]) =>
  found.forEach((sample, k) => {
    sample.position.forEach((v, axis) => expect(v).toBeCloseTo(real[k]!.position[axis]!, 2));
    ways(sample.turn).forEach((way, n) => way.forEach((v, axis) => expect(v).toBeCloseTo(ways(real[k]!.turn)[n]![axis]!, 5))); // prettier-ignore
  });

describe('cameras of COLMAP', () => {
  it('come back as they went out, by the numbers of their pictures', () => {
    const found = readColmap(files, 1000);
    same(found, samples);
    expect(found.map(({ frame }) => frame)).toEqual([1, 2, 3, 4, 5, 6]);
    expect(found[0]!.focalLength).toBeCloseTo(35, 6);
  });

  it('come in the size that is asked for, and in the order of their names where these have no numbers', () => {
    const lines = files.images.replace(/frame_(\d+)/g, (_, n) => `view ${'abcdefghijklmnopqrs'[Number(n) - 1]}`);
    const found = readColmap({ ...files, images: lines }, 2000);
    expect(found.map(({ frame }) => frame)).toEqual([1, 2, 3, 4, 5, 6]);
    expect(found[2]!.position[1]).toBeCloseTo(1200, 3);
  });

  it('stand upright, however their world was turned', () => {
    const tipped = quaternionAbout([0.6, 0, 0.8], 1.1);
    const leaning = samples.map((sample) => ({
      ...sample,
      position: [...rotateVector(sample.position, tipped)] as [number, number, number],
      turn: multiplyQuaternions(tipped, sample.turn),
    }));
    const away = writePosesColmap(leaning, size);
    const found = readColmap({ cameras: away['cameras.txt'], images: away['images.txt'] }, 1000);
    // Which way they look about the vertical is free.
    found.forEach(({ position, turn }, k) => {
      expect(position[1]).toBeCloseTo(600, 2);
      expect(rotateVector([1, 0, 0], turn)[1]).toBeCloseTo(0, 5);
      expect(rotateVector([0, 1, 0], turn)[1]).toBeCloseTo(rotateVector([0, 1, 0], samples[k]!.turn)[1], 5);
    });
  });

  it('that all look the same way are level too', () => {
    const straight = samples.map((sample, k) => ({ ...sample, turn: samples[0]!.turn, position: [100 * k, 0, 0] as [number, number, number] })); // prettier-ignore
    const away = writePosesColmap(straight, size);
    const found = readColmap({ cameras: away['cameras.txt'], images: away['images.txt'] }, 1000);
    for (const { turn } of found) expect(rotateVector([1, 0, 0], turn)[1]).toBeCloseTo(0, 5);
  });

  it.each([
    ['no camera', { cameras: '# nothing\n' }, 'holds no camera'],
    ['a fisheye', { cameras: '1 OPENCV_FISHEYE 1280 720 900 900 640 360 0 0 0 0' }, 'Undistort'],
    ['a camera without size', { cameras: '1 PINHOLE 0 0 900 900 0 0' }, 'no size'],
    ['another model', { cameras: '7 PINHOLE 1280 720 900 900 640 360' }, 'does not have'],
    ['no picture', { images: '# none\n' }, 'holds no picture'],
    ['a broken line', { images: '1 one 0 0 0 0 0 0 1 a.png\n\n' }, 'Line 1'],
    ['a turn of nothing', { images: '1 0 0 0 0 0 0 0 1 a.png\n\n' }, 'Line 1'],
  ])('with %s are refused with a sentence', (_, over, says) => {
    expect(() => readColmap({ ...files, ...over }, 1000)).toThrow(says);
  });
});
