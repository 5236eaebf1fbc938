import * as THREE from 'three';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { inOrder, newCopies, type ProjectDocument } from '@zippy/core/document';
import { boundsOfPositions, pieceMesh, transformMesh, type TriangleMesh } from '@zippy/core/geometry';
import { evaluate } from '@zippy/core/motion';
import { eventually } from '../../testing/mount';
import { sampleDocument } from '../../testing/studioBed';
import { GivenGeometries } from './drawing-portions';
import type { MeshLibrary } from './mesh-library';
import { PartMeshes, type PartsView } from './part-meshes';
import { LightRig } from '../picture/live/light-rig';
import { LiveMaterials, LiveTextures } from '../picture/live/live-materials';
import { SketchMeshes } from '../picture/sketch-meshes';

const ASSET = 'a'.repeat(64);
const box = pieceMesh({ kind: 'box', width: 20, height: 20, depth: 20, bevel: 0 });
/** Shell, knob and lid: three boxes one behind the other, seen from z. */
let boxes: TriangleMesh[];
const standing = () => [0, -50, -100].map((z) => transformMesh(box, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, z]));

let document: ProjectDocument;
let parts: PartMeshes;
let meshes: SketchMeshes;
let load: ReturnType<typeof vi.fn>;
const told = { meshes: vi.fn(), model: vi.fn(), more: vi.fn(), failure: vi.fn() };

const view = (over: Partial<PartsView> = {}): PartsView => ({
  frame: evaluate(document, document.shots['one']!, 1),
  pictures: {},
  aspect: 1.5,
  selectedNodes: new Set(),
  isolated: null,
  lit: null,
  apart: null,
  ...over,
});
const ray = (x = 0, y = 0) => new THREE.Raycaster(new THREE.Vector3(x, y, 500), new THREE.Vector3(0, 0, -1));
const hit = () => parts.cast(ray()).map(({ part }) => part.name);
/** Shows the parts once their model is there. */
const loaded = async () => {
  await eventually(() => expect(told.more).toHaveBeenCalled());
  parts.show(view());
};

beforeEach(async () => {
  for (const call of Object.values(told)) call.mockReset();
  document = sampleDocument();
  boxes = standing();
  load = vi.fn(async () => ({ meshes: boxes, bounds: boxes.map(({ positions }) => boundsOfPositions(positions)) }));
  meshes = new SketchMeshes({ load, trees: new Map() } as unknown as MeshLibrary, told);
  const materials = new LiveMaterials(new LightRig(), new LiveTextures(vi.fn()));
  parts = new PartMeshes(meshes, materials, new GivenGeometries());
});

describe('the parts of the sketch', () => {
  it('appear once their model has come, which is asked for once', async () => {
    parts.show(view());
    parts.show(view());
    expect([parts.group.children.length, meshes.has(view().frame)]).toEqual([0, false]);
    await loaded();
    expect(load).toHaveBeenCalledTimes(1);
    expect([parts.group.children.length, meshes.has(view().frame)]).toEqual([3, true]);
    const [bounds, triangles] = told.meshes.mock.calls[0]!;
    expect(bounds.get(`${ASSET}/1`).low).toEqual([-10, 0, -60]);
    expect(triangles.get(`${ASSET}/1`)).toBe(box.indices.length / 3);
    expect(told.model).toHaveBeenCalledTimes(1);
  });

  it('say why a model does not come, and ask again when they are shown again', async () => {
    load.mockRejectedValueOnce(new Error('The model could not be shown.'));
    parts.show(view());
    await eventually(() => expect(told.failure).toHaveBeenCalledWith('The model could not be shown.'));
    parts.show(view());
    await loaded();
    expect(load).toHaveBeenCalledTimes(2);
  });

  it('are met by a ray nearest first, each once, and only those that are seen', async () => {
    parts.show(view());
    await loaded();
    expect(hit()).toEqual(['Shell', 'Knob', 'Lid']);
    expect(parts.cast(ray(15))).toEqual([]);
    parts.show(view({ isolated: new Set(['knob', 'lid']) }));
    expect(hit()).toEqual(['Knob', 'Lid']);
    document.nodes['lid']!.visible = false;
    parts.show(view());
    expect(hit()).toEqual(['Shell', 'Knob']);
  });

  it('stand where the frame has them, drawn apart only in the sketch', async () => {
    document.nodes['knob']!.position = [100, 0, 0];
    parts.show(view());
    await loaded();
    expect(hit()).toEqual(['Shell', 'Lid']);
    expect(parts.cast(ray(100)).map(({ part }) => part.name)).toEqual(['Knob']);
    const middles = new Map(inOrder(document.nodes).map(({ id }) => [id, id === 'lid' ? ([0, 30, 0] as const) : ([0, 0, 0] as const)])); // prettier-ignore
    parts.show(view({ apart: { by: 2, center: [0, 0, 0], middles: middles as never } }));
    const [lid] = parts.cast(ray(0, 60));
    expect([lid!.part.name, lid!.transform[7], lid!.part.transform[7]]).toEqual(['Lid', 60, 0]);
  });

  it('lie within a rectangle of the picture only as a whole', async () => {
    document.nodes['knob']!.position = [40, 0, 50];
    document.nodes['lid']!.position = [-40, 0, 100];
    parts.show(view());
    await loaded();
    const camera = new THREE.OrthographicCamera(-100, 100, 100, -100, 1, 1000);
    camera.position.z = 500;
    camera.updateMatrixWorld();
    expect(parts.within(camera, 0, 0, 1, 1).sort()).toEqual(['knob', 'lid', 'shell']);
    // The knob reaches from 30 to 50: three quarters of the width less a little are not enough.
    expect(parts.within(camera, 0.4, 0, 0.76, 1).sort()).toEqual(['knob', 'shell']);
    expect(parts.within(camera, 0.4, 0, 0.74, 1)).toEqual(['shell']);
    expect(parts.within(camera, 0.4, 0.48, 0.6, 0.52)).toEqual([]);
  });

  it('wear their finish, are outlined where selected or dragged over, and dimmed around a part that is looked for', async () => {
    const material = (name: string) => parts.group.children.find((mesh) => mesh.name === name)! as THREE.Mesh<THREE.BufferGeometry, THREE.ShaderMaterial>; // prettier-ignore
    const outlined = () => parts.outlined.map(({ name }) => name);
    document.finishes['gold']!.baseColor = [0.9, 0.6, 0.1];
    parts.show(view());
    await loaded();
    const worn = material('knob').material;
    expect(worn.uniforms['baseColor']!.value.toArray()).toEqual([0.9, 0.6, 0.1]);
    expect([parts.hover('lid'), parts.hover('lid')]).toEqual([true, false]);
    parts.show(view({ selectedNodes: new Set(['knob']) }));
    expect(outlined().sort()).toEqual(['knob', 'lid']);
    // Neither changes what a finish looks like.
    expect(material('knob').material).toBe(worn);
    parts.hover(null);
    parts.show(view());
    expect(outlined()).toEqual([]);
    parts.show(view({ lit: new Set(['knob']) }));
    expect(['knob', 'lid'].map((name) => material(name).material.uniforms['dim']!.value)).toEqual([1, 0.06]);
  });

  it('of glass are drawn twice: its colour over what stands behind, and what it mirrors', async () => {
    document.finishes['gold']!.transmissionWeight = 1;
    document.finishes['gold']!.transmissionColor = [0.25, 1, 1];
    parts.show(view());
    await loaded();
    const knob = parts.group.children.find((mesh) => mesh.name === 'knob') as THREE.Mesh;
    const [stain, glass] = knob.material as THREE.ShaderMaterial[];
    // Half of the way in and out.
    expect(stain!.uniforms['stain']!.value.toArray()).toEqual([0.5, 1, 1]);
    expect([glass!.transparent, glass!.depthWrite]).toEqual([true, false]);
    expect(knob.geometry.groups.map(({ materialIndex }) => materialIndex)).toEqual([0, 1]);
    expect(hit()).toEqual(['Shell', 'Knob', 'Lid']);
  });

  it('are gone with their node', async () => {
    parts.show(view());
    await loaded();
    delete document.nodes['shell'];
    parts.show(view());
    expect(hit()).toEqual(['Knob', 'Lid']);
    expect(parts.group.children).toHaveLength(2);
  });

  it('that are some faces of a mesh are made of them', async () => {
    parts.show(view());
    await loaded();
    document.nodes['shell']!.mesh = { asset: ASSET, index: 0, faces: [0] };
    parts.show(view());
    await eventually(() => expect(meshes.has(view().frame)).toBe(true));
    parts.show(view());
    const shell = parts.group.children.find((mesh) => mesh.name === 'shell') as THREE.Mesh;
    expect(shell.geometry.getIndex()!.count).toBeLessThan(box.indices.length);
  });

  it('are drawn at first a portion at a time, and all at once from then on', async () => {
    boxes[0] = large();
    parts.show(view());
    await loaded();
    const drawn = () => parts.group.children.filter(({ visible }) => visible).map(({ name }) => name);
    expect(drawn()).toEqual([]);
    expect([parts.admit(), drawn()]).toEqual([true, ['shell']]);
    // Those beside the picture go along, so that none is left for the moment in which the view turns to them.
    expect(parts.group.children[0]!.frustumCulled).toBe(false);
    expect([parts.admit(), drawn()]).toEqual([false, ['shell', 'knob', 'lid']]);
    expect(parts.group.children.map(({ frustumCulled }) => frustumCulled)).toEqual([true, false, false]);
    expect([parts.admit(), parts.group.children[1]!.frustumCulled]).toEqual([false, true]);
    parts.show(view({ isolated: new Set(['knob']) }));
    expect([parts.admit(), drawn()]).toEqual([false, ['knob']]);
    parts.show(view());
    expect(drawn()).toEqual(['shell', 'knob', 'lid']);
  });

  it('are made some at a time where there are many, and all of them in the end', async () => {
    document.nodes['knob']!.copies = newCopies({ count: 1200, spacing: [1, 0, 0] });
    parts.show(view());
    await eventually(() => expect(told.more).toHaveBeenCalled());
    const made = () => parts.group.children.length;
    expect([parts.show(view()), made()]).toEqual([true, 500]);
    expect([parts.show(view()), made()]).toEqual([true, 1000]);
    expect([parts.show(view()), made()]).toEqual([false, 1202]);
    expect([parts.show(view()), made()]).toEqual([false, 1202]);
  });

  it('can be picked before they are drawn', async () => {
    parts.show(view());
    await loaded();
    expect(hit()).toEqual(['Shell', 'Knob', 'Lid']);
  });

  it('come in portions each once, those that others are seen through last', async () => {
    boxes[2] = large();
    Object.assign(document.finishes['gold']!, { transmissionWeight: 1 });
    document.nodes['shell']!.finish = 'gold';
    parts.show(view());
    await loaded();
    const portions = [...parts.portions()].map((portion) => portion.map(({ name }) => name));
    expect(portions.flat().sort()).toEqual(['knob', 'lid', 'shell']);
    const clear = inOrder(document.nodes).flatMap(({ id, finish }) => (finish === 'gold' ? [id] : []));
    expect(portions.flat().slice(-clear.length).sort()).toEqual([...clear].sort());
    expect(portions.length).toBeGreaterThan(1);
    // Given to the graphics card, all fit into one.
    expect([...parts.portions()]).toHaveLength(1);
  });

  it('that the camera does not see are seen while selected, and throw their shadows all the same', async () => {
    parts.show(view());
    await loaded();
    while (parts.admit());
    const drawn = () => parts.group.children.flatMap((mesh) => (mesh.visible ? [mesh.name] : [])).sort();
    expect(drawn()).toEqual(['knob', 'lid', 'shell']);
    document.nodes['lid']!.visibleToCamera = false;
    document.nodes['knob']!.castsShadows = false;
    parts.show(view());
    expect(drawn()).toEqual(['knob', 'shell']);
    let casting: string[] = [];
    parts.whileCasting(() => (casting = drawn()));
    expect(casting).toEqual(['lid', 'shell']);
    expect(drawn()).toEqual(['knob', 'shell']);
    parts.show(view({ selectedNodes: new Set(['lid']) }));
    expect(drawn()).toEqual(['knob', 'lid', 'shell']);
    parts.show(view({ isolated: new Set(['knob']) }));
    parts.whileCasting(() => (casting = drawn()));
    expect(casting).toEqual([]);
  });
});

/** A box with so many triangles that it fills a portion. */
function large(): TriangleMesh {
  const indices = new Uint32Array(2_000_000);
  indices.set(box.indices);
  return { ...box, indices };
}
