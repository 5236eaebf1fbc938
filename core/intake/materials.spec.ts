import { encode } from 'fast-png';
import { describe, expect, it } from 'vitest';
import {
  defaultRecipe,
  newAsset,
  newDocument,
  newFinish,
  newMap,
  newNode,
  type Finish,
  type ProjectDocument,
} from '../document';
import { box } from '../trace/testing/renderState';
import { lightColor, LUMENS_PER_WATT, partRadiance } from '../optics';
import {
  mendModel,
  modelTree,
  placeModel,
  readGlb,
  readMeshesGlb,
  readObj,
  readPicture,
  writeMeshesGlb,
  writeSceneGlb,
  type Model,
} from './index';

const sound = (model: Model): Model => mendModel(model, defaultRecipe()).model;

const png = encode({
  width: 1,
  height: 1,
  data: new Uint8Array([10, 20, 30, 255]),
  channels: 4,
}) as Uint8Array<ArrayBuffer>;
const uvs = new Float32Array(48).map((_, k) => k / 48);
const mesh = { ...box(10, 20, 30), uvs };

function project(finish: Partial<Finish>): ProjectDocument {
  const document = structuredClone(newDocument('Test'));
  document.finishes['f'] = newFinish({ id: 'f', name: 'Worn', ...finish });
  document.nodes['n'] = newNode({ id: 'n', name: 'Part', kind: 'part', finish: 'f', mesh: { asset: 'a', index: 0 } });
  const hash = '0'.repeat(64);
  for (const id of ['grain', 'bumps'])
    document.assets[id] = newAsset({ id, name: id, kind: 'picture', hash, sourceName: `${id}.png` });
  return document;
}

/** What a finish is after it was written as a glTF material and read again. */
async function throughGltf(finish: Partial<Finish>): Promise<Finish> {
  const glb = await writeSceneGlb(project(finish), { mesh: async () => mesh, picture: async () => png });
  const model = sound(await readGlb(glb, 'own.glb'));
  const pictures = model.pictures.map(({ name }) => name);
  return placeModel(modelTree(model), 'a', 'x', 0, pictures).finishes[0]!;
}

describe('a finish goes to glTF and comes back', () => {
  it.each<[string, Partial<Finish>]>([
    ['matte', { baseColor: [0.1, 0.2, 0.3], specularRoughness: 0.7 }],
    [
      'brushed metal',
      { baseMetalness: 1, specularRoughness: 0.3, specularRoughnessAnisotropy: 0.6, specularRotation: 0.4 },
    ],
    ['coated', { coatWeight: 0.8, coatRoughness: 0.1 }],
    ['velvet', { fuzzWeight: 0.5, fuzzColor: [1, 0.5, 0.25], fuzzRoughness: 0.6 }],
    [
      'thick glass',
      {
        baseColor: [1, 1, 1],
        transmissionWeight: 1,
        transmissionColor: [0.2, 0.9, 0.4],
        transmissionDepth: 12,
        specularRoughness: 0,
        specularIor: 1.7,
      },
    ],
    ['thin sheet', { transmissionWeight: 1, transmissionColor: [0.9, 0.5, 0.4], thinWalled: true }],
    ['prism', { baseColor: [1, 1, 1], transmissionWeight: 1, transmissionDispersionScale: 0.5 }],
    ['soap film', { thinFilmWeight: 1, thinFilmThickness: 0.32, thinFilmIor: 1.33 }],
    ['weak highlight', { specularWeight: 0.4, specularColor: [1, 0.8, 0.6] }],
    ['half there', { geometryOpacity: 0.5 }],
  ])('%s', async (_, finish) => {
    const back = await throughGltf(finish);
    for (const [name, value] of Object.entries(finish)) {
      const found = back[name as 'baseColor'];
      // Glass that is tinted at its surface has one colour in glTF.
      if (Array.isArray(value)) value.forEach((v: number, k) => expect(found[k], name).toBeCloseTo(v, 4));
      else if (typeof value === 'number') expect(found, name).toBeCloseTo(value, 4);
      else expect(found, name).toBe(value);
    }
  });

  it('with its light: lumens become the nits that they are on this part', async () => {
    const lamp: Partial<Finish> = { emissionPower: 20, emissionKelvin: 2700, emissionColor: [1, 0.9, 0.8] };
    const back = await throughGltf(lamp);
    const area = 2 * (10 * 20 + 20 * 30 + 30 * 10);
    const radiance = partRadiance(newFinish(lamp), 1, area);
    expect(back.emissionUnit).toBe('nit');
    expect(back.emissionPower / (radiance * LUMENS_PER_WATT)).toBeCloseTo(1, 4);
    const [was, is] = [lightColor(2700, [1, 0.9, 0.8]), lightColor(back.emissionKelvin, back.emissionColor)];
    is.forEach((v, k) => expect(v).toBeCloseTo(was[k]!, 4));
  });

  it('with its pictures where glTF has a place for them', async () => {
    const place = { repeatU: 2, repeatV: -3, turn: 0.5, offsetU: 0.25, offsetV: 0.75 };
    const maps: Finish['maps'] = {
      baseColor: newMap('baseColor', 'grain', place),
      specularRoughness: newMap('specularRoughness', 'bumps', { channel: 'green' }),
      normal: newMap('normal', 'bumps', { strength: 0.5 }),
      emissionColor: newMap('emissionColor', 'grain'),
      coatWeight: newMap('coatWeight', 'grain'),
      fuzzColor: newMap('fuzzColor', 'grain'),
      specularColor: newMap('specularColor', 'grain'),
      transmissionWeight: newMap('transmissionWeight', 'grain'),
      thinFilmThickness: newMap('thinFilmThickness', 'grain', { channel: 'green', strength: 0.75 }),
    };
    const back = await throughGltf({
      maps,
      emissionPower: 1,
      coatWeight: 1,
      fuzzWeight: 1,
      transmissionWeight: 0.3,
      thinFilmWeight: 1,
    });
    for (const [slot, map] of Object.entries(maps)) {
      const { turn, strength, ...rest } = back.maps[slot as 'normal']!;
      expect(rest, slot).toMatchObject({
        source: map.source,
        channel: map.channel,
        coding: map.coding,
        repeatU: map.repeatU,
        offsetV: map.offsetV,
      });
      expect(turn).toBeCloseTo(map.turn, 5);
      expect(strength).toBeCloseTo(map.strength, 5);
    }
    // In glTF roughness and metalness share one picture, so the other comes back with it.
    expect(back.maps.baseMetalness).toMatchObject({ source: { picture: 'bumps' }, channel: 'blue' });
  });
});

describe('coordinates of pictures', () => {
  it('stay on meshes, also where a file packs them in whole numbers', async () => {
    const [back] = await readMeshesGlb(writeMeshesGlb([mesh]));
    expect(back!.uvs).toEqual(uvs);
    expect(sound({ ...(await readGlb(writeMeshesGlb([mesh]), 'x.glb')) }).meshes[0]!.uvs).toEqual(uvs);
  });

  it('that are broken are left out without the mesh', async () => {
    const model = await readGlb(writeMeshesGlb([mesh]), 'x.glb');
    model.meshes[0]!.uvs![3] = NaN;
    const [clean] = sound(model).meshes;
    expect(clean!.uvs).toBeUndefined();
    expect(clean!.indices).toHaveLength(36);
  });
});

describe('OBJ with pictures', () => {
  const obj = 'v 0 0 0\nv 10 0 0\nv 0 10 0\nvt 0 0\nvt 1 0\nvt 0 1\nusemtl m\nf 1/1 2/2 3/3\n';
  const mtl = 'newmtl m\nKd 0 0 0\nmap_Kd -s 1 1 1 C:\\work\\Grain.PNG\nPr 0.2\nmap_Pr rough.png\n';

  it('wears those that came along, the right way up, and names those that did not', () => {
    const model = readObj(new TextEncoder().encode(obj), 'x.obj', mtl, [{ name: 'grain.png', bytes: png }]);
    expect(model.finishes[0]!.maps).toEqual([{ slot: 'baseColor', picture: 0, over: {} }]);
    expect(model.finishes[0]!.values.baseColor).toEqual([1, 1, 1]);
    expect([...model.meshes[0]!.uvs!]).toEqual([0, 1, 1, 1, 0, 0]);
    expect(model.notes.join()).toMatch(/did not come along: rough\.png/);
  });
});

describe('a picture named in an MTL', () => {
  it.each([
    'grain.png',
    '-s 1 2 1 grain.png',
    '-clamp on -bm 0.5 grain.png',
    '-imfchan r ./maps/grain.png',
    '-s 1 1 1 C:\\work\\grain.png',
  ])('is found behind options and folders: %s', (named) => {
    const obj = new TextEncoder().encode('v 0 0 0\nv 10 0 0\nv 0 10 0\nusemtl m\nf 1 2 3\n');
    const model = readObj(obj, 'x.obj', `newmtl m\nmap_Kd ${named}\n`, [{ name: 'grain.png', bytes: png }]);
    expect(model.finishes[0]!.maps).toHaveLength(1);
  });
});

describe('a picture', () => {
  it('is read as it was kept, and refused where it is damaged', () => {
    expect(readPicture(png, 'x').pixels).toEqual(new Uint8Array([10, 20, 30, 255]));
    expect(() => readPicture(png.slice(0, 40), 'cut.png')).toThrow(/"cut.png" is damaged/);
    expect(() => readPicture(new Uint8Array([1, 2, 3]), 'no.png')).toThrow(/damaged/);
    const grey = encode({ width: 1, height: 1, data: new Uint8Array([1]), channels: 1 });
    expect(() => readPicture(grey, 'grey.png')).toThrow(/damaged/);
  });
});
