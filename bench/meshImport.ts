// Reads, mends and writes one mesh file several times, and prints how fast and with how much memory.
import { readFileSync } from 'node:fs';
import { defaultRecipe } from '@zippy/core/document';
import { mendModel, normalizeModel, readObj, readStl, writeMeshesGlb } from '@zippy/core/intake';
import { median } from './figure';

export interface ImportFigures {
  /** Megabytes of the file a second: of the fastest run, as what else a machine does only ever adds, and of the median one. */
  fastest: number;
  median: number;
  /** Peak of memory in the first run beyond that with the file read, over the data of its meshes. */
  memory: number;
}

const RUNS = 15;

const [file] = process.argv.slice(2) as [string];
const recipe = defaultRecipe();
const bytes = new Uint8Array(readFileSync(file));
const peak = () => process.resourceUsage().maxRSS * 1024;
const before = peak();
const rates: number[] = [];
let memory = 0;
for (let run = 0; run < RUNS; run++) {
  const start = performance.now();
  const read = file.endsWith('.stl') ? readStl(bytes, file) : readObj(bytes, file, null);
  const { meshes } = normalizeModel(mendModel(read, recipe).model, recipe);
  writeMeshesGlb(meshes);
  rates.push(bytes.length / 1e3 / (performance.now() - start));
  const data = meshes.reduce(
    (sum, { positions, normals, indices }) => sum + positions.byteLength + normals.byteLength + indices.byteLength,
    0,
  );
  if (run === 0) memory = (peak() - before) / data;
}
const figures: ImportFigures = { fastest: Math.max(...rates), median: median(rates), memory };
console.log(JSON.stringify(figures));
