import { UserProblem } from '../document';
import { IDENTITY, ownVertices, type TriangleMesh } from '../geometry';
import { colorFinish, type Model, type ModelFinish, type ModelPicture } from './model';
import { readMtl } from './mtl';
import { scanObj, type ObjGroup } from './objScan';
import { findCompanion } from './sources';
import { guessUnitOf } from './summary';
import { triangulate } from './polygons';

/** The materials file that an OBJ file names, among those that came along; else the first of them. */
export function namedMaterials<T extends { name: string }>(bytes: Uint8Array, companions: readonly T[]): T | undefined {
  const materials = companions.filter(({ name }) => /\.mtl$/i.test(name));
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 65_536));
  const named = /^\s*mtllib\s+(.+?)\s*$/m.exec(head)?.[1];
  return (named && findCompanion(materials, named)) || materials[0];
}

/**
 * Reads OBJ with the text of its MTL file, if there is one: one part per object and material.
 * @param pictures what else came along; the MTL names those it wants
 * @throws UserProblem `file-broken`
 */
export function readObj(bytes: Uint8Array, name: string, mtl: string | null, pictures: ModelPicture[] = []): Model {
  const { positions, normals, uvs, groups } = scanObj(bytes);
  if (groups.length === 0)
    throw new UserProblem('file-broken', `"${name}" holds no faces. Export it again as a mesh.`, 422);
  const missing = new Set<string>();
  const pictureOf = (path: string): number | null => {
    // Options with their numbers stand before the file. Paths of another machine say nothing here.
    const file = path.trim().replace(/^(-\w+(\s+(on|off|[a-z]|[-\d.]+))*\s+)+/, '');
    const found = findCompanion(pictures, file);
    if (!found) missing.add(file.replace(/^.*[/\\]/, ''));
    return found ? pictures.indexOf(found) : null;
  };
  const described = mtl === null ? new Map<string, ModelFinish>() : readMtl(mtl, pictureOf);
  const finishes: ModelFinish[] = [];
  const known = new Map<string, number>();
  const finishOf = (material: string): number => {
    const at = known.get(material) ?? finishes.length;
    if (at === finishes.length)
      finishes.push(described.get(material) ?? colorFinish(material || 'Finish', [0.5, 0.5, 0.5]));
    known.set(material, at);
    return at;
  };
  const gather = new PartGatherer(positions, normals, uvs);
  const meshes = groups.map((group) => gather.mesh(group));
  const materials = new Map<number, number>();
  for (const { object } of groups) materials.set(object, (materials.get(object) ?? 0) + 1);
  const label = name.replace(/\.[^.]*$/, '');
  const { unit, reason } = guessUnitOf(meshes);
  return {
    nodes: groups.map(({ name: object, material, object: number }, mesh) => ({
      name: materials.get(number)! > 1 ? `${object || label} ${material}` : object || label,
      parent: -1,
      transform: IDENTITY,
      mesh,
      finish: mtl !== null ? finishOf(material) : null,
    })),
    meshes,
    finishes,
    pictures,
    unit,
    unitReason: reason,
    up: 'y',
    upReason: 'OBJ files are most often Y up.',
    exact: false,
    notes: [
      ...(mtl === null ? ['No MTL file came along, so parts have no colours yet.'] : []),
      ...(missing.size > 0
        ? [`Pictures that did not come along: ${[...missing].join(', ')}. Drop them with the file.`]
        : []),
    ],
  };
}

/** A corner names what is not in the file; no mesh has a vertex of this number, so the triangle is found and left out later. */
const NOWHERE = 0xffffffff;

/** Takes the vertices of single parts out of the lists that an OBJ file has for all of them. */
class PartGatherer {
  /** For each position of the file the first vertex of the part that stands there, and the part that is meant. */
  private readonly firsts: Uint32Array;
  private readonly owners: Uint32Array;
  private part = 0;

  constructor(
    private readonly positions: Float32Array,
    private readonly normals: Float32Array,
    private readonly uvs: Float32Array,
  ) {
    this.firsts = new Uint32Array(positions.length / 3);
    this.owners = new Uint32Array(positions.length / 3);
  }

  mesh({ corners, uvCorners, normalCorners, polygons }: ObjGroup): TriangleMesh {
    const { firsts, owners } = this;
    const part = ++this.part;
    const worn = uvCorners !== null;
    // Where a corner has no normal, all are made anew later.
    const smooth = normalCorners !== null && normalCorners.every((at) => at >= 0 && at * 3 < this.normals.length);
    if (!worn && !smooth) return this.bareMesh(corners, polygons);
    // Vertices of the part by what they were made of; those at one position in a chain.
    const sources = new Uint32Array(corners.length);
    const chain = new Int32Array(corners.length);
    const vertices = new Uint32Array(corners.length);
    let count = 0;
    for (let corner = 0; corner < corners.length; corner++) {
      const at = corners[corner]!;
      if (at < 0 || at >= firsts.length) {
        vertices[corner] = NOWHERE;
        continue;
      }
      const met = owners[at] === part;
      let vertex = met ? firsts[at]! : -1;
      while (
        vertex >= 0 &&
        ((worn && uvCorners[sources[vertex]!] !== uvCorners[corner]) ||
          (smooth && normalCorners[sources[vertex]!] !== normalCorners[corner]))
      )
        vertex = chain[vertex]!;
      if (vertex < 0) {
        vertex = count++;
        sources[vertex] = corner;
        chain[vertex] = met ? firsts[at]! : -1;
        owners[at] = part;
        firsts[at] = vertex;
      }
      vertices[corner] = vertex;
    }
    const made = pick(this.positions, corners, sources, count, 3);
    const coordinates = worn ? pick(this.uvs, uvCorners, sources, count, 2) : null;
    // v goes up in OBJ files.
    if (coordinates) for (let k = 1; k < coordinates.length; k += 2) coordinates[k] = 1 - coordinates[k]!;
    return {
      positions: made,
      normals: smooth ? pick(this.normals, normalCorners, sources, count, 3) : new Float32Array(),
      indices: polygons === null ? vertices : triangulate(made, vertices, polygons),
      ...(coordinates ? { uvs: coordinates } : {}),
    };
  }

  /** A part with nothing but positions, of each of which there is one vertex. */
  private bareMesh(corners: Int32Array, polygons: Uint32Array | null): TriangleMesh {
    const { positions, vertices } = ownVertices(this.positions, corners);
    const indices = polygons === null ? vertices : triangulate(positions, vertices, polygons);
    return { positions, normals: new Float32Array(), indices };
  }
}

/** What the corners that vertices were made from name in one of the file's lists; nothing where they name nothing. */
function pick(
  list: Float32Array,
  named: Int32Array,
  sources: Uint32Array,
  count: number,
  width: number,
): Float32Array<ArrayBuffer> {
  const out = new Float32Array(count * width);
  for (let vertex = 0; vertex < count; vertex++) {
    const from = named[sources[vertex]!]! * width;
    if (from < 0 || from >= list.length) continue;
    for (let k = 0; k < width; k++) out[vertex * width + k] = list[from + k]!;
  }
  return out;
}
