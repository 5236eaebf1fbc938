import { BoxGeometry, SphereGeometry, type BufferGeometry } from 'three';
import { describe, expect, it } from 'vitest';
import { defaultRecipe, type Mend } from '../document';
import { IDENTITY, joinMeshes, transformMesh, weldPositions, type TriangleMesh } from '../geometry';
import { mendMesh, mendModel, mergeModel, triangleCount, type Model } from './index';

const mend = (mesh: TriangleMesh, leave: Mend[] = [], exact = false) =>
  mendMesh(mesh, { exact, crease: Math.PI / 6, leave: new Set(leave) });
const nothing = {
  range: 0,
  infinite: 0,
  flat: 0,
  duplicates: 0,
  mixed: 0,
  inverted: 0,
  unwelded: 0,
  normals: 0,
  open: 0,
};

function meshOf(geometry: BufferGeometry): TriangleMesh {
  const array = (name: string) => new Float32Array(geometry.getAttribute(name).array);
  return {
    positions: array('position'),
    normals: array('normal'),
    indices: new Uint32Array(geometry.getIndex()!.array),
  };
}
/** A mesh of which no two triangles share a vertex. */
const gatherTriangles = ({ positions, indices }: TriangleMesh): TriangleMesh => ({
  positions: Float32Array.from(
    { length: indices.length * 3 },
    (_, k) => positions[indices[(k / 3) | 0]! * 3 + (k % 3)]!,
  ),
  normals: new Float32Array(),
  indices: indices.map((_, k) => k),
});
const crate = () => meshOf(new BoxGeometry(10, 20, 30));
const turned = (mesh: TriangleMesh): TriangleMesh => ({
  ...mesh,
  indices: mesh.indices.map((v, k) => (k % 3 === 0 ? v : mesh.indices[k % 3 === 1 ? k + 1 : k - 1]!)),
});
/** Six times the volume. */
const volume = ({ positions: p, indices }: TriangleMesh) =>
  Array.from({ length: indices.length / 3 }, (_, t) => {
    const [a, b, c] = [0, 1, 2].map((k) => p.subarray(indices[t * 3 + k]! * 3, indices[t * 3 + k]! * 3 + 3));
    return (
      a![0]! * (b![1]! * c![2]! - b![2]! * c![1]!) +
      a![1]! * (b![2]! * c![0]! - b![0]! * c![2]!) +
      a![2]! * (b![0]! * c![1]! - b![1]! * c![0]!)
    );
  }).reduce((sum, v) => sum + v, 0);

describe('mending', () => {
  it('leaves what is sound as it is, but numbers its faces', () => {
    const { mesh, findings } = mend(crate());
    expect(findings).toEqual(nothing);
    expect(mesh.positions).toEqual(crate().positions);
    expect(mesh.indices).toEqual(crate().indices);
    expect(new Set(mesh.faces).size).toBe(6);
  });

  it('leaves closed shells apart that touch, and joins loose triangles', () => {
    const closed = (): TriangleMesh => {
      const { positions, indices } = crate();
      const { places, positions: joined } = weldPositions(positions);
      return { positions: joined, normals: new Float32Array(), indices: indices.map((vertex) => places[vertex]!) };
    };
    // One on the other: the triangles between them are there twice only if their corners are taken for the same.
    const stack = joinMeshes([closed(), transformMesh(closed(), [1, 0, 0, 0, 0, 1, 0, 20, 0, 0, 1, 0])]);
    const { mesh, findings } = mend({ ...stack, normals: new Float32Array() });
    expect(findings).toEqual(nothing);
    expect(mesh.indices).toHaveLength(stack.indices.length);
    const loose = gatherTriangles(closed());
    const made = mend(loose);
    expect(made.findings).toEqual({ ...nothing, unwelded: 36 - 8 });
    expect(made.mesh.positions).toHaveLength(24 * 3);
  });

  it('takes out triangles that name missing or infinite corners or have no area, whatever is left undone', () => {
    const mesh = crate();
    const spoiled = {
      ...mesh,
      positions: new Float32Array([...mesh.positions, NaN, 0, 0, 1e30, 0, 0]),
      normals: new Float32Array([...mesh.normals, 0, 1, 0, 0, 1, 0]),
      indices: new Uint32Array([...mesh.indices, 0, 1, 999, 0, 1, 24, 0, 1, 25, 3, 3, 5]),
    };
    const all = ['duplicates', 'orientation', 'weld', 'normals'] as Mend[];
    for (const leave of [[], all]) {
      const made = mend(spoiled, leave);
      expect(made.findings).toMatchObject({ range: 1, infinite: 2, flat: 1 });
      expect(made.mesh.indices).toHaveLength(36);
      expect(made.mesh.positions.every(Number.isFinite)).toBe(true);
    }
  });

  it('leaves out triangles that are there twice, whichever way round, unless it shall not', () => {
    const mesh = crate();
    const twice = {
      ...mesh,
      indices: new Uint32Array([...mesh.indices, ...mesh.indices.slice(0, 3), ...turned(mesh).indices.slice(6, 9)]),
    };
    expect(mend(twice).findings).toEqual({ ...nothing, duplicates: 2 });
    expect(mend(twice).mesh.indices).toHaveLength(36);
    expect(mend(twice, ['duplicates']).mesh.indices).toHaveLength(42);
  });

  it('turns a body that is inside out, with its normals, unless it shall not', () => {
    const inside = turned(crate());
    inside.normals = inside.normals.map((v) => -v);
    const made = mend(inside);
    expect(made.findings).toEqual({ ...nothing, inverted: 12 });
    expect(volume(made.mesh)).toBeCloseTo(6 * 6000, 0);
    expect(made.mesh.normals).toEqual(crate().normals.map((v) => v + 0));
    const left = mend(inside, ['orientation']);
    expect(left.findings.inverted).toBe(12);
    expect(volume(left.mesh)).toBeCloseTo(-6 * 6000, 0);
    expect(left.mesh.normals).toEqual(inside.normals);
  });

  it('turns normals round that point inwards on a sound body, unless it shall not', () => {
    const inward = { ...crate(), normals: crate().normals.map((v) => -v) };
    expect(mend(inward).findings).toEqual({ ...nothing, normals: 24 });
    expect(mend(inward).mesh.normals).toEqual(crate().normals.map((v) => v + 0));
    expect(mend(inward, ['normals']).mesh.normals).toEqual(inward.normals);
  });

  it('joins loose triangles and gives them normals that are sharp at edges and smooth on rounds', () => {
    const loose = (mesh: TriangleMesh): TriangleMesh => ({
      positions: Float32Array.from([...mesh.indices].flatMap((v) => [...mesh.positions.subarray(v * 3, v * 3 + 3)])),
      normals: new Float32Array(),
      indices: mesh.indices.map((_, k) => k),
    });
    const box = mend(loose(crate()));
    expect(box.findings).toEqual({ ...nothing, unwelded: 36 - 8 });
    expect(box.mesh.positions.length / 3).toBe(24);
    const ball = mend(loose(meshOf(new SphereGeometry(10, 32, 16))));
    expect(ball.mesh.positions.length / 3).toBe(15 * 32 + 2);
    expect(mend(loose(crate()), ['weld']).mesh.positions.length / 3).toBe(36);
  });

  it('believes solids, but turns those that are inside out', () => {
    const faces = Uint32Array.from({ length: 12 }, (_, t) => t >> 1);
    const sound = { ...crate(), faces };
    expect(mend(sound, [], true).mesh).toEqual(sound);
    const made = mend({ ...turned(sound), faces }, [], true);
    expect(made.findings.inverted).toBe(12);
    expect(volume(made.mesh)).toBeGreaterThan(0);
    expect(made.mesh.faces).toEqual(faces);
  });

  it('keeps picture coordinates with their corners', () => {
    const mesh = { ...crate(), normals: new Float32Array(), uvs: Float32Array.from({ length: 48 }, (_, k) => k / 48) };
    const made = mend(mesh).mesh;
    made.indices.forEach((vertex, at) => {
      expect(made.uvs![vertex * 2]).toBe(mesh.uvs[mesh.indices[at]! * 2]);
    });
  });
});

describe('a model', () => {
  const node = (name: string, mesh: number | null, finish: number | null, parent = -1, x = 0) => ({
    name, parent, mesh, finish, transform: [1, 0, 0, x, 0, 1, 0, 0, 0, 0, 1, 0] as Model['nodes'][number]['transform'],
  }); // prettier-ignore
  const model: Model = {
    nodes: [node('Group', null, null, -1, 100), node('A', 0, 0, 0), node('B', 0, 1, 0, 50), { ...node('C', 1, 0), faces: [0] }],
    meshes: [crate(), { ...joinMeshes([crate(), transformMesh(crate(), IDENTITY)]), faces: Uint32Array.from({ length: 24 }, (_, t) => (t < 12 ? 0 : 1)) }],
    finishes: [{ name: 'Red', values: {}, maps: [] }, { name: 'Blue', values: {}, maps: [] }],
    pictures: [], unit: 'mm', unitReason: '', up: 'y', upReason: '', exact: false, notes: [],
  }; // prettier-ignore

  it('merges what wears one finish, or all, without moving anything', () => {
    const byFinish = mergeModel(model, 'finish');
    expect(byFinish.nodes.map(({ name, finish }) => [name, finish])).toEqual([['Red and 1 more', 0], ['B', 1]]); // prettier-ignore
    expect(byFinish.nodes.map((each) => triangleCount(byFinish, each))).toEqual([24, 12]);
    expect(Math.max(...byFinish.meshes[1]!.positions.filter((_, k) => k % 3 === 0))).toBe(155);
    const all = mergeModel(model, 'all');
    expect(all.nodes).toMatchObject([{ name: 'A and 2 more', finish: 0 }]);
    expect(triangleCount(all, all.nodes[0]!)).toBe(36);
    expect(mergeModel(model, 'parts')).toBe(model);
  });

  it('says by mesh what was found, and leaves out what its recipe says', () => {
    const bad = { ...model, meshes: [model.meshes[0]!, turned(model.meshes[1]!)] };
    const recipe = defaultRecipe();
    expect(mendModel(bad, recipe).found.inverted).toEqual({ 1: expect.any(Number) as number });
    const left = mendModel(bad, { ...recipe, leave: { orientation: [1], duplicates: [1] } });
    expect(volume(left.model.meshes[1]!)).toBeLessThan(0);
  });
});
