import { newCamera, newDocument, newLight, newNode, newShot, type Finish } from '../document';
import { FILM_FLOATS } from '@zippy/kernel/layout';
import { describe, expect, it } from 'vitest';
import { composeTransform, quaternionAbout, type Transform } from '../geometry';
import { evaluate, exposeFrame, type FrameState, newMove } from '../motion';
import { frameIdentity, defaultRenderSettings } from './index';
import { box, frameState, quad, renderScene, sphere, type TestFilm, type TestScene } from './testing/renderState';

// Tried by breaking the kernel on purpose: an aperture stretched beyond its circle, places of a moving part kept from one path to
// the next, and a shutter that is open for half of the slice each fail a test here.

const glowing: Partial<Finish> = { baseColor: [0, 0, 0], specularWeight: 0, emissionUnit: 'nit', emissionPower: 683 };
const covered = ({ film }: TestFilm) => {
  let sum = 0;
  for (let at = 0; at < film.length; at += FILM_FLOATS) sum += film[at + 12]!;
  return sum;
};
/** Middle of brightness of a row's pixels, and how many of them are lit at all. */
function rowOf(film: TestFilm, y: number): { middle: number; lit: number; level: number } {
  const light = Array.from({ length: film.width }, (_, x) => film.pixel(x, y)[1]);
  const sum = light.reduce((total, v) => total + v, 0);
  return {
    middle: light.reduce((total, v, x) => total + v * (x + 0.5), 0) / sum,
    lit: light.filter((v) => v > 0.01).length,
    level: Math.max(...light),
  };
}

describe('the aperture', () => {
  it('of n blades spreads a point over their polygon', async () => {
    const dot = { mesh: sphere(3, 12), finish: glowing };
    const camera = {
      position: [0, 0, 1000] as [number, number, number],
      focalLength: 50,
      fStop: 1,
      focusDistance: 500,
    };
    const area = async (blades: number) =>
      [
        ...(
          await renderScene(
            { parts: [dot], camera: { ...camera, blades } },
            { width: 128, height: 128, samples: 192, depth: 1 },
          )
        ).film,
      ]
        .filter((_, k) => k % FILM_FLOATS === 7)
        .filter((depth) => depth > 0).length;
    const round = await area(0);
    for (const blades of [4, 6, 8]) {
      const share = ((blades / 2) * Math.sin((2 * Math.PI) / blades)) / Math.PI;
      const found = (await area(blades)) / round;
      expect(found / share).toBeGreaterThan(0.97);
      // The dot's own size makes every shape a little larger, and never as large as the round one.
      expect(found / share).toBeLessThan(1.3);
      expect(found).toBeLessThan(0.98);
    }
  });
});

describe('a parallel projection', () => {
  it('shows sizes in millimetres, whatever the distance', async () => {
    const at = (z: number) =>
      renderScene(
        {
          parts: [{ mesh: quad(30), finish: glowing, transform: composeTransform([0, 0, z], [0, 0, 0, 1], [1, 1, 1]) }],
          camera: { projection: 'orthographic', orthographicWidth: 60 },
        },
        { width: 40, height: 40, samples: 64 },
      );
    expect(covered(await at(0))).toBeCloseTo(400, -1);
    expect(covered(await at(-800))).toBeCloseTo(400, -1);
  });
});

const moving = (scene: TestScene, from: Transform, to: Transform, slices = 1): FrameState => {
  const state = frameState(scene);
  const at = (time: number): FrameState => {
    const part = { ...state.parts[0]!, transform: from.map((v, k) => v + (to[k]! - v) * time) as unknown as Transform };
    return { ...state, parts: [part, ...state.parts.slice(1)] };
  };
  state.shutter = Array.from({ length: slices }, (_, k) => ({
    from: at(k / slices),
    middle: at((k + 0.5) / slices),
    to: at((k + 1) / slices),
  }));
  return state;
};
const shifted = (x: number): Transform => composeTransform([x, 0, 0], [0, 0, 0, 1], [1, 1, 1]);

describe('motion blur', () => {
  // 100 mm away, a picture of 36 mm at 36 mm focal length: 64 pixels are 100 mm.
  const settings = { width: 64, height: 16, samples: 256 };
  const card: TestScene = { parts: [{ mesh: quad(10), finish: glowing }], camera: { focalLength: 36 } };

  it.each([1, 4])(
    'of a part is as long as its way while the shutter is open, and as faint, in %i slices',
    async (slices) => {
      const film = await renderScene({ ...card, state: moving(card, shifted(-15), shifted(15), slices) }, settings);
      const { middle, lit, level } = rowOf(film, 8);
      const pixel = 100 / 64;
      expect(middle).toBeCloseTo(32, 0);
      expect(Math.abs(lit - 40 / pixel)).toBeLessThan(3);
      // In the middle the card is there for a third of the time.
      expect(level).toBeCloseTo(1 / 3, 1);
    },
  );

  it('of a turning part follows the arc: it sweeps a ring, not its chord', async () => {
    const scene: TestScene = {
      parts: [{ mesh: box(4, 4, 4), finish: glowing }],
      camera: { focalLength: 36 },
    };
    const state = frameState(scene);
    const at = (angle: number): FrameState => ({
      ...state,
      parts: [
        {
          ...state.parts[0]!,
          transform: composeTransform(
            [30 * Math.cos(angle), 30 * Math.sin(angle), 0],
            quaternionAbout([0, 0, 1], angle),
            [1, 1, 1],
          ),
        },
      ],
    });
    // One slice cannot bend a way; the shutter cuts it into as many as it takes.
    const document = structuredClone(newDocument('Spin'));
    document.nodes['arm'] = newNode({ id: 'arm' });
    document.nodes['n0'] = newNode({
      id: 'n0',
      parent: 'arm',
      kind: 'part',
      mesh: { asset: 'a'.repeat(64), index: 0 },
      position: [30, 0, 0],
    });
    const shot = newShot({
      moves: { m: { ...newMove('turntable', 'nodes/arm', 1, 4), id: 'm', axis: [0, 0, 1] } as never },
      camera: Object.keys(document.cameras)[0]!,
    });
    Object.values(document.cameras)[0]!.shutterAngle = 2 * Math.PI;
    const exposed = exposeFrame(document, shot, 1);
    state.shutter = exposed.shutter!.map((slice) => ({
      from: { ...state, parts: [{ ...slice.from.parts[0]!, node: 'n0', finish: 'f0', mesh: state.parts[0]!.mesh }] },
      middle: state,
      to: { ...state, parts: [{ ...slice.to.parts[0]!, node: 'n0', finish: 'f0', mesh: state.parts[0]!.mesh }] },
    }));
    expect(state.shutter.length).toBeGreaterThan(8);
    const film = await renderScene(
      { ...scene, state: { ...state, parts: at(0).parts } },
      { width: 64, height: 64, samples: 256 },
    );
    const centre = 32;
    let outside = 0;
    let inside = 0;
    for (let y = 0; y < 64; y++) {
      for (let x = 0; x < 64; x++) {
        const radius = Math.hypot(x + 0.5 - centre, y + 0.5 - centre) * (100 / 64);
        const light = film.pixel(x, y)[1];
        if (Math.abs(radius - 30) > 6) outside += light;
        else inside += light;
      }
    }
    expect(inside).toBeGreaterThan(1);
    expect(outside).toBe(0);
  });

  it('of the camera is that of the world the other way round', async () => {
    const state = frameState(card);
    const aside = (x: number): FrameState => ({
      ...state,
      camera: newCamera({ position: [x, 0, 100], target: [x, 0, 0], focalLength: 36, fStop: 0 }),
    });
    const byCamera = await renderScene(
      { ...card, state: { ...state, shutter: [{ from: aside(15), middle: aside(0), to: aside(-15) }] } },
      settings,
    );
    const byPart = await renderScene({ ...card, state: moving(card, shifted(-15), shifted(15)) }, settings);
    for (let x = 0; x < 64; x++) expect(Math.abs(byCamera.pixel(x, 8)[1] - byPart.pixel(x, 8)[1])).toBeLessThan(0.03);
  });

  it('of lights and numbers is their mean', async () => {
    const wall = { mesh: quad(400), finish: { baseColor: [1, 1, 1], specularWeight: 0 } as Partial<Finish> };
    const light = newLight('bulb', { id: 'l', position: [0, 0, 80], power: 100 });
    const scene: TestScene = { parts: [wall], lights: [light], camera: { position: [0, 0, 60] } };
    const state = frameState(scene);
    const at = (power: number): FrameState => ({ ...state, lights: [{ ...light, power }] });
    state.shutter = [0, 1, 2, 3].map((k) => ({ from: at(0), middle: at(k * 100), to: at(0) }));
    const mixed = await renderScene({ ...scene, state }, { samples: 64, depth: 1 });
    const steady = await renderScene({ ...scene, state: at(150) }, { samples: 64, depth: 1 });
    expect(mixed.mean[1] / steady.mean[1]).toBeCloseTo(1, 1.9);
  });

  it('is the same bytes on any number of workers and in any passes', async () => {
    const state = moving(card, shifted(-15), shifted(15), 2);
    const one = await renderScene({ ...card, state }, { ...settings, height: 48, samples: 8 });
    const three = await renderScene({ ...card, state }, { ...settings, height: 48, samples: 8 }, 3, [3, 8]);
    expect(Buffer.from(one.film.buffer).equals(Buffer.from(three.film.buffer))).toBe(true);
  });
});

describe('roll', () => {
  it('turns the camera clockwise as its operator sees it: what is to the right comes up', async () => {
    const ball = {
      mesh: sphere(4, 12),
      finish: glowing,
      transform: composeTransform([25, 0, 0], [0, 0, 0, 1], [1, 1, 1]),
    };
    const film = await renderScene(
      { parts: [ball], camera: { roll: Math.PI / 4 } },
      { width: 64, height: 64, samples: 8 },
    );
    let [x, y, light] = [0, 0, 0];
    for (let row = 0; row < 64; row++) {
      for (let column = 0; column < 64; column++) {
        const own = film.pixel(column, row)[1];
        x += own * (column - 31.5);
        y += own * (31.5 - row);
        light += own;
      }
    }
    expect(Math.atan2(y / light, x / light)).toBeCloseTo(Math.PI / 4, 1);
  });
});

describe('the shutter', () => {
  const document = structuredClone(newDocument('Shutter'));
  document.lights['l'] = newLight('bulb', { id: 'l', power: 10 });
  const shot = newShot({ camera: Object.keys(document.cameras)[0]! });
  const hard = {
    ...shot,
    tracks: {
      'lights/l/power': [
        { frame: 1, value: 10, pace: 'held' as const },
        { frame: 5, value: 90, pace: 'held' as const },
      ],
    },
  };

  it('tells nothing where nothing moves, and nothing beside a switch that is thrown at a frame', () => {
    expect(exposeFrame(document, shot, 3).shutter).toBeUndefined();
    for (const frame of [4, 5]) expect(exposeFrame(document, hard, frame).shutter).toBeUndefined();
    expect(exposeFrame(document, hard, 5).lights.find((light) => light.id === 'l')!.power).toBe(90);
  });

  it('closed is the plain frame', () => {
    const closed = structuredClone(document);
    Object.values(closed.cameras)[0]!.shutterAngle = 0;
    const fading = {
      ...shot,
      moves: { m: { ...newMove('ramp', 'lights/l/power', 1, 9), id: 'm', from: 0, to: 9 } as never },
    };
    expect(exposeFrame(closed, fading, 4)).toEqual(evaluate(closed, fading, 4));
    expect(exposeFrame(document, fading, 4).shutter!.length).toBe(16);
  });

  it('makes another frame of one that stands still and one that passes by', () => {
    const fading = {
      ...shot,
      moves: { m: { ...newMove('ramp', 'lights/l/power', 1, 9), id: 'm', from: 0, to: 9 } as never },
    };
    const settings = defaultRenderSettings();
    const blurred = exposeFrame(document, fading, 4);
    const still = evaluate(document, fading, 4);
    expect(frameIdentity(blurred, settings, {})).not.toBe(frameIdentity(still, settings, {}));
  });
});
