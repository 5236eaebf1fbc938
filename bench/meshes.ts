// Large STL and OBJ files from bytes to the file that is kept: megabytes a second on one core, and memory for the mesh data.
import { TorusKnotGeometry } from 'three';
import { defaultRecipe } from '@zippy/core/document';
import { mendModel, normalizeModel, readObj, readStl, writeMeshesGlb, type Model } from '@zippy/core/intake';
import { figure, median } from './figure';

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

/** The most memory that this process had so far, in bytes. */
const peak = () => process.resourceUsage().maxRSS * 1024;

export default async function meshes(): Promise<void> {
  const recipe = defaultRecipe();
  const speed = async (name: string, bytes: Uint8Array<ArrayBuffer>, read: () => Model) => {
    const rates: number[] = [];
    const before = process.memoryUsage().rss;
    let data = 1;
    for (let run = 0; run < 3; run++) {
      const start = performance.now();
      const { model } = mendModel(read(), recipe);
      const upright = normalizeModel(model, recipe);
      await writeMeshesGlb(upright.meshes);
      rates.push(bytes.length / 1e6 / ((performance.now() - start) / 1000));
      data = upright.meshes.reduce((sum, mesh) => sum + mesh.positions.byteLength * 2 + mesh.indices.byteLength, 0);
    }
    figure(`import.${name}.megabytesPerSecond`, median(rates), { least: 80 });
    figure(`import.${name}.memoryOverMesh`, (peak() - before) / data, { most: 6 });
  };
  const stl = binaryStl();
  await speed('stl', stl, () => readStl(stl, 'knot.stl'));
  const obj = objText();
  await speed('obj', obj, () => readObj(obj, 'knot.obj', null));
}
