// Rays per second against Embree's single-ray kernels: the demo model, the same rays, interleaved runs, one thread.
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { transformPoint } from '@zippy/core/geometry';
import { readMeshesGlb, readSurroundings } from '@zippy/core/intake';
import { evaluate } from '@zippy/core/motion';
import { defaultRenderSettings, SceneMemory } from '@zippy/core/trace';
import { createKernelMemory, startKernel } from '@zippy/kernel/host';
import { demoScene, made } from './demoScene';
import { figure, median } from './figure';

const COUNT = 400_000;
const RUNS = 5;

export default async function rays(): Promise<void> {
  const { document } = demoScene();
  document.set.floor.kind = 'none';
  const state = evaluate(document, document.shots['turn']!, 8);
  const meshes = await readMeshesGlb(new Uint8Array(readFileSync(made('ferrow-r2.meshes.glb'))));
  const memory = createKernelMemory();
  const module = await WebAssembly.compile(
    readFileSync(createRequire(import.meta.url).resolve('@zippy/kernel/kernel.wasm')),
  );
  const kernel = await startKernel(module, memory, 0);
  const source = {
    mesh: async (_: string, index: number) => meshes[index]!,
    sky: async () => readSurroundings(new Uint8Array(readFileSync(made('soft-three-sides.exr'))), 'sky'),
  };
  const frame = await new SceneMemory(kernel, memory, source).load(state, {
    ...defaultRenderSettings(),
    width: 64,
    height: 64,
  });
  const triangles: number[] = [];
  for (const part of state.parts) {
    const mesh = meshes[part.mesh.index]!;
    for (const index of mesh.indices) {
      const at = index * 3;
      triangles.push(
        ...transformPoint(part.transform, [mesh.positions[at]!, mesh.positions[at + 1]!, mesh.positions[at + 2]!]),
      );
    }
  }
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

  const folder = mkdtempSync(join(tmpdir(), 'zippy-rays-'));
  const program = join(folder, 'embree');
  const sources = fileURLToPath(new URL('embree.cpp', import.meta.url));
  if (
    spawnSync('g++', ['-O3', '-march=native', sources, '-o', program, '-lembree3'], { stdio: 'ignore' }).status !== 0
  ) {
    console.log('rays: skipped, Embree is not installed (apt install libembree-dev)');
    return;
  }
  const write = (name: string, data: Float32Array) => (writeFileSync(join(folder, name), data), join(folder, name));
  const files = [
    write('t', new Float32Array(triangles)),
    write('p', primary),
    'closest',
    write('b', bounce),
    'closest',
    write('s', shadow),
    'any',
  ];
  const ratios: Record<string, number[]> = { primary: [], bounce: [], shadow: [] };
  for (let run = 0; run < RUNS; run++) {
    const reference = execFileSync(program, files, { encoding: 'utf8' })
      .trim()
      .split('\n')
      .map((line) => line.split(' ').map(Number));
    [primary, bounce, shadow].forEach((set, k) => {
      const own = trace(set, k === 2);
      ratios[['primary', 'bounce', 'shadow'][k]!]!.push(reference[k]![0]! / own);
      const found = new Float32Array(memory.buffer, hitsAt, COUNT * 4)
        .filter((_, at) => at % 4 === 0)
        .filter((t) => t >= 0).length;
      if (run === 0)
        console.log(`rays: ${['primary', 'bounce', 'shadow'][k]} hits ${found}, Embree ${reference[k]![1]}`);
    });
  }
  for (const [name, values] of Object.entries(ratios)) figure(`rays.${name}`, median(values), { least: 0.7 });
}
