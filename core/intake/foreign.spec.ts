import { describe, expect, it } from 'vitest';
import { defaultRecipe, newLight } from '../document';
import { composeTransform, IDENTITY, quaternionAbout, transformPoint, type Transform } from '../geometry';
import { tidyConverted } from './converted';
import { mendModel, modelTransforms, normalizeModel, summarize, TESSELLATIONS, type Model } from './index';
import { readForeignAlong } from './foreignAlong';
import { ModelReader } from './readModel';
import * as samples from './testing/samples';

const reader = new ModelReader();
const read = (
  name: string,
  bytes: Uint8Array<ArrayBuffer>,
  companions: { name: string; bytes: Uint8Array<ArrayBuffer> }[] = [],
) => reader.read({ name, bytes }, companions, TESSELLATIONS.normal);
/** Width, height and depth in millimetres once the model stands upright. */
const sides = (model: Model) =>
  summarize(
    normalizeModel(mendModel(model, defaultRecipe()).model, { unit: model.unit, scale: 1, up: model.up, front: 0 }),
  ).size.map((side) => Math.round(side * 100) / 100);

describe('DAE', () => {
  const picture = { name: 'crate/textures/Grain.tga', bytes: new Uint8Array([7, 7]) };

  it('takes the pictures it names from the files that came along', async () => {
    const model = await read('crate.dae', samples.daeText('.\\textures\\grain.tga'), [picture]);
    expect(sides(model)).toEqual([20, 40, 30]);
    expect(model.finishes[0]!.maps).toMatchObject([{ slot: 'baseColor', picture: 0 }]);
    expect(model.pictures[0]!.bytes).toEqual(picture.bytes);
    expect(model.notes).toEqual([]);
  });

  it('is read without a picture that did not come along, and says which', async () => {
    const model = await read('crate.dae', samples.daeText('textures/grain.tga'));
    expect(sides(model)).toEqual([20, 40, 30]);
    expect(model.notes).toEqual([expect.stringMatching(/grain\.tga" did not come along/)]);
  });

  it('brings its cameras and lights, where they are and as they look', async () => {
    const model = await read('crate.dae', samples.daeText(undefined, samples.DAE_ALONG));
    const upright = normalizeModel(model, { unit: model.unit, scale: 1, up: model.up, front: 0 });
    const world = modelTransforms(upright);
    const { cameras, lights } = upright.along!;
    const at = ({ node, position }: (typeof cameras)[number] | (typeof lights)[number]) =>
      transformPoint(world[node]!, position).map((v) => Math.round(v) + 0);
    const to = ({ node, target }: (typeof cameras)[number] | (typeof lights)[number]) =>
      transformPoint(world[node]!, target).map((v) => Math.round(v) + 0);
    // 30 cm before the crate, 5 cm up, and a metre ahead of that; half of 60 degrees over half of 36 mm.
    expect(cameras.map(({ name }) => name)).toEqual(['Eye']);
    expect([at(cameras[0]!), to(cameras[0]!)]).toEqual([
      [0, 50, 300],
      [0, 50, -700],
    ]);
    expect(cameras[0]!.values.focalLength).toBeCloseTo(18 / Math.tan(Math.PI / 6), 2);
    expect([at(lights[0]!), to(lights[0]!)]).toEqual([
      [0, 250, 0],
      [0, -750, 0],
    ]);
    expect(lights[0]!.values).toMatchObject({ kind: 'spot', tint: [1, 0.5, 0], power: newLight('spot').power * 2 });
    expect(summarize(model).along).toMatchObject({ cameras: 1, lights: 1 });
  });

  it('gives a camera whose angle it does not tell that of a new one', () => {
    const nodes = [{ name: 'Eye', parent: -1, transform: IDENTITY, mesh: null, finish: null }];
    const json = '{"cameras":[{"name":"Eye","aspect":0,"horizontalfov":0.0137078,"lookat":[0,0,-1]}]}';
    expect(readForeignAlong(json, { nodes }, 10).cameras).toEqual([
      { node: 0, name: 'Eye', position: [0, 0, 0], target: [0, 0, -100], values: {} },
    ]);
  });

  it.each(['', 'null', '{"cameras":[{"name":"Eye","horizontalfov":nan}]}', '{"lights":[{"name":7}]}'])(
    'has none where they cannot be made out: %s',
    (json) => {
      expect(readForeignAlong(json, { nodes: [] }, 1)).toEqual({ cameras: [], lights: [] });
    },
  );

  it('that states no index of refraction reflects like any plastic', async () => {
    expect((await read('crate.dae', samples.daeText())).finishes[0]!.values.specularIor).toBe(1.5);
  });
});

describe('FBX', () => {
  it.each([
    [0, 'x', [30, 20, 40]],
    [1, 'y', [20, 30, 40]],
    [2, 'z', [20, 40, 30]],
  ])('that states axis %i is up lies with %s up', async (axis, up, size) => {
    const model = await read('crate.fbx', samples.fbxText(1, axis));
    expect(model.up).toBe(up);
    expect(model.upReason).toBe(`The file states that ${up.toUpperCase()} is up.`);
    expect(sides(model)).toEqual(size);
  });

  it.each([
    [0.1, 'mm'],
    [100, 'm'],
    [2.54, 'inch'],
    // No unit of ours: a length of 1 in the file is 5 m.
    [500, 'm'],
    [7, 'inch'],
  ])('with %f cm to its unit has its true size', async (centimetres, unit) => {
    const model = await read('crate.fbx', samples.fbxText(centimetres));
    expect(model.unit).toBe(unit);
    expect(sides(model).map((side) => Math.round(side * 10) / 10)).toEqual([20, 30, 40]);
  });

  it('of which a part is turned before it is placed has no parts of the tree for steps on the way', async () => {
    const model = await read(
      'crate.fbx',
      samples.fbxText(
        1,
        1,
        '\t\t\tP: "RotationActive", "bool", "", "",1\n\t\t\tP: "PreRotation", "Vector3D", "Vector", "",-90,0,0\n\t\t\tP: "Lcl Translation", "Lcl Translation", "", "A",5,0,0\n\t\t\tP: "RotationPivot", "Vector3D", "Vector", "",1,2,3\n',
      ),
    );
    expect(model.nodes.map(({ name }) => name)).toEqual(['RootNode', 'Crate']);
    expect(sides(model)).toEqual([20, 40, 30]);
  });

  it('keeps units and axis where its settings are binary', async () => {
    const string = (text: string) => `S${String.fromCharCode(text.length)}\0\0\0${text}`;
    const head = `Kaydara FBX Binary  \0\x1a\0`;
    const double = String.fromCharCode(...new Uint8Array(new Float64Array([2.54]).buffer));
    const settings = `${string('UpAxis')}${string('int')}${string('Integer')}${string('')}I\x02\0\0\0${string('UnitScaleFactor')}${string('double')}${string('Number')}${string('')}D${double}`;
    const { fbxSays } = await import('./foreign');
    const bytes = Uint8Array.from(head + settings, (c) => c.charCodeAt(0));
    expect(fbxSays(bytes)).toMatchObject({ unit: 'inch', up: 'z', unitReason: 'The file states its unit, inch.' });
    // Cut off in the middle of a number, it states nothing.
    expect(fbxSays(bytes.slice(0, -3))).toMatchObject({ unit: 'cm', up: 'z' });
  });
});

describe('3MF', () => {
  it.each([
    ['micron', 0.001],
    ['millimeter', 1],
    ['inch', 25.4],
    ['foot', 304.8],
    ['meter', 1000],
  ])('in the unit %s has its true size', async (unit, millimetres) => {
    const model = await read('crate.3mf', samples.packageFile(unit, millimetres));
    expect(sides(model).map(Math.round)).toEqual([20, 40, 30]);
    expect(model.unitReason).toBe(`The file states its unit, ${unit}.`);
  });
});

describe('a converted model', () => {
  const turned = composeTransform([0, 0, 0], quaternionAbout([1, 0, 0], -Math.PI / 2), [1, 1, 1]);
  const moved = composeTransform([10, 0, 0], [0, 0, 0, 1], [1, 1, 1]);
  const node = (name: string, parent: number, transform: Transform, mesh: number | null = null) => ({
    name,
    parent,
    transform,
    mesh,
    finish: null,
  });
  const model = (moving: number): Model => ({
    nodes: [
      node('Root', -1, moved),
      node('Lid_$AssimpFbx$_Translation', 0, moved),
      node('Lid_$AssimpFbx$_PreRotation', 1, turned),
      node('Lid', 2, moved, 0),
    ],
    meshes: [{ positions: new Float32Array([1, 2, 3]), normals: new Float32Array(), indices: new Uint32Array() }],
    finishes: [],
    pictures: [],
    unit: 'cm',
    unitReason: '',
    up: 'y',
    upReason: '',
    exact: false,
    notes: [],
    along: {
      cameras: [],
      lights: [],
      motion: [{ node: moving, held: false, keys: [{ seconds: 1, transform: moved }] }],
    },
  });
  const place = ({ nodes }: Model) => transformPoint(modelTransforms({ nodes }).at(-1)!, [1, 2, 3]);

  it.each([1, 2])('leaves every part where it was, however much larger: %f', (scale) => {
    const before = place(model(3)).map((v) => v * scale);
    const tidy = tidyConverted(model(3), scale);
    expect(tidy.nodes.map(({ name }) => name)).toEqual(['Root', 'Lid']);
    place(tidy).forEach((v, k) => expect(v).toBeCloseTo(before[k]!, 9));
  });

  it('moves as before: a key of a part holds what was between it and the one above', () => {
    const [motion] = tidyConverted(model(3), 1).along!.motion;
    expect(motion!.node).toBe(1);
    // Turned by its step about x and placed by the other before it: z is where y was.
    expect(transformPoint(motion!.keys[0]!.transform, [0, 1, 0]).map(Math.round)).toEqual([20, 0, -1]);
  });

  it('keeps a step that moves, under the name of its part', () => {
    const tidy = tidyConverted(model(1), 1);
    expect(tidy.nodes.map(({ name, parent }) => [name, parent])).toEqual([
      ['Root', -1],
      ['Lid', 0],
      ['Lid', 1],
    ]);
    expect(tidy.along!.motion[0]!.node).toBe(1);
    expect(place(tidy)).toEqual(place(model(1)));
  });
});
