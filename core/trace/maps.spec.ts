import { describe, expect, it } from 'vitest';
import { layersOf, madeMap, newLight, newMap, type Finish, type FinishMap, type MapSlot } from '../document';
import { newSource, type MadeSourceKind, type MapSource } from '../optics';
import { composeTransform, quaternionAbout } from '../geometry';
import { wearingEdges } from './edges';
import { box, quad, renderScene, type TestScene } from './testing/renderState';

// A white card of 40 mm that fills the picture, under light from everywhere: what is seen is its colour.

const white: Partial<Finish> = { baseColor: [1, 1, 1], specularWeight: 0 };
const SIZE = 32;
/** Where the middle of a column of pixels is on the card, mm. */
const along = (pixel: number) => ((pixel + 0.5) / SIZE) * 40 - 20;

function made(slot: MapSlot, kind: MadeSourceKind, source: object, over: Partial<FinishMap> = {}) {
  return madeMap(slot, kind, { source: { ...newSource(kind), ...source } as MapSource, ...over });
}
/** From black at the left edge of the card to white at its right edge. */
const across = (over: Partial<FinishMap> = {}, slot: MapSlot = 'baseColor') =>
  made(slot, 'gradient', {}, { projection: 'planar', size: [40, 40, 40], ...over });
const stack = (...layers: FinishMap[]): Partial<Finish> => ({
  ...white,
  maps: Object.fromEntries(layers.map((layer, order) => [`l${order}`, { ...layer, order }])),
});

function render(finish: Partial<Finish>, scene: Partial<TestScene> = {}, samples = 256) {
  return renderScene(
    {
      camera: { focalLength: 90 },
      set: (set) => (set.surroundings.color = [1, 1, 1]),
      ...scene,
      parts: [{ mesh: quad(40), ...scene.parts?.[0], finish }, ...(scene.parts?.slice(1) ?? [])],
    },
    { width: SIZE, height: SIZE, samples, depth: 2 },
  );
}

describe('a gradient', () => {
  it('goes from dark to bright across its size, wherever it stands and however it is turned', async () => {
    const film = await render(stack(across()));
    for (const x of [4, 16, 28]) expect(film.pixel(x, 16)[0]).toBeCloseTo(0.5 + along(x) / 40, 2);
    const turned = await render(stack(across({ orientation: [0, 0, Math.PI / 2], position: [0, 5, 0] })));
    for (const y of [8, 16, 26])
      expect(turned.pixel(16, y)[1]).toBeCloseTo(Math.min(1, Math.max(0, 0.5 + (-along(y) - 5) / 40)), 1.5);
  });

  it('runs from the middle, and once round', async () => {
    const radial = await render(stack(across({ source: { kind: 'gradient', shape: 'radial' } })));
    expect(radial.pixel(26, 16)[0]).toBeCloseTo(Math.hypot(along(26), along(16)) / 20, 2);
    const round = await render(stack(across({ source: { kind: 'gradient', shape: 'angular' } })));
    expect(round.pixel(26, 6)[0]).toBeCloseTo(0.5 + Math.atan2(-along(6), along(26)) / (2 * Math.PI), 2);
  });

  it.each([
    ['repeat', (u: number) => u - 1],
    ['mirror', (u: number) => 2 - u],
    ['stretch', () => 1],
  ] as const)('beyond its edge comes as it is told: %s', async (tiling, wanted) => {
    const film = await render(stack(across({ size: [20, 20, 20], tiling })));
    expect(film.pixel(28, 16)[0]).toBeCloseTo(wanted(0.5 + along(28) / 20), 2);
  });

  it('beyond its edge is not there where it comes once', async () => {
    const film = await render(stack(across({ size: [20, 20, 20], tiling: 'once', blend: 'over' })));
    expect(film.pixel(2, 16)[0]).toBeCloseTo(1, 2);
    expect(film.pixel(12, 16)[0]).toBeCloseTo(0.5 + along(12) / 20, 2);
  });
});

describe('layers over each other', () => {
  const half = { ...white, baseColor: [0.5, 0.5, 0.5] as [number, number, number] };
  it.each([
    ['multiply', (t: number) => 0.5 * t],
    ['over', (t: number) => t],
    ['add', (t: number) => Math.min(1, 0.5 + t)],
    ['screen', (t: number) => 1 - 0.5 * (1 - t)],
    ['difference', (t: number) => Math.abs(0.5 - t)],
  ] as const)('blend by %s', async (blend, wanted) => {
    const film = await render({ ...half, maps: stack(across({ blend })).maps! });
    for (const x of [3, 12, 27]) expect(film.pixel(x, 16)[0]).toBeCloseTo(wanted(0.5 + along(x) / 40), 2);
    const weak = await render({ ...half, maps: stack(across({ blend, strength: 0.5 })).maps! });
    expect(weak.pixel(12, 16)[0]).toBeCloseTo(
      blend === 'add' ? 0.5 + 0.5 * (0.5 + along(12) / 40) : (0.5 + wanted(0.5 + along(12) / 40)) / 2,
      2,
    );
  });

  it('go from the lowest up, and a mask keeps those below it only where it is bright', async () => {
    const black = across({ blend: 'over', low: 0, high: 0 });
    const film = await render(stack(black, across({ blend: 'mask' })));
    expect(film.pixel(12, 16)[0]).toBeCloseTo(1 - (0.5 + along(12) / 40), 2);
    const other = await render(stack(across({ blend: 'mask' }), black));
    expect(other.pixel(12, 16)[0]).toBeCloseTo(0, 3);
  });

  it('that are switched off, or work only where they are bright, leave the rest', async () => {
    expect((await render(stack(across({ muted: true })))).mean[0]).toBeCloseTo(1, 3);
    const film = await render(stack(across({ blend: 'over', selfMasked: true, low: 0, high: 0 })));
    expect(film.pixel(8, 16)[0]).toBeCloseTo(1 - (0.5 + along(8) / 40), 2);
  });

  it('are found by their order', () => {
    const maps = { a: { ...across(), order: 2 }, b: { ...across(), order: 1 }, c: newMap('normal', 'p') };
    expect(layersOf({ maps }, 'baseColor').map(([id]) => id)).toEqual(['b', 'a']);
  });
});

describe('values', () => {
  it('are read between dark and bright, bent by a curve, inverted, and become what they are told to', async () => {
    const film = await render(stack(across({ dark: 0.25, bright: 0.75, curve: 2, low: 0.2, high: 0.8 })));
    const t = Math.min(1, Math.max(0, along(18) / 40 + 0.25) * 2);
    expect(film.pixel(18, 16)[0]).toBeCloseTo(0.2 + 0.6 * t ** 2, 2);
    expect(film.pixel(2, 16)[0]).toBeCloseTo(0.2, 2);
    const inverted = await render(stack(across({ inverted: true })));
    expect(inverted.pixel(4, 16)[0]).toBeCloseTo(1 - (0.5 + along(4) / 40), 2);
  });

  it('become shades', async () => {
    const shades = [
      { at: 0, color: [1, 0, 0] as [number, number, number] },
      { at: 0.5, color: [0, 1, 0] as [number, number, number] },
      { at: 1, color: [0, 0, 1] as [number, number, number] },
    ];
    const film = await render(stack(across({ shades })));
    const t = 0.5 + along(8) / 40;
    expect(film.pixel(8, 16)[0]).toBeCloseTo(1 - 2 * t, 2);
    expect(film.pixel(8, 16)[1]).toBeCloseTo(2 * t, 2);
    expect(film.pixel(30, 16)[2]).toBeGreaterThan(0.9);
  });

  it('drive single numbers too', async () => {
    const film = await render(
      { ...stack(across({}, 'geometryOpacity')) },
      { set: (set) => (set.surroundings.color = [1, 1, 1]) },
      256,
    );
    // Where it is gone the surroundings are seen, which are as bright.
    expect(film.mean[0]).toBeCloseTo(1, 2);
    const dark = await render({ ...stack(across({ blend: 'over' }, 'baseMetalness')), baseColor: [0, 0, 0], specularWeight: 1, specularRoughness: 1 }, {}, 64); // prettier-ignore
    expect(dark.pixel(28, 16)[0]).toBeLessThan(dark.pixel(3, 16)[0]);
  });
});

describe('what a map is laid on by', () => {
  const moved = composeTransform([7, 0, 0], [0, 0, 0, 1], [1, 1, 1]);

  it('goes with its part, or stands in the world', async () => {
    const own = await render(stack(across()), { parts: [{ mesh: quad(40), transform: moved }] });
    expect(own.pixel(20, 16)[0]).toBeCloseTo(0.5 + (along(20) - 7) / 40, 2);
    const world = await render(stack(across({ within: 'world' })), { parts: [{ mesh: quad(40), transform: moved }] });
    expect(world.pixel(20, 16)[0]).toBeCloseTo(0.5 + along(20) / 40, 2);
  });

  it('may be the camera: what it lays on stays where it is in the picture', async () => {
    const tilted = composeTransform([0, 0, -20], quaternionAbout([0, 1, 0], 0.5), [2, 2, 2]);
    const film = await render(stack(across({ projection: 'camera' })), {
      parts: [{ mesh: quad(40), transform: tilted }],
    });
    for (const x of [10, 16, 22]) expect(film.pixel(x, 16)[0]).toBeCloseTo((x + 0.5) / SIZE, 2);
  });

  it('may be a box: each side from its own side, upright', async () => {
    const film = await render(stack(across({ projection: 'box', softness: 0 })), {
      parts: [{ mesh: box(20, 20, 20) }],
    });
    // Its front is 10 mm nearer to the camera.
    expect(film.pixel(20, 16)[0]).toBeCloseTo(0.5 + (along(20) * 0.9) / 40, 2);
    const top = await render(stack(across({ projection: 'box', softness: 0 })), { parts: [{ mesh: box(20, 20, 20) }], camera: { focalLength: 90, position: [0, 100, 0], target: [0, 0, 0.001] } }); // prettier-ignore
    expect(Math.abs(top.pixel(20, 16)[0] - top.pixel(12, 16)[0])).toBeGreaterThan(0.15);
  });

  it('may be a cylinder: once round it', async () => {
    const film = await render(stack(across({ projection: 'cylindrical' })), { parts: [{ mesh: box(20, 20, 20) }] });
    expect(film.pixel(22, 16)[0]).toBeCloseTo(0.5 + Math.atan2(along(22) * 0.9, 10) / (2 * Math.PI), 2);
  });
});

describe('a map that comes once', () => {
  const sign = { width: 1, height: 1, pixels: Uint8Array.from([255, 0, 0, 255]) };
  const stuck = (over: Partial<FinishMap>) =>
    stack(
      newMap('baseColor', 'sign', {
        blend: 'over',
        projection: 'planar',
        tiling: 'once',
        position: [0, 0, 10],
        size: [10, 10, 4],
        ...over,
      }),
    );
  const seen = (finish: Partial<Finish>, z: number) =>
    render(finish, {
      parts: [{ mesh: box(20, 20, 20) }],
      camera: { focalLength: 90, position: [0, 0, z] },
      pictures: { sign },
    });

  it('is where it was put, as large as it was made', async () => {
    const film = await seen(stuck({}), 100);
    expect(film.pixel(16, 16)[1]).toBeCloseTo(0, 3);
    expect(film.pixel(16, 16)[0]).toBeCloseTo(1, 2);
    // 5 mm from the middle it ends.
    expect(film.pixel(18, 16)[1]).toBeCloseTo(0, 3);
    expect(film.pixel(22, 16)[1]).toBeCloseTo(1, 2);
  });

  it('reaches no deeper than it is told, and is not on sides that look away', async () => {
    expect((await seen(stuck({}), -100)).pixel(16, 16)[1]).toBeCloseTo(1, 2);
    const deep = stuck({ size: [10, 10, 60] });
    expect((await seen(deep, -100)).pixel(16, 16)[1]).toBeCloseTo(0, 2);
    expect((await seen({ ...deep, maps: stuck({ size: [10, 10, 60], sides: 'front' }).maps! }, -100)).pixel(16, 16)[1]).toBeCloseTo(1, 2); // prettier-ignore
    expect((await seen({ ...deep, maps: stuck({ size: [10, 10, 60], sides: 'front' }).maps! }, 100)).pixel(16, 16)[1]).toBeCloseTo(0, 2); // prettier-ignore
  });

  it('is wrapped round a cylinder by lengths along it', async () => {
    // A tenth of the turn of a cylinder of 10 mm is 6.28 mm wide.
    const wide = 2 * Math.PI;
    const film = await seen(stuck({ projection: 'wrapped', position: [0, 0, 0], size: [wide, 100, 1] }), 100);
    const edge = 10 * Math.tan(Math.PI / 10);
    for (const x of [16, 18, 21, 24]) {
      const at = along(x) * 0.9;
      // On a box the radius grows to its corners.
      const inside = Math.atan2(at, 10) * Math.hypot(at, 10) < wide / 2;
      if (Math.abs(at - edge) > 0.8) expect(film.pixel(x, 16)[1] < 0.5).toBe(inside);
    }
  });
});

describe('noise on a surface', () => {
  it.each(['value', 'gradient', 'cells', 'cracks', 'flakes'] as const)(
    'of pattern %s is as bright on average from near and far',
    async (pattern) => {
      // Cuts through some 10,000 cells are as bright as all space but for a hundredth.
      const seen = async (size: number, samples: number) => {
        let sum = 0;
        for (const seed of [1, 2, 3, 4]) {
          const finish = stack(made('baseColor', 'noise', { pattern, scale: 0.8, octaves: 1, seed }));
          const film = await renderScene(
            {
              parts: [{ mesh: quad(44), finish }],
              camera: { focalLength: 90 },
              set: (set) => (set.surroundings.color = [1, 1, 1]),
            },
            { width: size, height: size, samples, depth: 2 },
          );
          sum += film.mean[0];
        }
        return sum;
      };
      const [near, far, farther] = [await seen(160, 4), await seen(64, 16), await seen(8, 64)];
      expect(Math.abs(far / near - 1)).toBeLessThan(0.02);
      expect(Math.abs(farther / near - 1)).toBeLessThan(0.02);
    },
  );

  it('does not sparkle where it is finer than a pixel', async () => {
    const finish = stack(made('baseColor', 'noise', { pattern: 'flakes', scale: 0.2, octaves: 1 }));
    const film = await render(finish, {}, 4);
    // The very picture of a card that is as bright as the grain is on average.
    const plain = await render({ ...white, baseColor: [0.5, 0.5, 0.5] }, {}, 4);
    for (let x = 0; x < SIZE; x++) expect(film.pixel(x, 16)[0]).toBeCloseTo(plain.pixel(x, 16)[0], 5);
  });
});

describe('facing', () => {
  it('is the cosine of the way a surface is looked at', async () => {
    const tilted = composeTransform([0, 0, 0], quaternionAbout([0, 1, 0], 1), [1, 1, 1]);
    const facing = stack(made('baseColor', 'facing', {}));
    const film = await render(facing, { parts: [{ mesh: quad(40), transform: tilted }], camera: { focalLength: 900 } });
    expect(film.pixel(16, 16)[0]).toBeCloseTo(Math.cos(1), 2);
  });

  it('makes a lamp that is brighter from the front shine as its picture tells, sampled or met', async () => {
    const facing = made('emissionColor', 'facing', {});
    const lamp = {
      mesh: quad(10),
      transform: composeTransform([0, 0, 30], quaternionAbout([0, 1, 0], Math.PI), [1, 1, 1]),
    };
    const lit = (maps: Partial<Finish>) =>
      renderScene(
        {
          parts: [
            { mesh: quad(40), finish: { ...white, specularWeight: 0 } },
            { ...lamp, finish: { ...white, emissionPower: 100, emissionVisibleToCamera: false, ...maps } },
          ],
          camera: { position: [0, 90, 60], focalLength: 90 },
        },
        { width: 16, height: 16, samples: 512, depth: 2 },
      );
    const [plain, faced] = [await lit({}), await lit({ maps: { a: facing } })];
    const ratio = faced.mean[0] / plain.mean[0];
    // Between the cosine at the card's corners and 1.
    expect(ratio).toBeLessThan(0.99);
    expect(ratio).toBeGreaterThan(0.6);
  });
});

describe('random by part', () => {
  it('gives every part a value of its own, and each the same again', async () => {
    const finish = stack(made('baseColor', 'partRandom', {}));
    const place = (x: number) => composeTransform([x, 0, 0], [0, 0, 0, 1], [1, 1, 1]);
    const scene = {
      parts: [-12, 0, 12].map((x) => ({ mesh: quad(11), transform: place(x), finish })),
      camera: { focalLength: 90 },
      set: (set: { surroundings: { color: [number, number, number] } }) => void (set.surroundings.color = [1, 1, 1]),
    };
    const film = await renderScene(scene as TestScene, { width: SIZE, height: SIZE, samples: 8, depth: 2 });
    const values = [6, 16, 26].map((x) => film.pixel(x, 16)[0]);
    expect(new Set(values.map((v) => v.toFixed(2))).size).toBe(3);
  });
});

describe('wear', () => {
  it('finds the edges of a box, all of which stand out, and no diagonal of its sides', () => {
    const edges = wearingEdges(box(10, 20, 30));
    expect(edges.length / 7).toBe(12);
    for (let k = 0; k < 12; k++) expect(edges[k * 7 + 6]).toBeGreaterThan(1);
  });

  it('is bright on edges that stand out and gone in the middle of sides', async () => {
    const finish = stack(made('baseColor', 'wear', { width: 4, breakup: 0 }));
    const film = await render(finish, { parts: [{ mesh: box(20, 20, 20) }], camera: { focalLength: 90 } });
    expect(film.pixel(16, 16)[0]).toBeCloseTo(0, 6);
    // The front of the box is 90 mm away.
    for (const x of [22, 23]) expect(film.pixel(x, 16)[0]).toBeCloseTo(1 - (10 - along(x) * 0.9) / 4, 2);
    const hollows = await render(stack(made('baseColor', 'wear', { along: 'hollows', width: 4, breakup: 0 })), {
      parts: [{ mesh: box(20, 20, 20) }],
    });
    expect(hollows.mean[0]).toBeLessThan(film.mean[0]);
  });
});

describe('a relief by height', () => {
  it('that rises evenly shines as a card that is tilted', async () => {
    const sun = newLight('sun', { position: [0, 0, 100], target: [0, 0, 0], power: 1000, angle: 0.001 } as object);
    const scene = { lights: [sun], set: () => undefined };
    const flat = await render(white, scene);
    // 20 mm over 40.
    const relief = { ...white, maps: { a: across({ blend: 'add', low: 0, high: 20 }, 'height') } };
    const film = await render(relief, scene);
    expect(film.pixel(16, 16)[0] / flat.pixel(16, 16)[0]).toBeCloseTo(Math.cos(Math.atan(0.5)), 1.7);
  });

  it('takes and gives no light that was not there', async () => {
    const grain = made('height', 'noise', { scale: 4 }, { blend: 'add', high: 1 });
    const film = await render({ ...white, maps: { a: grain } }, {}, 64);
    expect(film.mean[0]).toBeLessThan(1.001);
    expect(film.mean[0]).toBeGreaterThan(0.9);
  });
});
