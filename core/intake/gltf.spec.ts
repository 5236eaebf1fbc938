import { NodeIO, type GLTF } from '@gltf-transform/core';
import { describe, expect, it } from 'vitest';
import { defaultRecipe, finishSchema } from '../document';
import { mendModel, modelTree, normalizeModel, placeModel, readGlb, summarize, type Model } from './index';
import * as samples from './testing/samples';

const size = (model: Model) => summarize(model).size.map((v) => Math.round(v * 100) / 100);
const sound = (model: Model) => mendModel(model, defaultRecipe());

describe('glTF', () => {
  it.each([
    ['strip', 5, [0, 1, 2, 3, 6, 7, 4, 5]],
    ['fan', 6, [0, 1, 3, 2, 6, 4, 5, 1]],
  ])('with its triangles as a %s has each of them, turned alike', async (_, mode, corners) => {
    const bytes = await samples.gltfText((json) => {
      const list = new Uint8Array(new Uint16Array(corners).buffer);
      json.buffers!.push({
        byteLength: list.length,
        uri: `data:application/octet-stream;base64,${Buffer.from(list).toString('base64')}`,
      });
      json.bufferViews!.push({ buffer: 1, byteOffset: 0, byteLength: list.length });
      const at = json.bufferViews!.length - 1;
      json.accessors!.push({ bufferView: at, componentType: 5123, count: corners.length, type: 'SCALAR' });
      Object.assign(json.meshes![0]!.primitives[0]!, { mode, indices: json.accessors!.length - 1 });
    });
    const model = await readGlb(bytes, 'crate.gltf');
    expect(model.meshes[0]!.indices).toHaveLength((corners.length - 2) * 3);
    expect(sound(model).found.mixed).toBeUndefined();
  });

  it('says that its points and lines were left out, and keeps the rest', async () => {
    const bytes = await samples.gltfText((json) => {
      const [first] = json.meshes![0]!.primitives;
      json.meshes![0]!.primitives.push({ ...first!, mode: 1 });
    });
    const model = await readGlb(bytes, 'crate.gltf');
    expect(model.notes).toEqual(['Points and lines were left out.']);
    expect(size(model)).toEqual([20, 30, 40]);
  });

  it('shows the scene it names, and all its nodes where it has none', async () => {
    const two = (json: GLTF.IGLTF) => {
      json.nodes!.push({ ...json.nodes![0]!, name: 'Second', scale: [2, 2, 2] });
      json.scenes = [{ nodes: [0] }, { nodes: [1] }];
      json.scene = 1;
    };
    expect(size(await readGlb(await samples.gltfText(two), 'two.gltf'))).toEqual([40, 60, 80]);
    const none = await samples.gltfText((json) => {
      two(json);
      delete json.scenes;
      delete json.scene;
    });
    const model = await readGlb(none, 'none.gltf');
    expect(model.nodes.map(({ name }) => name)).toEqual(['Crate', 'Second']);
  });

  it('in one file with a picture beside it finds the picture, or says that it is missing', async () => {
    const glb = await samples.glbFile('none');
    const { json } = await new NodeIO().binaryToJSON(glb);
    Object.assign(json, { images: [{ uri: 'maps/grain.png' }], textures: [{ source: 0 }] });
    json.materials![0]!.pbrMetallicRoughness!.baseColorTexture = { index: 0 };
    const text = new TextEncoder().encode(JSON.stringify(json).padEnd(4096));
    const binary = glb.subarray(20 + new DataView(glb.buffer).getUint32(12, true));
    const bytes = new Uint8Array(20 + text.length + binary.length);
    bytes.set(glb.subarray(0, 20));
    bytes.set(text, 20);
    bytes.set(binary, 20 + text.length);
    const view = new DataView(bytes.buffer);
    view.setUint32(8, bytes.length, true);
    view.setUint32(12, text.length, true);
    const found = await readGlb(bytes, 'crate.glb', [{ name: 'Grain.PNG', bytes: new Uint8Array([5]) }]);
    expect([...found.pictures[0]!.bytes]).toEqual([5]);
    expect(size(found)).toEqual([20, 30, 40]);
    const alone = await readGlb(bytes, 'crate.glb');
    expect(alone.notes).toEqual([expect.stringMatching(/maps\/grain.png" did not come along/)]);
    expect(size(alone)).toEqual([20, 30, 40]);
  });

  it('of the first version is told apart from a damaged file', async () => {
    const text = await samples.gltfText((json) => (json.asset.version = '1.0'));
    await expect(readGlb(text, 'old.gltf')).rejects.toThrow('"old.gltf" is glTF 1.0, which is not read.');
    const glb = (await samples.glbFile('none')).slice();
    new DataView(glb.buffer).setUint32(4, 1, true);
    await expect(readGlb(glb, 'old.glb')).rejects.toThrow('"old.glb" is glTF 1.0, which is not read.');
  });

  it('that needs an extension nobody here knows says which', async () => {
    const text = await samples.gltfText((json) =>
      Object.assign(json, { extensionsUsed: ['X_new'], extensionsRequired: ['X_new'] }),
    );
    await expect(readGlb(text, 'new.gltf')).rejects.toThrow(/needs the extension X_new/);
  });

  it('with finishes beyond all range is taken in with the nearest that can be', async () => {
    const text = await samples.gltfText((json) => {
      json.materials![0] = {
        name: 'x'.repeat(500),
        pbrMetallicRoughness: { baseColorFactor: [-1, 0.5, 1e9, 1], metallicFactor: 7, roughnessFactor: -2.2 },
        emissiveFactor: [3, 3, 1e30],
      };
    });
    const { finishes } = placeModel(modelTree(await readGlb(text, 'odd.gltf')), '0'.repeat(64), 'Odd', 0);
    const finish = finishSchema.parse(finishes[0]);
    expect(finish).toMatchObject({ baseColor: [0, 0.5, 1000], baseMetalness: 1, specularRoughness: 0 });
    expect(finish.emissionPower).toBe(1e9);
  });
});

describe('the size of a model', () => {
  it('is that of what is seen, not of the turned box round it', async () => {
    const diagonal = Math.SQRT1_2;
    const text = await samples.gltfText((json) => {
      // 45 degrees about y; the crate is 20 wide and 40 deep.
      json.nodes![0]!.rotation = [0, Math.sin(Math.PI / 8), 0, Math.cos(Math.PI / 8)];
      json.nodes!.push({ children: [0], rotation: [0, Math.sin(Math.PI / 8), 0, Math.cos(Math.PI / 8)] });
      json.scenes = [{ nodes: [1] }];
    });
    expect(size(await readGlb(text, 'turned.gltf'))).toEqual([40, 30, 20]);
    const once = await samples.gltfText((json) => {
      json.nodes![0]!.rotation = [0, Math.sin(Math.PI / 8), 0, Math.cos(Math.PI / 8)];
    });
    const [width] = summarize(await readGlb(once, 'turned.gltf')).size;
    expect(width).toBeCloseTo((20 + 40) * diagonal, 2);
  });
});

describe('a model beyond all reach', () => {
  it.each([
    ['whose part lies a light second away', { translation: [3e8, 0, 0] }],
    ['that is as large', { scale: [1e10, 1e10, 1e10] }],
  ])('%s is refused in that unit with a sentence', async (_, place) => {
    const text = await samples.gltfText((json) => Object.assign(json.nodes![0]!, place));
    const far = normalizeModel(await readGlb(text, 'far.gltf'), { unit: 'm', scale: 1, up: 'y', front: 0 });
    expect(() => modelTree(far)).toThrow(/reaches [\d,]+ km far; at most 5 km can be placed\. Choose a smaller unit/);
  });
});
