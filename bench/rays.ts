// Rays per second against Embree's single-ray kernels, and seconds to build: the demo model and one large mesh, the same rays,
// interleaved runs, one thread.
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { IDENTITY, type TriangleMesh } from '@zippy/core/geometry';
import { readMeshesGlb } from '@zippy/core/intake';
import { evaluate, type FrameState } from '@zippy/core/motion';
import { defaultRenderSettings } from '@zippy/core/trace';
import { KernelHeap } from '@zippy/kernel/host';
import { demoScene, made } from './demoScene';
import { compileReference, worldTriangles } from './embree';
import { fastestOver, figure, median } from './figure';
import { LocalTracer } from './localTracer';

const COUNT = 400_000;
const RUNS = 9;

/** Kinds of rays in the order in which Embree is given them. */
const KINDS = ['primary', 'bounce', 'shadow'] as const;

/** A bumpy ball of 600,000 triangles, radius about 100 mm: one mesh without instances to speak of. */
export function bumpyBall(): TriangleMesh {
  const [rings, turns] = [387, 776];
  const positions = new Float32Array((rings + 1) * (turns + 1) * 3);
  const indices: number[] = [];
  for (let i = 0; i <= rings; i++) {
    for (let j = 0; j <= turns; j++) {
      const [theta, phi] = [(Math.PI * i) / rings, (2 * Math.PI * j) / turns];
      const r = 100 + 6 * Math.sin(9 * theta) * Math.cos(13 * phi) + 2 * Math.sin(40 * phi + 31 * theta);
      positions.set(
        [r * Math.sin(theta) * Math.sin(phi), 80 + r * Math.cos(theta), r * Math.sin(theta) * Math.cos(phi)],
        (i * (turns + 1) + j) * 3,
      );
      if (i === rings || j === turns) continue;
      const at = i * (turns + 1) + j;
      indices.push(at, at + turns + 1, at + 1, at + 1, at + turns + 1, at + turns + 2);
    }
  }
  return { positions, normals: positions.map((v) => v / 100), indices: new Uint32Array(indices) };
}

export default async function rays(): Promise<void> {
  const reference = compileReference('embree.cpp');
  if (!reference) return;
  const { program, folder } = reference;
  const { document } = demoScene();
  document.set.floor.kind = 'none';
  const state = evaluate(document, document.shots['turn']!, 8);
  const meshes = await readMeshesGlb(new Uint8Array(readFileSync(made('ferrow-r2.meshes.glb'))));
  await compare('rays', state, meshes, program, folder);
  const part = { ...state.parts[0]!, mesh: { asset: 'ball', index: 0 }, transform: IDENTITY };
  await compare('mesh', { ...state, parts: [part] }, [bumpyBall()], program, folder);
}

/** Prints the ratios of one scene: above 1 this kernel is faster. */
async function compare(
  title: string,
  state: FrameState,
  meshes: TriangleMesh[],
  program: string,
  folder: string,
): Promise<void> {
  const tracer = await LocalTracer.open(meshes);
  const { kernel, memory } = tracer;
  const frame = await tracer.load(state, { ...defaultRenderSettings(), width: 64, height: 64 });
  // Rays and hits stand behind everything the scene uses.
  const raysAt = Math.ceil(memory.buffer.byteLength / 65536) * 65536;
  memory.grow(Math.ceil((COUNT * 48) / 65536) + 1);
  const hitsAt = raysAt + COUNT * 32;
  const trace = (set: Float32Array, any: boolean) => {
    new Float32Array(memory.buffer, raysAt, set.length).set(set);
    const start = performance.now();
    kernel.traceRays(frame.scene, raysAt, hitsAt, COUNT, any);
    return (performance.now() - start) / 1000;
  };
  let seed = 7;
  const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647;
  const camera = state.camera!;
  const primary = new Float32Array(COUNT * 8);
  for (let k = 0; k < COUNT; k++) {
    const [x, y] = [((k % 800) / 800 - 0.5) * 320, 80 + (Math.floor(k / 800) / 500 - 0.5) * 200];
    primary.set(
      [...camera.position, 0, x - camera.position[0], y - camera.position[1], -camera.position[2], 1e9],
      k * 8,
    );
  }
  trace(primary, false);
  const hits = new Float32Array(memory.buffer, hitsAt, COUNT * 4).slice();
  const bounce = new Float32Array(COUNT * 8);
  const shadow = new Float32Array(COUNT * 8);
  const met = Array.from({ length: COUNT }, (_, k) => k).filter((k) => hits[k * 4]! > 0);
  for (let k = 0; k < COUNT; k++) {
    const from = met[k % met.length]!;
    const t = hits[from * 4]! * 0.9999;
    const o = [0, 1, 2].map((c) => primary[from * 8 + c]! + t * primary[from * 8 + 4 + c]!);
    const z = 2 * random() - 1;
    const phi = 2 * Math.PI * random();
    const r = Math.sqrt(1 - z * z);
    bounce.set([...o, 1e-3, r * Math.cos(phi), z, r * Math.sin(phi), 1e9] as number[], k * 8);
    const light = [-480 + 200 * random(), 560 + 200 * random(), 520];
    shadow.set([...o, 1e-3, ...light.map((v, c) => v - o[c]!), 1] as number[], k * 8);
  }

  const write = (name: string, data: Float32Array) => (writeFileSync(join(folder, name), data), join(folder, name));
  const files = [
    write('t', worldTriangles(state, meshes)),
    write('p', primary),
    'closest',
    write('b', bounce),
    'closest',
    write('s', shadow),
    'any',
  ];
  const theirs: Record<string, number[]> = { primary: [], bounce: [], shadow: [] };
  const ours: Record<string, number[]> = { primary: [], bounce: [], shadow: [] };
  const builds: number[] = [];
  let fastestBuild = Infinity;
  for (let run = 0; run < RUNS; run++) {
    const reference = execFileSync(program, files, { encoding: 'utf8' })
      .trim()
      .split('\n')
      .map((line) => line.split(' ').map(Number));
    const seconds = buildSeconds(tracer, meshes);
    fastestBuild = Math.min(fastestBuild, seconds);
    builds.push(seconds / reference.shift()![0]!);
    [primary, bounce, shadow].forEach((set, k) => {
      const own = trace(set, k === 2);
      theirs[KINDS[k]!]!.push(reference[k]![0]!);
      ours[KINDS[k]!]!.push(own);
      const found = new Float32Array(memory.buffer, hitsAt, COUNT * 4)
        .filter((_, at) => at % 4 === 0)
        .filter((t) => t >= 0).length;
      if (run === 0) console.log(`${title}: ${KINDS[k]} hits ${found}, Embree ${reference[k]![1]}`);
    });
  }
  for (const name of KINDS) {
    const ratio = median(theirs[name]!.map((v, k) => v / ours[name]![k]!));
    console.log(`${title}: ${name} median ratio ${ratio.toFixed(3)}`);
    figure(`${title}.${name}`, fastestOver(theirs[name]!, ours[name]!), { least: 0.85 });
  }
  figure(`${title}.build`, median(builds), { most: 1.5 });
  const triangles = meshes.reduce((sum, { indices }) => sum + indices.length / 3, 0);
  figure(`${title}.buildSecondsPerMillion`, (fastestBuild / triangles) * 1e6);
}

/** Seconds to build the trees of all meshes. */
function buildSeconds({ kernel, memory }: LocalTracer, meshes: TriangleMesh[]): number {
  const heap = new KernelHeap(memory);
  heap.allocate(memory.buffer.byteLength - heap.top);
  let seconds = 0;
  for (const mesh of meshes) {
    const top = heap.top;
    const count = mesh.indices.length / 3;
    const [positions, indices] = [heap.copy(mesh.positions), heap.copy(mesh.indices)];
    const tree = heap.allocate(kernel.treeBound(count));
    const scratch = heap.allocate(kernel.treeScratchSize(count));
    const start = performance.now();
    kernel.buildMeshTree(positions, indices, count, tree, scratch);
    seconds += (performance.now() - start) / 1000;
    heap.shrinkTo(top);
  }
  return seconds;
}
