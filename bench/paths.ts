// Whole paths per second against a minimal path tracer over Embree (pathTracer.cpp): the demo's parts on a flat floor, all in one
// glossy plastic, under a panel and even surroundings; same resolution, samples and depth; interleaved runs, one thread.
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { newFinish, newLight } from '@zippy/core/document';
import { floorMesh, frameAlong, IDENTITY, subtract } from '@zippy/core/geometry';
import { readMeshesGlb } from '@zippy/core/intake';
import { evaluate } from '@zippy/core/motion';
import { lampRadiance, lightColor, tanHalfWidth } from '@zippy/core/optics';
import { defaultRenderSettings } from '@zippy/core/trace';
import { compileReference, worldNormals, worldTriangles } from './embree';
import { demoScene, made } from './demoScene';
import { fastestOver, figure, median } from './figure';
import { LocalTracer } from './localTracer';

const RUNS = 15;
const SIZE = { width: 320, height: 180, samples: 8, depth: 8 };

export default async function paths(): Promise<void> {
  const reference = compileReference('pathTracer.cpp');
  if (!reference) return;
  const { document } = demoScene();
  document.set.floor.kind = 'none';
  const finish = newFinish({ id: 'plastic', baseColor: [0.5, 0.5, 0.5] });
  const panel = newLight('panel', {
    position: [-400, 600, 500],
    target: [0, 60, 0],
    width: 300,
    height: 300,
    power: 900,
  });
  const meshes = [
    ...(await readMeshesGlb(new Uint8Array(readFileSync(made('ferrow-r2.meshes.glb'))))),
    floorMesh(3000),
  ];
  const demo = evaluate(document, document.shots['turn']!, 8);
  const floor = {
    ...demo.parts[0]!,
    node: 'floor',
    mesh: { asset: 'floor', index: meshes.length - 1 },
    transform: IDENTITY,
  };
  const state = {
    ...demo,
    parts: [...demo.parts, floor].map((part) => ({ ...part, finish: 'plastic' })),
    finishes: { plastic: finish },
    lights: [panel],
    set: {
      ...demo.set,
      surroundings: {
        ...demo.set.surroundings,
        kind: 'color' as const,
        color: [0.3, 0.3, 0.3] as [number, number, number],
        brightness: 1,
      },
    },
    camera: { ...demo.camera!, fStop: 0 },
  };
  const tracer = await LocalTracer.open(meshes);
  const frame = await tracer.load(state, { ...defaultRenderSettings(), ...SIZE, speckLimit: 0 });
  const { x: right, y: up, z: back } = frameAlong(subtract(state.camera.position, state.camera.target));
  const lamp = frameAlong(subtract(panel.target, panel.position));
  const light = lightColor(panel.kelvin, panel.tint).map((v) => v * lampRadiance(panel));
  const tanX = tanHalfWidth(state.camera);
  const scene = join(reference.folder, 'scene');
  writeFileSync(
    scene,
    new Float32Array([
      ...[SIZE.width, SIZE.height, SIZE.samples, SIZE.depth],
      ...[...state.camera.position, ...right, ...up, ...back.map((v) => -v), tanX, (tanX * SIZE.height) / SIZE.width],
      ...[...panel.position, ...lamp.x.map((v) => (v * panel.width) / 2), ...lamp.y.map((v) => (v * panel.height) / 2)],
      ...[...light, 0.3, 0.3, 0.3, 0.5, finish.specularRoughness, finish.specularIor],
    ]),
  );
  const triangles = join(reference.folder, 'triangles');
  writeFileSync(triangles, worldTriangles(state, meshes));
  const normals = join(reference.folder, 'normals');
  writeFileSync(normals, worldNormals(state, meshes));
  const theirs: number[] = [];
  const ours: number[] = [];
  for (let run = 0; run < RUNS; run++) {
    const [seconds, mean] = execFileSync(reference.program, [triangles, normals, scene], { encoding: 'utf8' })
      .split(' ')
      .map(Number);
    const again = await tracer.load(state, { ...defaultRenderSettings(), ...SIZE, speckLimit: 0, seed: run });
    const start = performance.now();
    tracer.pass(again, SIZE.samples);
    const own = (performance.now() - start) / 1000;
    theirs.push(seconds!);
    ours.push(own);
    if (run > 0) continue;
    const film = tracer.film(again);
    let sum = 0;
    for (let at = 0; at < film.length; at += frame.floats) sum += (film[at]! + film[at + 1]! + film[at + 2]!) / 3;
    console.log(`paths: mean light ${(sum / SIZE.width / SIZE.height).toFixed(4)}, reference ${mean!.toFixed(4)}`);
  }
  console.log(`paths: median ratio ${median(theirs.map((v, k) => v / ours[k]!)).toFixed(3)}`);
  figure('paths.perSecond', fastestOver(theirs, ours), { least: 0.8 });
}
