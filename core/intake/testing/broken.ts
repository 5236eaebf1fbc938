// Files that are wrong in every way that was thought of, made from the sound samples, each with a name that says how.
import { strToU8, zipSync } from 'fflate';
import type { SourceFile } from '../sources';
import { glbFile, gltfFiles, daeText, fbxText, objText, packageFile, plyText, stlBinary, stlText } from './samples';

type Bytes = Uint8Array<ArrayBuffer>;
const text = (value: string): Bytes => strToU8(value) as Bytes;
const cut = (bytes: Bytes, part: number): Bytes => bytes.slice(0, Math.floor(bytes.length * part));

function changed(bytes: Bytes, change: (view: DataView) => void): Bytes {
  const copy = bytes.slice();
  change(new DataView(copy.buffer));
  return copy;
}

/** A number that repeats for a seed, 0 to 1 (Marsaglia, Xorshift RNGs, 2003). */
export function seeded(seed: number): () => number {
  let state = (seed * 2654435761 + 1) >>> 0 || 1;
  return () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    state >>>= 0;
    return state / 0x100000000;
  };
}

/** A sound file with a few bytes changed, left out or repeated. */
export function mutate(bytes: Bytes, seed: number): Bytes {
  const random = seeded(seed);
  const at = () => Math.floor(random() * bytes.length);
  const parts = [bytes.slice()];
  const [copy] = parts as [Bytes];
  for (let changes = 1 + Math.floor(random() * 4); changes > 0; changes--) {
    const kind = Math.floor(random() * 4);
    if (kind === 0) copy[at()] = Math.floor(random() * 256);
    else if (kind === 1) copy[at()]! ^= 1 << Math.floor(random() * 8);
    else if (kind === 2) copy.fill(random() < 0.5 ? 0 : 255, at(), at());
    else copy.copyWithin(at(), at(), at());
  }
  return random() < 0.2 ? copy.slice(0, at()) : copy;
}

interface GltfJson {
  accessors: { count: number; type: string }[];
  bufferViews: { byteLength: number }[];
  nodes: object[];
  meshes: object[];
}

/** A GLB whose JSON is changed before it is packed again. */
function changedGlb(glb: Bytes, change: (json: GltfJson) => void): Bytes {
  const length = new DataView(glb.buffer).getUint32(12, true);
  const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + length))) as GltfJson;
  change(json);
  const packed = strToU8(JSON.stringify(json).padEnd(Math.ceil(JSON.stringify(json).length / 4) * 4));
  const rest = glb.subarray(20 + length);
  const out = new Uint8Array(20 + packed.length + rest.length);
  out.set(glb.subarray(0, 12));
  const view = new DataView(out.buffer);
  view.setUint32(8, out.length, true);
  view.setUint32(12, packed.length, true);
  out.set(glb.subarray(16, 20), 16);
  out.set(packed, 20);
  out.set(rest, 20 + packed.length);
  return out;
}

const STEP_HEAD =
  "ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nFILE_NAME('','',(''),(''),'','','');\nFILE_SCHEMA(('AUTOMOTIVE_DESIGN'));\nENDSEC;\n";

/** At least sixty broken files. None of them holds a whole crate. */
export async function brokenFiles(): Promise<SourceFile[]> {
  const glb = await glbFile('none');
  const draco = await glbFile('draco');
  const meshopt = await glbFile('meshopt');
  const { gltf } = await gltfFiles();
  const ply = plyText(() => [255, 0, 0]);
  const stl = stlBinary();
  const files: [string, Bytes][] = [];
  for (const ending of ['step', 'iges', 'brep', 'stl', 'obj', 'ply', '3mf', 'fbx', 'dae', 'gltf', 'glb', 'zip']) {
    files.push(
      [`empty.${ending}`, new Uint8Array()],
      [`prose.${ending}`, text('A letter that was given the wrong name.\n'.repeat(9))],
    );
    files.push([`zeros.${ending}`, new Uint8Array(4000)]);
  }
  for (const part of [0.1, 0.5, 0.9]) {
    files.push([`cut-${part}.3mf`, cut(packageFile(), part)], [`cut-${part}.glb`, cut(glb, part)]);
    files.push([`cut-${part}-draco.glb`, cut(draco, part)], [`cut-${part}-meshopt.glb`, cut(meshopt, part)]);
    files.push([`cut-${part}.gltf`, cut(gltf, part)]);
  }
  files.push(
    ['cut.dae', cut(daeText(), 0.5)],
    ['cut.fbx', cut(fbxText(), 0.4)],
    ['header-only.ply', text(new TextDecoder().decode(ply).split('end_header')[0]! + 'end_header\n')],
    ['claims-3-gigabytes.ply', text(new TextDecoder().decode(ply).replace('vertex 8', 'vertex 268435456'))],
    ['claims-minus.ply', text(new TextDecoder().decode(ply).replace('face 12', 'face -12'))],
    ['no-faces.ply', text(new TextDecoder().decode(ply).replace('face 12', 'face 0'))],
    ['endless-header.ply', text(`ply\n${'comment nothing\n'.repeat(6000)}`)],
    ['all-nan.stl', changed(stl, (view) => { for (let at = 84; at + 4 <= stl.length; at += 4) view.setUint32(at, 0x7fc00000, true); })],
    ['all-flat.stl', changed(stl, (view) => { for (let at = 84; at + 4 <= stl.length; at += 4) view.setUint32(at, 0, true); })],
    ['no-triangles.stl', text('solid nothing\nendsolid nothing\n')],
    ['words-for-numbers.stl', text(new TextDecoder().decode(stlText(['x'])).replace(/vertex .*/g, 'vertex a b c'))],
    ['no-corners.obj', text('o Crate\nf 1 2 3\nf 1 2 4\n')],
    ['out-of-range.obj', text('v 0 0 0\nf 1 7 9\nf -4 -5 -6\n')],
    ['only-points.obj', text(new TextDecoder().decode(objText()).replace(/^f .*$/gm, ''))],
    ['infinite.obj', text('v 1e400 0 0\nv 0 1e400 0\nv 0 0 1e400\nf 1 2 3\n')],
    ['no-data.step', text(`${STEP_HEAD}DATA;\nENDSEC;\nEND-ISO-10303-21;\n`)],
    ['garbage.step', text(`${STEP_HEAD}DATA;\n#1=GARBAGE((((`)],
    ['refers-to-itself.step', text(`${STEP_HEAD}DATA;\n#1=PRODUCT_DEFINITION_SHAPE('','',#1);\n#2=SHAPE_DEFINITION_REPRESENTATION(#1,#2);\nENDSEC;\nEND-ISO-10303-21;\n`)],
    ['header-only.brep', text('DBRep_DrawableShape\n\nCASCADE Topology V1, (c) Matra-Datavision\nLocations 0\n')],
    ['claims-many.brep', text('DBRep_DrawableShape\n\nCASCADE Topology V1, (c) Matra-Datavision\nLocations 0\nCurve2ds 0\nCurves 0\nPolygon3D 0\nPolygonOnTriangulations 0\nSurfaces 0\nTriangulations 0\n\nTShapes 900000000\n')],
    ['start-only.iges', text(`${'A start section without anything after it'.padEnd(72)}S      1\n`)],
    ['climbs-out.gltf', text(JSON.stringify({ ...JSON.parse(new TextDecoder().decode(gltf)), buffers: [{ uri: '../../../etc/passwd', byteLength: 300 }] }))],
    ['from-the-net.gltf', text(JSON.stringify({ ...JSON.parse(new TextDecoder().decode(gltf)), buffers: [{ uri: 'http://192.0.2.1/x.bin', byteLength: 300 }] }))],
    ['missing-buffer.gltf', gltf],
    ['list-for-object.gltf', text('["asset", {"asset": 1}]')],
    ['wrong-version.glb', changed(glb, (view) => view.setUint32(4, 77, true))],
    ['claims-3-gigabytes.glb', changed(glb, (view) => view.setUint32(12, 3_000_000_000, true))],
    ['accessor-beyond.glb', changedGlb(glb, (json) => (json.accessors[0]!.count = 700_000_000))],
    ['view-beyond.glb', changedGlb(glb, (json) => (json.bufferViews[0]!.byteLength = 3_000_000_000))],
    ['cyclic.glb', changedGlb(glb, (json) => (json.nodes = [{ mesh: 0, children: [1] }, { children: [0] }]))],
    ['no-mesh.glb', changedGlb(glb, (json) => (json.meshes = []))],
    ['wrong-kind.glb', changedGlb(glb, (json) => (json.accessors[0]!.type = 'SCALAR'))],
    ['no-model.3mf', zipSync({ 'readme.txt': strToU8('Nothing here.') }) as Bytes],
    ['nested-millions.3mf', nested([...Array(7).keys()].map((k) => [k, Array<number>(10).fill(k + 1)]))],
    ['holds-itself.3mf', nested([[0, Array<number>(1000).fill(0)]])],
    ['nested-deep.3mf', nested([...Array(200).keys()].map((k) => [k, [k + 1]]))],
    ['empty-model.3mf', zipSync({ '3D/3dmodel.model': strToU8('<model/>') }) as Bytes],
    ['climbing.zip', zipSync({ '../../../../tmp/x': strToU8('x') }) as Bytes],
  ); // prettier-ignore
  return files.map(([name, bytes]) => ({ name, bytes }));
}

/** A package whose objects hold others, by number; the first is placed. */
function nested(objects: [id: number, holds: number[]][]): Bytes {
  const written = objects.map(
    ([id, holds]) =>
      `<object id="${id}"><components>${holds.map((each) => `<component objectid="${each}"/>`).join('')}</components></object>`,
  );
  const model = `<model unit="millimeter"><resources>${written.join('')}</resources><build><item objectid="0"/></build></model>`;
  return zipSync({ '3D/3dmodel.model': strToU8(model) }) as Bytes;
}
