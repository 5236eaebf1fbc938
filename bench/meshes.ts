// Large STL and OBJ files from bytes to the file that is kept: megabytes a second on one core, and memory for the mesh data.
import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { TorusKnotGeometry } from 'three';
import { figure } from './figure';
import type { ImportFigures } from './meshImport';

const TRIANGLES = 1_000_000;

function surface() {
  const across = Math.round(Math.sqrt(TRIANGLES / 2));
  const geometry = new TorusKnotGeometry(50, 15, across * 2, across / 2);
  return { positions: geometry.getAttribute('position').array, indices: geometry.getIndex()!.array };
}

function binaryStl(): Uint8Array<ArrayBuffer> {
  const { positions, indices } = surface();
  const bytes = new Uint8Array(84 + (indices.length / 3) * 50);
  const view = new DataView(bytes.buffer);
  view.setUint32(80, indices.length / 3, true);
  for (let at = 0; at < indices.length; at++) {
    const place = 84 + Math.floor(at / 3) * 50 + 12 + (at % 3) * 12;
    for (let k = 0; k < 3; k++) view.setFloat32(place + k * 4, positions[indices[at]! * 3 + k]!, true);
  }
  return bytes;
}

function objText(): Uint8Array<ArrayBuffer> {
  const { positions, indices } = surface();
  const lines: string[] = ['o Knot'];
  for (let at = 0; at < positions.length; at += 3)
    lines.push(`v ${positions[at]!.toFixed(5)} ${positions[at + 1]!.toFixed(5)} ${positions[at + 2]!.toFixed(5)}`);
  for (let at = 0; at < indices.length; at += 3)
    lines.push(`f ${indices[at]! + 1} ${indices[at + 1]! + 1} ${indices[at + 2]! + 1}`);
  return new TextEncoder().encode(lines.join('\n'));
}

export default async function meshes(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'zippy-bench-'));
  for (const [format, make] of [['stl', binaryStl] as const, ['obj', objText] as const]) {
    const file = join(folder, `knot.${format}`);
    writeFileSync(file, make());
    const { fastest, median, memory } = await inProcess(file);
    figure(`import.${format}.megabytesPerSecond`, fastest, { least: 80 });
    figure(`import.${format}.median`, median);
    figure(`import.${format}.memoryOverMesh`, memory, { most: 6 });
  }
  rmSync(folder, { recursive: true });
}

/** Imports a file in a process of its own, so that its peak of memory is that of nothing else. */
async function inProcess(file: string): Promise<ImportFigures> {
  const script = fileURLToPath(new URL('./meshImport.ts', import.meta.url));
  const tsx = ['--import', 'tsx'];
  const { stdout } = await promisify(execFile)(process.execPath, [...tsx, script, file], {
    env: { ...process.env, TSX_TSCONFIG_PATH: fileURLToPath(new URL('../tsconfig.base.json', import.meta.url)) },
  });
  return JSON.parse(stdout) as ImportFigures;
}
