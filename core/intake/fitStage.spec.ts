import { describe, expect, it } from 'vitest';
import { checkDocument, newDocument, type ProjectDocument, type Vector3 } from '../document';
import { lampRadiance } from '../optics';
import { fitStage, type Product } from './fitStage';

describe('the stage of a new project', () => {
  it.each([2, 200, 20_000, 743_000])('fits a product of %f mm: seen whole, lit as brightly, on a floor', (longest) => {
    const document = newDocument('Fit');
    const size: Vector3 = [longest, longest * 0.6, longest * 0.4];
    const center: Vector3 = [0, longest * 0.3, 0];
    const [key] = Object.values(structuredClone(document.lights));
    fitStage(document, { center, size });
    expect(() => checkDocument(JSON.parse(JSON.stringify(document)))).not.toThrow();
    const [camera] = Object.values(document.cameras);
    expect(camera!.target).toEqual(center);
    const distance = Math.hypot(...camera!.position.map((v, k) => v - center[k]!));
    const halfHeight = (distance * camera!.sensorWidth) / 2 / camera!.focalLength / (16 / 9);
    // The sphere about it fits the height of the picture, and takes more than half of it.
    expect(Math.hypot(...size) / 2 / halfHeight).toBeCloseTo(0.62, 6);
    expect(camera!.focusDistance).toBeCloseTo(Math.max(1, distance), 6);
    const [lamp] = Object.values(document.lights);
    const factor = longest / 240;
    if (longest < 100_000) expect(lamp!.width / key!.width / factor).toBeCloseTo(1, 1.9);
    // Below the least or above the most size of a lamp, its light follows.
    if (longest < 100_000) expect(lampRadiance(lamp!) / lampRadiance(key!)).toBeCloseTo(1, 1.2);
    expect(document.set.floor.size).toBeGreaterThanOrEqual(Math.min(1e6, Math.max(10, longest * 12)));
  });

  it('leaves what was placed by hand', () => {
    const document = newDocument('Own');
    const [camera] = Object.values(document.cameras);
    camera!.position = [1, 2, 3];
    const [lamp] = Object.values(document.lights);
    lamp!.width = 77;
    document.set.floor.size = 500;
    const before = structuredClone(document);
    fitStage(document, { center: [0, 1000, 0], size: [2000, 2000, 2000] });
    expect([document.cameras, document.lights, document.set.floor]).toEqual([
      before.cameras,
      before.lights,
      before.set.floor,
    ]);
  });

  it('follows its product into another unit and back, with what was changed beside it', () => {
    const document = newDocument('Unit');
    const inMetres: Product = { center: [0, 50, 0], size: [200, 100, 100] };
    const inMillimetres: Product = { center: [0, 0.05, 0], size: [0.2, 0.1, 0.1] };
    fitStage(document, inMetres);
    const [camera] = Object.values(document.cameras);
    camera!.roll = 3;
    const before = structuredClone(document);
    fitStage(document, inMillimetres, inMetres);
    const small = newDocument('Small');
    fitStage(small, inMillimetres);
    const place = (each: ProjectDocument) => Object.values(each.cameras).map(({ position }) => position);
    expect(place(document)).toEqual(place(small));
    expect(document.set).toEqual(small.set);
    fitStage(document, inMetres, inMillimetres);
    expect([document.cameras, document.lights, document.set]).toEqual([before.cameras, before.lights, before.set]);
  });
});
