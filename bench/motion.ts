// Motion of a large document: one frame of all of it, one property, and a look through all frames of a shot of the demo.
import { readFileSync } from 'node:fs';
import { surveyShot, type Shapes } from '@zippy/core/checks';
import {
  meshKey,
  newCamera,
  newDocument,
  newNode,
  newShot,
  type Key,
  type ProjectDocument,
  type Shot,
} from '@zippy/core/document';
import { boundsOfPositions, outlineOf } from '@zippy/core/geometry';
import { evaluate, evaluateProperties, newMove, sampleProperty } from '@zippy/core/motion';
import { readMeshesGlb } from '@zippy/core/intake';
import { demoScene, made } from './demoScene';
import { figure, median } from './figure';

const PARTS = 2000;
const LANES = 300;
const MOVES = 100;
const KEYS = 40;
const FRAMES = 240;
const SURVEYED = 300;

/** Parts in groups of twenty, a third of them with keys or moves. */
function large(): { document: ProjectDocument; shot: Shot } {
  const document: ProjectDocument = structuredClone(newDocument('Motion'));
  document.nodes = {};
  for (let k = 0; k < PARTS; k++) {
    const group = `g${Math.floor(k / 20)}`;
    document.nodes[group] ??= newNode({ id: group, name: group });
    document.nodes[`p${k}`] = newNode({
      id: `p${k}`,
      name: `p${k}`,
      parent: group,
      kind: 'part',
      mesh: { asset: 'a'.repeat(64), index: k },
      position: [k, 0, 0],
    });
  }
  document.cameras = { eye: newCamera({ id: 'eye' }) };
  const shot = newShot({ id: 's', length: FRAMES, camera: 'eye' });
  for (let lane = 0; lane < LANES; lane++) {
    const property = ['position', 'turn', 'glow'][lane % 3]!;
    shot.tracks[`nodes/p${lane}/${property}`] = Array.from({ length: KEYS }, (_, k): Key => ({
      frame: 1 + 6 * k,
      value: property === 'glow' ? k : [k, k % 5, k % 7],
      pace: 'ease',
    }));
  }
  for (let k = 0; k < MOVES; k++) {
    const move = newMove((['turntable', 'travel', 'float'] as const)[k % 3]!, `nodes/p${500 + k}`, 1, FRAMES);
    shot.moves[move.id] = move;
  }
  document.shots = { s: shot };
  // As the store of the page holds it.
  freeze(document);
  return { document, shot };
}

function freeze(value: object): void {
  for (const each of Object.values(value)) if (typeof each === 'object' && each !== null) freeze(each);
  Object.freeze(value);
}

function timed(times: number, run: (k: number) => void): number {
  const taken: number[] = [];
  for (let k = 0; k < times; k++) {
    const start = performance.now();
    run(k);
    taken.push(performance.now() - start);
  }
  return median(taken);
}

export default async function motion(): Promise<void> {
  const { document, shot } = large();
  const frame = (k: number) => 1 + ((k * 7) % FRAMES);
  timed(50, (k) => evaluateProperties(document, shot, frame(k)));
  console.log(`motion: ${PARTS} parts, ${LANES} lanes, ${MOVES} moves`);
  figure(
    'motion.propertiesOfAFrameMs',
    timed(400, (k) => evaluateProperties(document, shot, frame(k))),
    { most: 4 },
  );
  figure(
    'motion.frameMs',
    timed(200, (k) => evaluate(document, shot, frame(k))),
    { most: 4 },
  );
  const sample = sampleProperty(document, shot, 'nodes/p0/position');
  figure('motion.propertyMicroseconds', timed(50, (k) => { for (let j = 0; j < 200; j++) sample(frame(k) + j / 200); }) * 5, { most: 20 }); // prettier-ignore
  const demo = demoScene();
  const meshes = await readMeshesGlb(new Uint8Array(readFileSync(made('ferrow-r2.meshes.glb'))));
  const shapes: Shapes = new Map(
    Object.values(demo.document.nodes).flatMap(({ mesh }) => {
      const positions = mesh && 'asset' in mesh ? meshes[mesh.index]?.positions : undefined;
      return mesh && positions
        ? [[meshKey(mesh), { bounds: boundsOfPositions(positions), outline: outlineOf(positions) }] as const]
        : [];
    }),
  );
  const [first] = Object.values(demo.document.shots);
  const long = { ...first!, length: SURVEYED };
  const start = performance.now();
  surveyShot({ ...demo.document, shots: { [long.id]: long } }, long, shapes, 16 / 9);
  figure('motion.surveySeconds', (performance.now() - start) / 1000, { most: 3 });
}
