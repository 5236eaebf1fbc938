// What a film on a surface costs: a screen that wears 1080p footage before a lit floor, each frame another picture, against the same screen
// with one picture that stays. A frame of 960 × 540 with the samples of a take when nothing else is said, one thread, interleaved.
import { encode } from 'fast-png';
import { newCamera, newDocument, newFinish, newLight, newMap, type Finish } from '@zippy/core/document';
import { composeTransform, floorMesh, IDENTITY, type TriangleMesh } from '@zippy/core/geometry';
import { readPicture } from '@zippy/core/intake';
import { SEEN_BY_ALL, type FrameState } from '@zippy/core/motion';
import { defaultRenderSettings, renderTiles, resetTiles, SceneMemory } from '@zippy/core/trace';
import { createKernelMemory, startKernel } from '@zippy/kernel/host';
import { figure } from './figure';
import { kernelModule } from './localTracer';

const FRAMES = 5;
const [WIDTH, HEIGHT] = [1920, 1080];
const settings = { ...defaultRenderSettings(), width: 960, height: 540 };

/** A frame as the server keeps it: softly coloured, with grain, so that it packs as films do. */
function still(frame: number): Uint8Array {
  const data = new Uint8Array(WIDTH * HEIGHT * 4);
  for (let k = 0; k < WIDTH * HEIGHT; k++) {
    const [x, y] = [k % WIDTH, Math.floor(k / WIDTH)];
    const grain = ((k * 2654435761 + frame * 97) >>> 27) & 7;
    data.set(
      [((x >> 3) + frame * 9 + grain) & 255, ((y >> 2) + grain) & 255, (((x + y) >> 4) + grain) & 255, 255],
      4 * k,
    );
  }
  return encode({ width: WIDTH, height: HEIGHT, data, channels: 4 });
}

const screen: TriangleMesh = {
  positions: new Float32Array([-160, 0, 0, 160, 0, 0, 160, 180, 0, -160, 180, 0]),
  normals: new Float32Array([0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1]),
  uvs: new Float32Array([0, 1, 1, 1, 1, 0, 0, 0]),
  indices: new Uint32Array([0, 1, 2, 0, 2, 3]),
};

function state(picture: string): FrameState {
  const { set } = newDocument('Footage');
  const part = (index: number, finish: string): FrameState['parts'][number] => ({
    node: finish,
    instance: finish,
    name: finish,
    mesh: { asset: 'x', index },
    transform: index === 0 ? IDENTITY : composeTransform([0, 20, 0], [0, 0, 0, 1], [1, 1, 1]),
    finish,
    glow: 1,
    seen: SEEN_BY_ALL,
  });
  const shown: Partial<Finish> = {
    emissionPower: 300,
    emissionUnit: 'nit',
    maps: { film: newMap('emissionColor', picture) },
  };
  return {
    parts: [part(0, 'floor'), part(1, 'screen')],
    finishes: { floor: newFinish({ id: 'floor' }), screen: newFinish({ ...shown, id: 'screen' }) },
    lights: [newLight('panel', { position: [-300, 400, 300], target: [0, 80, 0] })],
    camera: newCamera({ position: [0, 150, 600], target: [0, 90, 0], fStop: 0, shutterAngle: 0 }),
    set: { ...set, floor: { ...set.floor, kind: 'none' } },
  };
}

export default async function footage(): Promise<void> {
  const memory = createKernelMemory();
  const kernel = await startKernel(kernelModule, memory, 0);
  const meshes = [floorMesh(4000), screen];
  const files = new Map(Array.from({ length: FRAMES + 1 }, (_, k) => [`film@${k}`, still(k)]));
  const scene = new SceneMemory(kernel, memory, {
    mesh: async (_, index) => meshes[index]!,
    sky: () => Promise.reject(new Error('no picture around it')),
    picture: async (asset) => readPicture(files.get(asset)!, asset),
  });
  const seconds = async (picture: string): Promise<{ load: number; render: number }> => {
    const begun = process.cpuUsage();
    const frame = await scene.load(state(picture), settings);
    const loaded = process.cpuUsage(begun).user / 1e6;
    scene.setPass(frame, settings.samples);
    resetTiles(memory);
    const traced = process.cpuUsage();
    renderTiles(kernel, memory, frame, false);
    return { load: loaded, render: process.cpuUsage(traced).user / 1e6 };
  };
  await seconds('film@0');
  const [loads, stays, renders]: [number[], number[], number[]] = [[], [], []];
  for (let k = 1; k <= FRAMES; k++) {
    stays.push((await seconds(`film@${k - 1}`)).load);
    const { load, render } = await seconds(`film@${k}`);
    loads.push(load);
    renders.push(render);
  }
  const least = (values: number[]) => Math.min(...values);
  figure('footage.shareOfFrameTime', (least(loads) - least(stays)) / least(renders), { most: 0.03 });
}
