import { MOST_LINKS } from '@zippy/kernel/layout';
import { describe, expect, it } from 'vitest';
import { newDocument, newLight, newNode, newShot, type Light } from '../document';
import { composeTransform } from '../geometry';
import { evaluate, type PartState } from '../motion';
import { lightLinks } from './links';
import { quad, renderScene, type TestScene } from './testing/renderState';

const white = { baseColor: [1, 1, 1] as [number, number, number], specularWeight: 0 };
const at = (x: number, y: number, z: number) => composeTransform([x, y, z], [0, 0, 0, 1], [1, 1, 1]);
const lamp = (over: Partial<Light>) =>
  newLight('disc', { position: [0, 0, 60], target: [0, 0, 0], radius: 30, unit: 'nit', power: 6830, ...over });
/** Two cards side by side before a pinhole: mean of the left one and of the right one. */
async function cards(lights: Light[], over: Partial<TestScene> = {}) {
  const parts = [-20, 20].map((x) => ({ mesh: quad(16), finish: white, transform: at(x, 0, 0) }));
  const film = await renderScene({ parts, lights, camera: { focalLength: 40 }, ...over }, { width: 32, height: 32, samples: 64, depth: 2 }); // prettier-ignore
  const mean = (x: number) => (film.pixel(x, 15)[0]! + film.pixel(x, 16)[0]! + film.pixel(x + 1, 16)[0]!) / 3;
  return { left: mean(9), right: mean(22), film };
}

describe('a lamp that lights some parts alone', () => {
  it('lights those, as a lamp that lights all does', async () => {
    const all = await cards([lamp({})]);
    const only = await cards([lamp({ reaches: 'only', parts: ['n0'] })]);
    expect(all.left).toBeGreaterThan(0.2);
    expect(only.left).toBeCloseTo(all.left, 1.5);
    expect(only.right).toBe(0);
    const except = await cards([lamp({ reaches: 'except', parts: ['n0'] })]);
    expect(except.left).toBe(0);
    expect(except.right).toBeCloseTo(all.right, 1.5);
  });

  it('adds to what others light, and leaves them as they are', async () => {
    const plain = await cards([lamp({})]);
    const both = await cards([lamp({}), lamp({ reaches: 'only', parts: ['n1'] })]);
    expect(both.left / plain.left).toBeCloseTo(1, 1);
    expect(both.right / plain.right).toBeCloseTo(2, 1);
  });

  it('is not met by chance either, in a mirror or on a rough part', async () => {
    const mirror = { baseColor: [1, 1, 1] as [number, number, number], baseMetalness: 1, specularRoughness: 0 };
    const parts = [{ mesh: quad(60), finish: mirror }];
    const seen = (over: Partial<Light>) => renderScene({ parts, lights: [lamp({ position: [0, 0, 160], ...over })] }, { width: 8, height: 8, samples: 16, depth: 2 }); // prettier-ignore
    expect((await seen({})).pixel(4, 4)[0]).toBeGreaterThan(9);
    expect((await seen({ reaches: 'except', parts: ['n0'] })).pixel(4, 4)[0]).toBe(0);
    const byChance = (u32: Uint32Array, scene: number) => void (u32[(scene + 428) / 4] = 1);
    const only = await cards([lamp({ reaches: 'only', parts: ['n0'] })], { poke: byChance });
    expect(only.left).toBeGreaterThan(0.05);
    expect(only.right).toBe(0);
  });

  it('lights what is behind glass, whatever the glass is lit by', async () => {
    const glass = { baseWeight: 0, transmissionWeight: 1, specularRoughness: 0, specularIor: 1.0001, thinWalled: true };
    const parts = [
      { mesh: quad(16), finish: white },
      { mesh: quad(90), finish: glass, transform: at(0, 0, 20) },
    ];
    const lit = (over: Partial<Light>) => renderScene({ parts, lights: [lamp(over)] }, { width: 8, height: 8, samples: 64, depth: 4 }); // prettier-ignore
    const all = (await lit({})).pixel(4, 4)[0]!;
    expect((await lit({ reaches: 'only', parts: ['n0'] })).pixel(4, 4)[0]! / all).toBeCloseTo(1, 1);
  });

  it('shares one bit with those of the same parts; beyond the most, lamps light all', () => {
    const lights = Array.from({ length: 40 }, (_, k) => lamp({ id: `l${k}`, reaches: 'only', parts: [`n${k % 30}`] }));
    const links = lightLinks(lights);
    expect(links.of(lights[0]!)).toBe(links.of(lights[30]!));
    expect(new Set(lights.map(links.of)).size).toBe(MOST_LINKS + 1);
    expect(links.of(lights[29]!)).toBe(0);
    expect(links.on({ node: 'n3' } as PartState)).toBe(links.of(lights[3]!));
    expect(links.on(null)).toBe(0);
  });

  it('names groups with all that is in them', () => {
    const document = structuredClone(newDocument('Links'));
    document.nodes = { g: newNode({ id: 'g' }), a: newNode({ id: 'a', parent: 'g' }), b: newNode({ id: 'b' }) };
    document.lights = { l: newLight('bulb', { id: 'l', reaches: 'only', parts: ['g'] }) };
    expect(evaluate(document, newShot({ id: 's' }), 1).lights[0]!.parts.sort()).toEqual(['a', 'g']);
  });
});

describe('a part that only some rays see', () => {
  const sky = (set: { surroundings: { color: [number, number, number] } }) => void (set.surroundings.color = [0.5, 0.5, 0.5]); // prettier-ignore

  it("is not in the camera's picture, but throws its shadow", async () => {
    const hidden = { mesh: quad(10), finish: white, transform: at(0, 0, 30) };
    const render = (seen: Partial<PartState['seen']>) => renderScene({ parts: [{ mesh: quad(60), finish: white }, { ...hidden, seen }], lights: [newLight('sun', { position: [0, 0, 100], target: [0, 0, 0], power: 3000 })] }, { width: 32, height: 32, samples: 16, depth: 2 }); // prettier-ignore
    const there = await render({});
    const gone = await render({ visibleToCamera: false });
    // Seen, it is lit; through it, the shadow behind is.
    expect(there.pixel(16, 16)[0]).toBeGreaterThan(0.5);
    expect(gone.pixel(16, 16)[0]).toBeLessThan(0.02);
    const light = await render({ castsShadows: false });
    expect(light.pixel(16, 16)[0]).toBeGreaterThan(0.5);
    const clear = await render({ visibleToCamera: false, castsShadows: false });
    const bare = await render({ visibleToCamera: false, castsShadows: false, visibleInMirrors: false });
    expect(clear.pixel(16, 16)[0]! / there.pixel(16, 16)[0]!).toBeCloseTo(1, 1);
    expect(bare.pixel(16, 16)[0]! / there.pixel(16, 16)[0]!).toBeCloseTo(1, 1);
  });

  it('that throws no shadow lets lamps through wholly, by samples and by chance together', async () => {
    const render = (parts: TestScene['parts']) => renderScene({ parts: [{ mesh: quad(60), finish: { ...white, specularWeight: 1, specularRoughness: 0.2 } }, ...parts!], lights: [lamp({ position: [0, 0, 70] })] }, { width: 16, height: 16, samples: 256, depth: 2 }); // prettier-ignore
    const bare = await render([]);
    // Black, so that it adds nothing of its own; where rays meet it instead of the lamp, samples must count the whole.
    const black = { baseColor: [0, 0, 0] as [number, number, number], specularWeight: 0 };
    const veiled = await render([{ mesh: quad(30), finish: black, transform: at(0, 0, 40), seen: { visibleToCamera: false, castsShadows: false } }]); // prettier-ignore
    expect(veiled.pixel(8, 8)[0]! / bare.pixel(8, 8)[0]!).toBeCloseTo(1, 1);
  });

  it('is missing in mirrors alone, and never half in glass', async () => {
    const mirror = { baseColor: [1, 1, 1] as [number, number, number], baseMetalness: 1, specularRoughness: 0 };
    const behind = { mesh: quad(400), finish: { ...white, emissionPower: 683, emissionUnit: 'nit' as const, emissionTwoSided: true }, transform: at(0, 0, 200) }; // prettier-ignore
    const render = (seen: Partial<PartState['seen']>) => renderScene({ parts: [{ mesh: quad(60), finish: mirror }, { ...behind, seen }] }, { width: 8, height: 8, samples: 8, depth: 2 }); // prettier-ignore
    expect((await render({})).pixel(4, 4)[0]).toBeGreaterThan(0.5);
    expect((await render({ visibleInMirrors: false })).pixel(4, 4)[0]).toBeLessThan(0.001);
    // What is rough is lit by it all the same.
    const lit = (seen: Partial<PartState['seen']>) => renderScene({ parts: [{ mesh: quad(60), finish: white }, { ...behind, seen }] }, { width: 8, height: 8, samples: 64, depth: 2 }); // prettier-ignore
    const [all, some] = [await lit({}), await lit({ visibleInMirrors: false })];
    expect(some.pixel(4, 4)[0]! / all.pixel(4, 4)[0]!).toBeCloseTo(1, 1);
    // A frosted solid that mirrors do not see keeps its own inside.
    const frost = { baseWeight: 0, transmissionWeight: 1, specularRoughness: 0.5, transmissionColor: [0.2, 0.9, 0.2] as [number, number, number], transmissionDepth: 5 }; // prettier-ignore
    const { box } = await import('./testing/renderState');
    const solid = (seen: Partial<PartState['seen']>) => renderScene({ parts: [{ mesh: box(40, 40, 40), finish: frost, seen }], set: sky as never }, { width: 16, height: 16, samples: 64, depth: 12 }); // prettier-ignore
    const [plain, unseen] = [await solid({}), await solid({ visibleInMirrors: false })];
    for (const k of [0, 1, 2]) expect(unseen.pixel(8, 8)[k]! / plain.pixel(8, 8)[k]!).toBeCloseTo(1, 0.5);
  });
});
