// Renders one ball of every finish family into one sheet: docs/screenshots/swatches.png.
import { readFileSync } from 'node:fs';
import sharp, { type OverlayOptions } from 'sharp';
import { Darkroom, filmFrame } from '@zippy/core/develop';
import { defaultLook, newCamera, newDocument, newFinish, newLight } from '@zippy/core/document';
import { composeTransform, sweepMesh, type TriangleMesh } from '@zippy/core/geometry';
import { readSurroundings } from '@zippy/core/intake';
import {
  adaptivePasses,
  defaultRenderSettings,
  markNoisy,
  renderTiles,
  resetTiles,
  SceneMemory,
} from '@zippy/core/trace';
import { createKernelMemory, startKernel } from '@zippy/kernel/host';
import { compileKernel } from '../../server/src/workers/compileKernel';
import { SWATCHES } from './finishes';

const SIZE = 176;
const LABEL = 22;
const ACROSS = 6;
const RADIUS = 24;

/** A ball with a flat belt, whose edge shows brushing, and a foot. */
function testBall(): TriangleMesh {
  const profile: [number, number][] = [];
  for (let k = 0; k <= 48; k++) {
    const angle = (k / 48) * Math.PI;
    profile.push([RADIUS * Math.sin(angle), RADIUS * Math.cos(angle)]);
  }
  const positions: number[] = [];
  const normals: number[] = [];
  const indices: number[] = [];
  const turns = 96;
  profile.forEach(([r, y], i) => {
    for (let j = 0; j <= turns; j++) {
      const phi = (2 * Math.PI * j) / turns;
      positions.push(r * Math.sin(phi), y, r * Math.cos(phi));
      normals.push((r / RADIUS) * Math.sin(phi), y / RADIUS, (r / RADIUS) * Math.cos(phi));
      if (i === profile.length - 1 || j === turns) continue;
      const at = i * (turns + 1) + j;
      const below = at + turns + 1;
      if (i > 0) indices.push(at, below, at + 1);
      if (i < profile.length - 2) indices.push(at + 1, below, below + 1);
    }
  });
  return {
    positions: new Float32Array(positions),
    normals: new Float32Array(normals),
    indices: new Uint32Array(indices),
  };
}

const module = await compileKernel();
const memory = createKernelMemory();
const kernel = await startKernel(module, memory, 0);
const darkroom = await Darkroom.open(module);
const meshes = [testBall(), sweepMesh(600, 90)];
const surroundings = new URL('../made/soft-three-sides.exr', import.meta.url);
const scene = new SceneMemory(kernel, memory, {
  mesh: async (_, index) => meshes[index]!,
  sky: async () => readSurroundings(new Uint8Array(readFileSync(surroundings)), 'soft'),
  picture: () => Promise.reject(new Error('no finish here wears pictures')),
});
const { set } = newDocument('Swatches');
const at = (y: number) => composeTransform([0, y, 0], [0, 0, 0, 1], [1, 1, 1]);
const settings = { ...defaultRenderSettings(), width: SIZE, height: SIZE, samples: 192, depth: 16 };

const tiles: OverlayOptions[] = [];
for (const [k, [name, finish]] of SWATCHES.entries()) {
  const frame = await scene.load(
    {
      parts: [
        {
          node: 'ball',
          instance: 'ball',
          name,
          mesh: { asset: 'swatch', index: 0 },
          transform: at(RADIUS),
          finish: 'own',
          glow: 1,
        },
        {
          node: 'floor',
          instance: 'floor',
          name: 'Floor',
          mesh: { asset: 'swatch', index: 1 },
          transform: at(0),
          finish: 'floor',
          glow: 1,
        },
      ],
      finishes: {
        own: newFinish({ id: 'own', name, ...finish }),
        floor: newFinish({ id: 'floor', name: 'Floor', baseColor: [0.32, 0.32, 0.33], specularRoughness: 0.6 }),
      },
      lights: [
        newLight('panel', {
          position: [-90, 120, 90],
          target: [0, RADIUS, 0],
          width: 70,
          height: 70,
          power: 38,
          visibleToCamera: false,
        }),
        newLight('tube', {
          position: [95, 60, 10],
          target: [0, RADIUS, 0],
          width: 110,
          radius: 6,
          power: 14,
          kelvin: 6500,
        }),
      ],
      camera: newCamera({
        position: [0, 52, 190],
        target: [0, RADIUS - 1, 0],
        focalLength: 92,
        fStop: 0,
        shutterAngle: 0,
      }),
      set: {
        ...set,
        floor: { ...set.floor, kind: 'none' },
        surroundings: { ...set.surroundings, kind: 'picture', picture: 'soft', brightness: 0.35 },
      },
    },
    settings,
  );
  let first = 0;
  for (const end of adaptivePasses(settings.samples)) {
    scene.setPass(frame, end - first);
    resetTiles(memory);
    renderTiles(kernel, memory, frame, first > 0);
    first = end;
    if (markNoisy(memory, frame, 0.012) === 0) break;
  }
  const pixels = darkroom.develop(filmFrame({ ...frame, film: scene.readFilm(frame) }), {
    ...defaultLook(),
    denoise: 1,
  });
  const picture = await sharp(pixels, { raw: { width: SIZE, height: SIZE, channels: 4 } })
    .removeAlpha()
    .png()
    .toBuffer();
  const left = (k % ACROSS) * SIZE;
  const top = Math.floor(k / ACROSS) * (SIZE + LABEL);
  const text = `<svg width="${SIZE}" height="${LABEL}"><text x="8" y="15" font-family="sans-serif" font-size="12" fill="#ddd">${name}</text></svg>`;
  tiles.push({ input: picture, left, top }, { input: Buffer.from(text), left, top: top + SIZE });
  console.log(name);
}
await sharp({
  create: {
    width: ACROSS * SIZE,
    height: Math.ceil(SWATCHES.length / ACROSS) * (SIZE + LABEL),
    channels: 3,
    background: '#1d1e20',
  },
})
  .composite(tiles)
  .png({ compressionLevel: 9 })
  .toFile(new URL('../../docs/screenshots/swatches.png', import.meta.url).pathname);
