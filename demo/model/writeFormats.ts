// Writes the demo radio as STL, OBJ with MTL, and GLB into demo/build, to try imports with.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { openDocument } from '@zippy/core/document';
import { readMeshesGlb } from '@zippy/core/intake';
import { writeGlb, writeObj, writeStl } from './formats';

const made = new URL('../made/', import.meta.url);
const build = new URL('../build/', import.meta.url);
mkdirSync(build, { recursive: true });
const document = openDocument(JSON.parse(readFileSync(new URL('project.json', made), 'utf8')));
const meshes = await readMeshesGlb(new Uint8Array(readFileSync(new URL('ferrow-r2.meshes.glb', made))));
const { obj, mtl } = writeObj(document, meshes);
const files = { stl: writeStl(document, meshes), obj, mtl, glb: await writeGlb(document, meshes) };
for (const [extension, data] of Object.entries(files)) writeFileSync(new URL(`ferrow-r2.${extension}`, build), data);
