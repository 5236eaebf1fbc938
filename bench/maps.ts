// What layers of maps cost: a floor that fills the frame, lit from all around, with one picture and with four sources on it. Whole paths,
// interleaved runs, one thread.
import { madeMap, newCamera, newDocument, newFinish, newMap, type Finish, type FinishMap } from '@zippy/core/document';
import { IDENTITY, floorMesh } from '@zippy/core/geometry';
import { SEEN_BY_ALL, type FrameState } from '@zippy/core/motion';
import { defaultRenderSettings, SceneMemory, renderTiles, resetTiles } from '@zippy/core/trace';
import { createKernelMemory, startKernel } from '@zippy/kernel/host';
import { fastestOver, figure } from './figure';
import { kernelModule } from './localTracer';

const RUNS = 21;
const settings = { ...defaultRenderSettings(), width: 480, height: 270, samples: 16, depth: 4 };

function floor(maps: FinishMap[]): Partial<Finish> {
  return { maps: Object.fromEntries(maps.map((map, order) => [`l${order}`, { ...map, order }])) };
}

function state(finish: Partial<Finish>): FrameState {
  const { set } = newDocument('Maps');
  return {
    parts: [
      {
        node: 'f',
        instance: 'f',
        name: 'Floor',
        mesh: { asset: 'x', index: 0 },
        transform: IDENTITY,
        finish: 'f',
        glow: 1,
        seen: SEEN_BY_ALL,
      },
    ],
    finishes: { f: newFinish({ ...finish, id: 'f' }) },
    lights: [],
    camera: newCamera({ position: [0, 300, 300], target: [0, 0, 0], fStop: 0, shutterAngle: 0 }),
    set: { ...set, floor: { ...set.floor, kind: 'none' }, surroundings: { ...set.surroundings, color: [1, 1, 1] } },
  };
}

export default async function maps(): Promise<void> {
  const memory = createKernelMemory();
  const kernel = await startKernel(kernelModule, memory, 0);
  const size = 1024;
  const pixels = Uint8Array.from({ length: size * size * 4 }, (_, k) => (k * 2654435761) >>> 24);
  const scene = new SceneMemory(kernel, memory, {
    mesh: async () => floorMesh(4000),
    sky: () => Promise.reject(new Error('no picture around it')),
    picture: async () => ({ width: size, height: size, pixels }),
  });
  const picture = newMap('baseColor', 'p', { projection: 'planar', orientation: [-Math.PI / 2, 0, 0] });
  const scenes: Record<string, FrameState> = {
    plain: state({}),
    picture: state(floor([picture])),
    four: state(
      floor([
        picture,
        madeMap('baseColor', 'noise'),
        madeMap('specularRoughness', 'gradient'),
        madeMap('specularWeight', 'facing'),
      ]),
    ),
    relief: state(floor([madeMap('height', 'noise')])),
    cells: state(
      floor([
        madeMap('baseColor', 'noise', {
          source: { ...madeMap('baseColor', 'noise').source, pattern: 'cells' } as FinishMap['source'],
        }),
      ]),
    ),
  };
  const times: Record<string, number[]> = {};
  for (let run = 0; run < RUNS; run++) {
    for (const [name, each] of Object.entries(scenes)) {
      const frame = await scene.load(each, settings);
      scene.setPass(frame, settings.samples);
      resetTiles(memory);
      const begun = process.cpuUsage();
      renderTiles(kernel, memory, frame, false);
      (times[name] ??= []).push(process.cpuUsage(begun).user / 1e6);
    }
  }
  const over = (name: string, base: string) => fastestOver(times[name]!, times[base]!);
  figure('maps.pictureOverPlain', over('picture', 'plain'));
  figure('maps.fourSourcesOverPicture', over('four', 'picture'), { most: 1.35 });
  figure('maps.reliefOverPlain', over('relief', 'plain'));
  figure('maps.cellsOverPlain', over('cells', 'plain'));
}
