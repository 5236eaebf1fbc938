import { strFromU8, unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { newCamera, newDocument, newShot, type Key, type Vector3 } from '../../document';
import { evaluateProperties } from '../../motion';
import { CAPTURE_SHAPES, captureCount, captureStations, type CapturePlan } from '../../scene';
import { packPosesColmap, sampleCamera, writePosesColmap, writePosesJson } from '../index';

const MIDDLE: Vector3 = [12, 80, -30];
const plan = (over: Partial<CapturePlan> = {}): CapturePlan => ({ shape: 'sphere', count: 60, radius: 500, rings: 3, lowest: 0.1, highest: 1, ...over }); // prettier-ignore

describe('cameras about a product', () => {
  it.each(CAPTURE_SHAPES)('stand on a %s at one distance, each at a place of its own', (shape) => {
    const places = captureStations(plan({ shape, count: 61 }), MIDDLE);
    expect(places).toHaveLength(61);
    for (const place of places) expect(Math.hypot(...place.map((v, k) => v - MIDDLE[k]!))).toBeCloseTo(500, 6);
    expect(new Set(places.map((place) => place.map((v) => v.toFixed(3)).join())).size).toBe(61);
    if (shape !== 'sphere') expect(Math.min(...places.map(([, y]) => y))).toBeGreaterThan(MIDDLE[1]);
  });

  it('are even: the nearest of each stands about as far away as that of any other', () => {
    for (const shape of ['sphere', 'dome'] as const) {
      const places = captureStations(plan({ shape, count: 200 }), MIDDLE);
      const nearest = places.map((a, i) => Math.min(...places.flatMap((b, j) => i === j ? [] : [Math.hypot(...a.map((v, k) => v - b[k]!))]))); // prettier-ignore
      expect(Math.min(...nearest) / Math.max(...nearest)).toBeGreaterThan(0.6);
      // As many as fit a sphere evenly.
      const share = Math.sqrt(((shape === 'sphere' ? 4 : 2) * Math.PI * 500 ** 2) / 200);
      expect(nearest.reduce((sum, v) => sum + v, 0) / 200 / share).toBeGreaterThan(0.8);
    }
  });

  it('are more where their pictures share more', () => {
    expect(captureCount('sphere', 0.9)).toBeGreaterThan(3 * captureCount('sphere', 0.8));
    expect(captureCount('dome', 0.8) / captureCount('sphere', 0.8)).toBeCloseTo(0.5, 1);
    expect(captureCount('sphere', 1)).toBeLessThan(40_000);
  });
});

describe('poses in open files', () => {
  // Points of a scene go through the files into the pictures, and must fall where the tracer's camera sees them.
  const size = { width: 1280, height: 720, file: ({ frame }: { frame: number }) => `images/${frame}.png` };
  const document = newDocument('Poses');
  document.cameras = { eye: newCamera({ id: 'eye', focalLength: 42, target: MIDDLE, roll: 0.4 }) };
  const places = captureStations(plan({ shape: 'dome', count: 20 }), MIDDLE);
  const keys = places.map((value, k): Key => ({ frame: k + 1, value, pace: 'held' }));
  const shot = newShot({ id: 's', length: 20, camera: 'eye', tracks: { 'cameras/eye/position': keys } });
  const samples = sampleCamera(document, shot, 'eye');
  const points: Vector3[] = [[0, 0, 0], [100, 40, -20], [-60, 150, 80], [12, 80, -30]]; // prettier-ignore

  /** Where a point is seen, by the document's own camera alone: pixels from the left and from the top. */
  function seen(frame: number, point: Vector3): [number, number] {
    const { position, target, roll, focalLength, sensorWidth } = evaluateProperties(document, shot, frame).cameras[
      'eye'
    ]!;
    const unit = (v: number[]) => v.map((each) => each / Math.hypot(...v));
    const cross = (a: number[], b: number[]) => [a[1]! * b[2]! - a[2]! * b[1]!, a[2]! * b[0]! - a[0]! * b[2]!, a[0]! * b[1]! - a[1]! * b[0]!]; // prettier-ignore
    const dot = (a: number[], b: number[]) => a.reduce((sum, v, k) => sum + v * b[k]!, 0);
    const forward = unit(target.map((v, k) => v - position[k]!));
    const level = unit(cross(forward, [0, 1, 0]));
    const above = cross(level, forward);
    const away = point.map((v, k) => v - position[k]!);
    const [x, y, z] = [dot(away, level), dot(away, above), dot(away, forward)];
    // The camera leans over to the right: the world leans to the left.
    const [c, s] = [Math.cos(roll), Math.sin(roll)];
    const scale = (size.width * focalLength) / sensorWidth / z;
    return [size.width / 2 + (x * c - y * s) * scale, size.height / 2 - (x * s + y * c) * scale];
  }

  it('put every point of the scene where the camera sees it: transforms as JSON', () => {
    const { frames, fl_x: focal, cx, cy } = JSON.parse(writePosesJson(samples, size)) as { fl_x: number; cx: number; cy: number; frames: { file_path: string; transform_matrix: number[][] }[] }; // prettier-ignore
    expect(frames.map(({ file_path }) => file_path).slice(0, 2)).toEqual(['images/1.png', 'images/2.png']);
    frames.forEach(({ transform_matrix: m }, k) => {
      for (const point of points) {
        const away = point.map((v, row) => v / 1000 - m[row]![3]!);
        const [x, y, z] = [0, 1, 2].map((column) => away.reduce((sum, v, row) => sum + v * m[row]![column]!, 0)) as Vector3; // prettier-ignore
        const [u, v] = seen(k + 1, point);
        expect(cx + (focal * x) / -z).toBeCloseTo(u, 3);
        expect(cy - (focal * y) / -z).toBeCloseTo(v, 3);
      }
    });
  });

  it('put every point of the scene where the camera sees it: COLMAP', () => {
    const files = writePosesColmap(samples, size);
    const lens = files['cameras.txt'].trim().split('\n').at(-1)!.split(' ');
    expect(lens.slice(0, 4)).toEqual(['1', 'PINHOLE', '1280', '720']);
    const [focal, , cx, cy] = lens.slice(4).map(Number) as [number, number, number, number];
    const lines = files['images.txt'].split('\n').slice(1);
    expect(lines.filter((_, k) => k % 2 === 1).every((line) => line === '')).toBe(true);
    samples.forEach((_, k) => {
      const cells = lines[k * 2]!.split(' ');
      expect([cells[0], cells[9]]).toEqual([String(k + 1), `images/${k + 1}.png`]);
      const [w, x, y, z, ...shift] = cells.slice(1, 8).map(Number) as [number, number, number, number, ...number[]];
      // A rotation matrix of a quaternion, as the format's own description has it.
      const turn = [
        [1 - 2 * (y * y + z * z), 2 * (x * y - w * z), 2 * (x * z + w * y)],
        [2 * (x * y + w * z), 1 - 2 * (x * x + z * z), 2 * (y * z - w * x)],
        [2 * (x * z - w * y), 2 * (y * z + w * x), 1 - 2 * (x * x + y * y)],
      ];
      for (const point of points) {
        const [px, py, pz] = turn.map((row, i) => row.reduce((sum, v, j) => sum + (v * point[j]!) / 1000, shift[i]!)) as Vector3; // prettier-ignore
        const [u, v] = seen(k + 1, point);
        expect(cx + (focal * px) / pz).toBeCloseTo(u, 3);
        expect(cy + (focal * py) / pz).toBeCloseTo(v, 3);
      }
    });
  });

  it('is packed as the format has its files', () => {
    const files = unzipSync(packPosesColmap(samples, size));
    expect(Object.keys(files)).toEqual(['sparse/0/cameras.txt', 'sparse/0/images.txt', 'sparse/0/points3D.txt']);
    expect(strFromU8(files['sparse/0/images.txt']!)).toBe(writePosesColmap(samples, size)['images.txt']);
  });

  it('has a lens for each focal length', () => {
    const zoomed = samples.map((sample, k) => ({ ...sample, focalLength: k < 10 ? 42 : 85 }));
    expect(writePosesColmap(zoomed, size)['cameras.txt'].trim().split('\n')).toHaveLength(3);
    const { frames } = JSON.parse(writePosesJson(zoomed, size)) as { frames: { fl_x: number }[] };
    expect(frames[19]!.fl_x / frames[0]!.fl_x).toBeCloseTo(85 / 42, 6);
  });
});
