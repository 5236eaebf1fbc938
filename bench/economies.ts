// Relative mean square error at equal time against two long references, with the tracer's economies and without: well-spread
// samples, the light tree, guides to lamps in glass and to points of the lens, samples where the noise is, the noise filter. Errors
// of all but the last two fall as one over the time, so their ratio is that of error times time.
import { filmFrame, NoiseFilter } from '@zippy/core/develop';
import { newCamera, newDocument, newFinish, type Finish } from '@zippy/core/document';
import { composeTransform, floorMesh, type TriangleMesh } from '@zippy/core/geometry';
import { evaluate, SEEN_BY_ALL, type FrameState } from '@zippy/core/motion';
import { allocateSamples, defaultRenderSettings, nextAverage, PILOT, type LoadedFrame } from '@zippy/core/trace';
import * as L from '@zippy/kernel/layout';
import { demoScene } from './demoScene';
import { figure } from './figure';
import { kernelModule, LocalTracer } from './localTracer';

const SIZE = { width: 256, height: 144 };
const REFERENCE = 1024;
const SAMPLES = 32;
const SEEDS = 3;

function ball(radius: number, steps: number): TriangleMesh {
  const positions: number[] = [];
  const normals: number[] = [];
  const indices: number[] = [];
  for (let i = 0; i <= steps; i++) {
    for (let j = 0; j <= 2 * steps; j++) {
      const [theta, phi] = [(Math.PI * i) / steps, (Math.PI * j) / steps];
      const n = [Math.sin(theta) * Math.sin(phi), Math.cos(theta), Math.sin(theta) * Math.cos(phi)];
      normals.push(...n);
      positions.push(...n.map((v) => v * radius));
      if (i === steps || j === 2 * steps) continue;
      const at = i * (2 * steps + 1) + j;
      const below = at + 2 * steps + 1;
      if (i > 0) indices.push(at, below, at + 1);
      if (i < steps - 1) indices.push(at + 1, below, below + 1);
    }
  }
  return {
    positions: new Float32Array(positions),
    normals: new Float32Array(normals),
    indices: new Uint32Array(indices),
  };
}

/** A small lamp in a green dome on a white floor. */
function lampInLens(): { meshes: TriangleMesh[]; state: FrameState } {
  const meshes = [floorMesh(400), ball(14, 48), ball(3, 24)];
  const finishes: Partial<Finish>[] = [
    { baseColor: [0.8, 0.8, 0.8], specularWeight: 0 },
    { transmissionWeight: 1, specularRoughness: 0, transmissionColor: [0.25, 0.9, 0.35], transmissionDepth: 12 },
    { baseColor: [0, 0, 0], specularWeight: 0, emissionPower: 5, emissionKelvin: 5000 },
  ];
  const { set } = newDocument('Lens');
  return {
    meshes,
    state: {
      parts: meshes.map((_, k) => ({
        node: `n${k}`,
        instance: `n${k}`,
        name: `Part ${k}`,
        mesh: { asset: 'lens', index: k },
        transform: composeTransform([0, k === 0 ? 0 : 15, 0], [0, 0, 0, 1], [1, 1, 1]),
        finish: `f${k}`,
        glow: 1,
        seen: SEEN_BY_ALL,
      })),
      finishes: Object.fromEntries(finishes.map((finish, k) => [`f${k}`, newFinish({ id: `f${k}`, ...finish })])),
      lights: [],
      camera: newCamera({ position: [0, 85, 120], target: [0, 5, 0], focalLength: 55 }),
      set: {
        ...set,
        floor: { ...set.floor, kind: 'none' },
        surroundings: { ...set.surroundings, color: [0, 0, 0] },
      },
    },
  };
}

interface Economies {
  spread: boolean;
  tree: boolean;
  guides: boolean;
}

/** Takes economies out of a loaded frame: every light is then as likely as any other, and guides are gone. */
function strip(words: Uint32Array, { scene }: LoadedFrame, { tree, guides }: Economies): void {
  const floats = new Float32Array(words.buffer);
  if (!guides) words[(scene + L.SCENE_GUIDE_COUNT) / 4] = words[(scene + L.SCENE_LENS_GUIDE_COUNT) / 4] = 0;
  if (tree) return;
  const count = words[(scene + L.SCENE_LIGHT_COUNT) / 4]!;
  const locals = words[(scene + L.SCENE_LOCAL_LIGHTS) / 4]!;
  const lights = words[(scene + L.SCENE_LIGHTS) / 4]!;
  // A box of this half size about everything makes importance the number of lights over its square.
  const far = 1e6;
  const even = (node: number): number => {
    const left = words[node / 4 + 12]!;
    const below = left & L.LEAF ? 1 : even(left) + even(words[node / 4 + 13]!);
    floats.set([-far, -far, -far, far, far, far, below], node / 4);
    return below;
  };
  const root = words[(scene + L.SCENE_LIGHT_TREE) / 4]!;
  if (root) even(root);
  for (let k = locals; k < count; k++) floats[(lights + k * L.LIGHT_SIZE + L.LIGHT_WEIGHT) / 4] = 1 / (3 * far * far);
}

/** Renders `samples` a pixel and tells the seconds. Without spreading, every sample is of a sequence of its own. */
function render(tracer: LocalTracer, frame: LoadedFrame, samples: number, on: Economies, seed: number): number {
  const words = tracer.words();
  new Uint8Array(tracer.memory.buffer, frame.film, frame.width * frame.height * frame.floats * 4).fill(0);
  strip(words, frame, on);
  words[(frame.scene + L.SCENE_SEED) / 4] = seed;
  const start = process.cpuUsage();
  if (on.spread) tracer.pass(frame, samples);
  else {
    for (let k = 0; k < samples; k++) {
      words[(frame.scene + L.SCENE_SEED) / 4] = seed * 7919 + k;
      tracer.pass(frame, 1);
    }
  }
  return secondsSince(start);
}

/** Seconds of work since then: what else runs on the machine does not count. */
const secondsSince = (start: NodeJS.CpuUsage): number => process.cpuUsage(start).user / 1e6;

/**
 * The error is the product of what a picture differs by from two references that know nothing of each other: their own noise, which
 * would else be counted as an error of the picture, has no mean in it.
 */
function relativeError(
  picture: ArrayLike<number>,
  stride: number,
  references: readonly [Float32Array, Float32Array],
  floats: number,
): number {
  let sum = 0;
  const [first, second] = references;
  const pixels = first.length / floats;
  for (let k = 0; k < pixels; k++) {
    for (let c = 0; c < 3; c++) {
      const [a, b] = [first[k * floats + c]!, second[k * floats + c]!];
      const given = picture[k * stride + c]!;
      sum += ((given - a) * (given - b)) / (((a + b) / 2) ** 2 + 0.01);
    }
  }
  return sum / (3 * pixels);
}

export default async function economies(): Promise<void> {
  const filter = await NoiseFilter.open(kernelModule);
  const { document } = demoScene();
  const lens = lampInLens();
  const scenes: [string, TriangleMesh[] | undefined, FrameState][] = [
    ['hero', undefined, evaluate(document, document.shots['antenna']!, 60)],
    ['lens', lens.meshes, lens.state],
    ['dial', undefined, evaluate(document, document.shots['dial']!, 60)],
  ];
  const all: Economies = { spread: true, tree: true, guides: true };
  const none: Economies = { spread: false, tree: false, guides: false };
  for (const [name, meshes, state] of scenes) {
    const tracer = await LocalTracer.open(meshes);
    const settings = { ...defaultRenderSettings(), ...SIZE, speckLimit: 0, samples: REFERENCE };
    const load = () => tracer.load(state, settings);
    let frame: LoadedFrame;
    const references: [Float32Array, Float32Array] = [new Float32Array(), new Float32Array()];
    for (const [k, seed] of [99, 100_099].entries()) {
      frame = await load();
      render(tracer, frame, REFERENCE, all, seed);
      references[k] = tracer.film(frame);
    }
    const cost = async (on: Economies): Promise<{ error: number; seconds: number }> => {
      let [error, seconds] = [0, 0];
      for (let seed = 1; seed <= SEEDS; seed++) {
        frame = await load();
        seconds += render(tracer, frame, SAMPLES, on, seed) / SEEDS;
        error += relativeError(tracer.film(frame), frame.floats, references, frame.floats) / SEEDS;
      }
      return { error, seconds };
    };
    /** The picture without any economy, through the filter afterwards. */
    const filtered = async (): Promise<{ error: number; seconds: number }> => {
      let [error, seconds] = [0, 0];
      for (let seed = 1; seed <= SEEDS; seed++) {
        frame = await load();
        seconds += render(tracer, frame, SAMPLES, none, seed) / SEEDS;
        const start = process.cpuUsage();
        const film = filmFrame({ ...frame, film: tracer.film(frame) });
        const clean = filter.filter(film, film.guides!, 1);
        seconds += secondsSince(start) / SEEDS;
        error += relativeError(clean, 4, references, frame.floats) / SEEDS;
      }
      return { error, seconds };
    };
    const plain = await cost(none);
    const gain = ({ error, seconds }: { error: number; seconds: number }) =>
      (plain.error * plain.seconds) / (error * seconds);
    figure(`economies.${name}.spread`, gain(await cost({ ...none, spread: true })));
    figure(`economies.${name}.tree`, gain(await cost({ ...none, tree: true })));
    figure(`economies.${name}.guides`, gain(await cost({ ...none, guides: true })));
    figure(`economies.${name}.filter`, gain(await filtered()));
    figure(`economies.${name}.sampling`, gain(await cost(all)));
    // Together: samples where the noise is, and the filter, in the time of the plain picture, which is timed right before it:
    // a slow spell of the machine then takes as much from either.
    const alone = { error: 0, seconds: 0 };
    const together = { error: 0, seconds: 0 };
    for (let seed = 1; seed <= SEEDS; seed++) {
      frame = await load();
      const limit = render(tracer, frame, SAMPLES, none, seed);
      alone.seconds += limit / SEEDS;
      alone.error += relativeError(tracer.film(frame), frame.floats, references, frame.floats) / SEEDS;
      frame = await load();
      tracer.words()[(frame.scene + L.SCENE_SEED) / 4] = seed;
      const start = process.cpuUsage();
      tracer.pass(frame, PILOT);
      const pixels = SIZE.width * SIZE.height;
      for (let has = PILOT; ;) {
        const affords = (limit * 0.8 - secondsSince(start)) * (has / secondsSince(start));
        if (affords < 0.5) break;
        const { each, added } = allocateSamples(tracer.memory, frame, nextAverage(has, affords));
        if (added === 0) break;
        tracer.pass(frame, each, true);
        has += added / pixels;
      }
      const film = filmFrame({ ...frame, film: tracer.film(frame) });
      const clean = filter.filter(film, film.guides!, 1);
      together.seconds += secondsSince(start) / SEEDS;
      together.error += relativeError(clean, 4, references, frame.floats) / SEEDS;
    }
    console.log(
      `economies: ${name} plain ${alone.error.toPrecision(3)} in ${alone.seconds.toFixed(2)} s, together ${together.error.toPrecision(3)} in ${together.seconds.toFixed(2)} s`,
    );
    figure(`economies.${name}.together`, (alone.error * alone.seconds) / (together.error * together.seconds), {
      least: 8,
    });
  }
}
