import { defaultRenderSettings, type RenderSettings } from '../settings';
import { markNoisy } from '../adaptive';
import { firstPass, nextPass, type Pass } from '../nextPass';
import { renderTiles, resetTiles } from '../tiles';
import { SceneMemory, type SceneSource } from '../scene';
import type { LoadedFrame } from '../loadedFrame';
import type { TexturePicture } from '../textures';
import { createKernelMemory, startKernel, type KernelExports } from '@zippy/kernel/host';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import {
  newCamera,
  newDocument,
  newFinish,
  type Camera,
  type Finish,
  type Light,
  type StudioSet,
} from '../../document';
import { IDENTITY, type Transform, type TriangleMesh } from '../../geometry';
import { SEEN_BY_ALL, type FrameState, type PartState } from '../../motion';
import { plainSurroundings, type SurroundingsPicture } from '../../optics';
const wasm = readFileSync(createRequire(import.meta.url).resolve('@zippy/kernel/kernel.wasm'));
const module = new WebAssembly.Module(wasm);

export interface TestPart {
  mesh: TriangleMesh;
  finish?: Partial<Finish>;
  transform?: Transform;
  seen?: Partial<PartState['seen']>;
}

export interface TestScene {
  parts?: TestPart[];
  lights?: Light[];
  camera?: Partial<Camera>;
  set?: (set: StudioSet) => void;
  sky?: SurroundingsPicture;
  /** By asset id. */
  pictures?: Record<string, TexturePicture>;
  /** What is rendered instead of the scene at rest, with the scene's meshes. */
  state?: FrameState;
  /** Changes the scene in kernel memory before it is rendered: words of the whole memory, and the scene's address. */
  poke?: (u32: Uint32Array, scene: number) => void;
  /** Another kernel that renders what the first one has loaded into memory. */
  by?: (memory: WebAssembly.Memory) => KernelExports;
}

/** Black surroundings, no floor, a pinhole at (0, 0, 100) that looks at the origin, unless the test says otherwise. */
export function frameState({ parts = [], lights = [], camera, set }: TestScene): FrameState {
  const studio = structuredClone(newDocument('test').set);
  studio.floor.kind = 'none';
  studio.surroundings.color = [0, 0, 0];
  set?.(studio);
  return {
    parts: parts.map(({ transform, seen }, index) => ({
      node: `n${index}`,
      instance: `n${index}`,
      name: `Part ${index}`,
      mesh: { asset: 'test', index },
      transform: transform ?? IDENTITY,
      finish: `f${index}`,
      glow: 1,
      seen: { ...SEEN_BY_ALL, ...seen },
    })),
    finishes: Object.fromEntries(
      parts.map(({ finish }, index) => [
        `f${index}`,
        newFinish({ id: `f${index}`, name: `Finish ${index}`, ...finish }),
      ]),
    ),
    lights,
    camera: newCamera({ position: [0, 0, 100], target: [0, 0, 0], fStop: 0, shutterAngle: 0, ...camera }),
    set: studio,
  };
}

export interface TestFilm {
  film: Float32Array;
  frame: LoadedFrame;
  width: number;
  height: number;
  /** Mean linear colour of all pixels. */
  mean: [number, number, number];
  pixel(x: number, y: number): [number, number, number];
}

function sourceOf({ parts = [], sky, pictures = {} }: TestScene): SceneSource {
  return {
    mesh: async (_: string, index: number) => parts[index]!.mesh,
    sky: async () => sky ?? plainSurroundings([0, 0, 0]),
    picture: async (asset: string) => pictures[asset]!,
  };
}

/** Renders a scene with samples where they are needed. */
export const renderSpread = (scene: TestScene, over: Partial<RenderSettings>, workers = 1): Promise<TestFilm> =>
  renderScene(scene, over, workers, 'spread');

/**
 * Renders a scene on `workers` instances of the kernel that take turns tile by tile, up to each of `passes` in turn, or in rounds that
 * spread the samples; with a noise target only where it is not reached.
 */
export async function renderScene(
  scene: TestScene,
  over: Partial<RenderSettings> = {},
  workers = 1,
  passes: number[] | 'spread' = [over.samples ?? 64],
  noiseTarget = 0,
): Promise<TestFilm> {
  const settings = { ...defaultRenderSettings(), width: 16, height: 16, samples: 64, speckLimit: 0, ...over };
  const memory = createKernelMemory();
  const kernels = await Promise.all(Array.from({ length: workers }, (_, k) => startKernel(module, memory, k)));
  const sceneMemory = new SceneMemory(kernels[0]!, memory, sourceOf(scene));
  const frame = await sceneMemory.load(scene.state ?? frameState(scene), settings);
  scene.poke?.(new Uint32Array(memory.buffer), frame.scene);
  const renderers = scene.by ? [scene.by(memory)] : kernels;
  const pass = (samples: number, masked: boolean) => {
    sceneMemory.setPass(frame, samples);
    resetTiles(memory);
    for (const kernel of renderers) renderTiles(kernel, memory, frame, masked);
  };
  if (passes === 'spread') {
    for (let each: Pass | null = firstPass(settings); each; each = nextPass(memory, frame, settings, each, 1))
      pass(each.samples, each.masked);
  } else {
    let first = 0;
    for (const end of passes) {
      pass(end - first, noiseTarget > 0 && first > 0);
      first = end;
      if (noiseTarget > 0 && markNoisy(memory, frame, noiseTarget) === 0) break;
    }
  }
  const film = sceneMemory.readFilm(frame);
  const pixel = (x: number, y: number) => {
    const at = (y * settings.width + x) * frame.floats;
    return [film[at]!, film[at + 1]!, film[at + 2]!] as [number, number, number];
  };
  const mean: [number, number, number] = [0, 0, 0];
  for (let at = 0; at < film.length; at += frame.floats)
    for (let k = 0; k < 3; k++) mean[k]! += film[at + k]! / (film.length / frame.floats);
  return { film, frame, width: settings.width, height: settings.height, mean, pixel };
}

/** A quad in the plane z = 0, edge `size`, facing +z. */
export function quad(size: number): TriangleMesh {
  const h = size / 2;
  return {
    positions: new Float32Array([-h, -h, 0, h, -h, 0, h, h, 0, -h, h, 0]),
    normals: new Float32Array([0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1]),
    indices: new Uint32Array([0, 1, 2, 0, 2, 3]),
  };
}

/** A box about the origin with flat normals. */
export function box(sx: number, sy: number, sz: number): TriangleMesh {
  const positions: number[] = [];
  const normals: number[] = [];
  const indices: number[] = [];
  for (let axis = 0; axis < 3; axis++) {
    for (const side of [-1, 1]) {
      const first = positions.length / 3;
      for (const [a, b] of [
        [-1, -1],
        [1, -1],
        [1, 1],
        [-1, 1],
      ] as const) {
        const corner = [0, 0, 0];
        corner[axis] = side;
        corner[(axis + 1) % 3] = a;
        corner[(axis + 2) % 3] = b;
        positions.push((corner[0]! * sx) / 2, (corner[1]! * sy) / 2, (corner[2]! * sz) / 2);
        normals.push(...[0, 1, 2].map((k) => (k === axis ? side : 0)));
      }
      const [b, d] = side > 0 ? [1, 3] : [3, 1];
      indices.push(first, first + b, first + 2, first, first + 2, first + d);
    }
  }
  return {
    positions: new Float32Array(positions),
    normals: new Float32Array(normals),
    indices: new Uint32Array(indices),
  };
}

/** A sphere about the origin from `steps` rings. */
export function sphere(radius: number, steps = 64): TriangleMesh {
  const positions: number[] = [];
  const normals: number[] = [];
  const indices: number[] = [];
  for (let i = 0; i <= steps; i++) {
    for (let j = 0; j <= 2 * steps; j++) {
      const theta = (Math.PI * i) / steps;
      const phi = (Math.PI * j) / steps;
      const n = [Math.sin(theta) * Math.sin(phi), Math.cos(theta), Math.sin(theta) * Math.cos(phi)];
      normals.push(...n);
      positions.push(...n.map((v) => v * radius));
      if (i < steps && j < 2 * steps) {
        const at = i * (2 * steps + 1) + j;
        const below = at + 2 * steps + 1;
        if (i > 0) indices.push(at, below, at + 1);
        if (i < steps - 1) indices.push(at + 1, below, below + 1);
      }
    }
  }
  return {
    positions: new Float32Array(positions),
    normals: new Float32Array(normals),
    indices: new Uint32Array(indices),
  };
}
