import { describe, expect, it } from 'vitest';
import { newLight, type SetPiece, type StudioSet } from '../document';
import { composeTransform, newSetPiece, pieceMesh, quaternionAbout, type Transform } from '../geometry';
import {
  box,
  frameState,
  quad,
  renderScene,
  type TestFilm,
  type TestPart,
  type TestScene,
} from './testing/renderState';
import { frameIdentity } from './identity';
import { defaultRenderSettings } from './settings';

const at = (x: number, y: number, z: number): Transform => [1, 0, 0, x, 0, 1, 0, y, 0, 0, 1, z];
/** Upright wall, seen from the front: the ground that catches. */
const ground = (over: Partial<TestPart> = {}): TestPart => ({
  mesh: quad(60),
  finish: { baseColor: [0.5, 0.5, 0.5], baseWeight: 1, specularWeight: 0 },
  ...over,
});
/** Stands before the right half of the ground, out of the camera's sight but in the light's way. */
const black = (over: Partial<TestPart> = {}): TestPart => ({
  mesh: box(14, 40, 2),
  transform: at(14, 0, 8),
  finish: { baseColor: [0, 0, 0], baseWeight: 0, specularWeight: 0 },
  ...over,
});
const catching = { seen: { ofPlate: 'catches' as const } };
const unseen = { seen: { visibleToCamera: false } };
const bright = (set: StudioSet) => {
  set.surroundings.color = [0.8, 0.6, 0.4];
};
const open = (set: StudioSet) => {
  bright(set);
  set.behind.kind = 'transparent';
};
const camera = { focalLength: 60, sensorWidth: 36 };
const channel = ({ film, frame }: TestFilm, x: number, y: number, k: number) =>
  film[(y * frame.width + x) * frame.floats + k]!;
const alpha = (film: TestFilm, x: number, y: number) => channel(film, x, y, 3);
const many = { samples: 512, depth: 2 };
const lamp = () => newLight('panel', { position: [30, 10, 40], target: [0, 0, 0], width: 10, height: 10, power: 3000 });

describe('a part that catches shadows', () => {
  it('shows what is behind as it is where nothing is in the way', async () => {
    const plate = { width: 8, height: 8, channels: 4 as const, pixels: new Uint8Array(8 * 8 * 4).fill(188) };
    const scene = (parts: TestPart[]): TestScene => ({
      parts,
      camera,
      set: (set) => {
        bright(set);
        set.behind.kind = 'plate';
        set.behind.plate = 'p';
      },
      pictures: { p: plate as never },
    });
    const [bare, caught] = [await renderScene(scene([])), await renderScene(scene([ground(catching)]))];
    for (const [x, y] of [
      [2, 2],
      [8, 8],
      [13, 4],
    ] as const)
      for (let k = 0; k < 3; k++) expect(channel(caught, x, y, k)).toBeCloseTo(channel(bare, x, y, k), 5);
  });

  it.each([
    ['surroundings', [] as ReturnType<typeof lamp>[], {}],
    ['a lamp and surroundings', [lamp()], {}],
    ['a lamp and surroundings on a shiny ground', [lamp()], { specularWeight: 1, specularRoughness: 0.3 }],
  ])('is darkened as much as a real ground is by %s', async (_, lights, finish) => {
    const worn = { finish: { ...ground().finish, ...finish } };
    const render = (parts: TestPart[], set = open) => renderScene({ parts, lights, camera, set }, many);
    const caught = await render([ground({ ...worn, ...catching }), black(unseen)]);
    const [shaded, plain] = [await render([ground(worn), black(unseen)]), await render([ground(worn)])];
    for (const x of [2, 6, 9, 11, 13]) {
      const light = (film: TestFilm) =>
        [5, 6, 7, 8, 9, 10].reduce(
          (sum, y) => sum + channel(film, x, y, 0) + channel(film, x, y, 1) + channel(film, x, y, 2),
          0,
        );
      const cover = [5, 6, 7, 8, 9, 10].reduce((sum, y) => sum + alpha(caught, x, y), 0) / 6;
      expect(1 - cover).toBeCloseTo(light(shaded) / light(plain), 1.3);
    }
  });

  it('throws the light of what shines, as a real ground does, over what is behind', async () => {
    const glow = black({ finish: { baseWeight: 0, specularWeight: 0, emissionPower: 400 }, ...unseen });
    const dark = (set: StudioSet) => {
      set.behind.kind = 'transparent';
    };
    const real = await renderScene({ parts: [ground(), glow], camera, set: dark }, many);
    const caught = await renderScene({ parts: [ground(catching), glow], camera, set: dark }, many);
    expect(real.pixel(8, 8)[0]).toBeGreaterThan(0);
    for (const x of [8, 12]) expect(caught.pixel(x, 8)[0] / real.pixel(x, 8)[0]).toBeCloseTo(1, 1.3);
    expect(alpha(caught, 8, 8)).toBe(0);
  });

  it('lets shadows be as strong as one likes', async () => {
    const half = (set: StudioSet) => {
      open(set);
      set.behind.shade = 0.5;
    };
    const parts = [ground(catching), black(unseen)];
    const [whole, weak] = [
      await renderScene({ parts, camera, set: open }, many),
      await renderScene({ parts, camera, set: half }, many),
    ];
    expect(alpha(whole, 13, 8)).toBeGreaterThan(0.2);
    expect(alpha(weak, 13, 8)).toBeCloseTo(alpha(whole, 13, 8) / 2, 2);
  });

  it('takes no shadow from what is of the plate too', async () => {
    const parts = [ground(catching), black({ seen: { ...unseen.seen, ofPlate: 'hides' } })];
    const film = await renderScene({ parts, camera, set: open }, many);
    expect(alpha(film, 13, 8)).toBe(0);
  });

  it('keeps what is behind and the product apart, exactly', async () => {
    const parts = [ground(catching), black({ finish: { baseColor: [0.9, 0.2, 0.1] } })];
    const film = await renderScene({ parts, camera, set: bright }, { ...many, layers: ['behind'] });
    const behind = film.frame.layers['behind']!;
    for (let k = 0; k < 3; k++) {
      expect(channel(film, 2, 8, behind + k)).toBeGreaterThan(0.1);
      expect(channel(film, 12, 8, behind + k)).toBe(0);
    }
    expect(channel(film, 12, 8, behind + 3)).toBe(1);
    expect(alpha(film, 2, 8)).toBe(1);
    expect(channel(film, 2, 8, behind + 3)).toBeLessThan(0.2);
    // Far from the product the picture is what is behind, less its shade.
    const shade = 1 - channel(film, 1, 8, behind + 3);
    expect(channel(film, 1, 8, behind)).toBeCloseTo(0.8 * shade, 2);
  });
});

describe('a part that hides', () => {
  it('shows what is behind in place of itself and of what stands behind it', async () => {
    const product = black({ mesh: box(30, 40, 2), transform: at(20, 0, -10), finish: { baseColor: [1, 0, 0] } });
    const hider = ground({ mesh: box(20, 60, 1), seen: { ofPlate: 'hides' } });
    const film = await renderScene({ parts: [product, hider], camera, set: open }, many);
    expect(alpha(film, 8, 8)).toBe(0);
    expect(film.pixel(8, 8)).toEqual([0, 0, 0]);
    expect(alpha(film, 12, 8)).toBe(1);
  });

  it('stands in the light of the product all the same', async () => {
    const hider = black({ seen: { ...unseen.seen, ofPlate: 'hides' } });
    const [lit, shaded] = [
      await renderScene({ parts: [ground()], camera, set: open }, many),
      await renderScene({ parts: [ground(), hider], camera, set: open }, many),
    ];
    expect(shaded.pixel(13, 8)[0]).toBeLessThan(0.8 * lit.pixel(13, 8)[0]);
  });
});

describe('an opening', () => {
  it('takes the ground away within it, for the eye and for light, and shows its walls', async () => {
    const piece = newSetPiece('opening', 30) as SetPiece & { kind: 'opening' };
    const hatch: SetPiece = { ...piece, width: 24, length: 24, depth: 20 };
    // Its rim lies in the plane of the ground.
    const stand = composeTransform([0, 0, 0], quaternionAbout([1, 0, 0], Math.PI / 2), [1, 1, 1]);
    const state = frameState({
      parts: [
        ground(),
        { mesh: pieceMesh(hatch), finish: { baseColor: [0, 1, 0], specularWeight: 0 }, transform: stand },
      ],
      camera,
      set: bright,
    });
    const scene = { parts: [ground(), { mesh: pieceMesh(hatch) }], state };
    const whole = await renderScene(scene, many);
    expect(whole.pixel(8, 8)[1] / whole.pixel(8, 8)[0]).toBeCloseTo(0.75, 1);
    state.parts[1]!.mesh = { piece: hatch };
    for (const [floor, shape] of [
      ['catches', 'rectangular'],
      ['hides', 'round'],
    ] as const) {
      state.parts[0]!.seen = { ...state.parts[0]!.seen, ofPlate: floor };
      state.parts[1]!.mesh = { piece: { ...hatch, shape } as SetPiece };
      const cut = await renderScene(scene, many);
      expect(cut.pixel(8, 8)[0]).toBeLessThan(1e-6);
      expect(cut.pixel(8, 8)[1]).toBeGreaterThan(0.1);
      // In its corner, a round one leaves the ground.
      expect(cut.pixel(5, 5)[0] > 0.1).toBe(shape === 'round');
    }
  });
});

describe('names of frames', () => {
  const name = (scene: TestScene) => frameIdentity(frameState(scene), defaultRenderSettings(), {});
  it('change with what is of the plate, and stay where nothing is', () => {
    const plain = name({ parts: [ground()] });
    expect(name({ parts: [ground(catching)] })).not.toBe(plain);
    expect(name({ parts: [ground({ seen: { ofPlate: 'hides' } })] })).not.toBe(name({ parts: [ground(catching)] }));
    expect(name({ parts: [ground({ seen: { ofPlate: 'no' } })] })).toBe(plain);
  });
});
