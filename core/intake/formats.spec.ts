import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { zipSync } from 'fflate';
import { beforeAll, describe, expect, it } from 'vitest';
import { defaultRecipe } from '../document';
import { unpackArchive } from './archive';
import type { CadKernel } from './cad';
import { startCadKernel } from './cadKernel';
import {
  fileTessellation,
  groupFiles,
  mendModel,
  normalizeModel,
  readMeshesGlb,
  summarize,
  TESSELLATIONS,
  writeMeshesGlb,
  type Model,
} from './index';
import { ModelReader } from './readModel';
import * as samples from './testing/samples';

const reader = new ModelReader();
const read = (
  name: string,
  bytes: Uint8Array<ArrayBuffer>,
  companions: { name: string; bytes: Uint8Array<ArrayBuffer> }[] = [],
) => reader.read({ name, bytes }, companions, TESSELLATIONS.normal);
/** The model upright in millimetres, as it would be taken in. */
const taken = (model: Model) => {
  const { model: mended, found } = mendModel(model, defaultRecipe());
  const upright = normalizeModel(mended, { unit: model.unit, scale: 1, up: model.up, front: 0 });
  return { model: upright, found, summary: summarize(upright) };
};
const sides = (model: Model) => taken(model).summary.size.map((side) => Math.round(side * 1000) / 1000);
const red = (model: Model) => model.finishes[model.nodes.find((node) => node.mesh !== null)!.finish!]!;

/** A text in two bytes a character, or with the mark of UTF-8, as some programs write it. */
function recoded(bytes: Uint8Array, coding: 'utf-8' | 'utf-16'): Uint8Array<ArrayBuffer> {
  const text = `\ufeff${new TextDecoder().decode(bytes)}`;
  return coding === 'utf-8' ? new TextEncoder().encode(text) : new Uint8Array(Uint16Array.from([...text], (each) => each.charCodeAt(0)).buffer); // prettier-ignore
}

describe('a crate in a text', () => {
  it.each<[string, () => Uint8Array<ArrayBuffer>]>([
    ['crate.stl', () => samples.stlText(['Crate'])],
    ['crate.ply', () => samples.plyText(() => [255, 0, 0])],
    ['crate.obj', samples.objText],
    ['crate.dae', samples.daeText],
    ['crate.fbx', samples.fbxText],
  ])('of %s is read however its characters are coded', async (name, make) => {
    const plain = taken(await read(name, make())).summary;
    expect(plain.triangles).toBe(12);
    for (const coding of ['utf-8', 'utf-16'] as const)
      expect(taken(await read(name, recoded(make(), coding))).summary, coding).toEqual(plain);
  });
});

describe('a crate', () => {
  it.each<[string, () => Uint8Array<ArrayBuffer> | Promise<Uint8Array<ArrayBuffer>>, number[], boolean]>([
    // Z up lies down to Y up: depth becomes height.
    ['crate.stl', () => samples.stlText(['Crate']), [20, 40, 30], false],
    ['crate.stl', samples.stlBinary, [20, 40, 30], false],
    ['crate.ply', () => samples.plyText(() => [255, 0, 0]), [20, 40, 30], true],
    ['crate.3mf', () => samples.packageFile(), [20, 40, 30], true],
    ['crate.dae', samples.daeText, [20, 40, 30], true],
    ['crate.fbx', samples.fbxText, [20, 30, 40], true],
    ['crate.glb', () => samples.glbFile('none'), [20, 30, 40], true],
    ['crate.glb', () => samples.glbFile('draco'), [20, 30, 40], true],
    ['crate.glb', () => samples.glbFile('meshopt'), [20, 30, 40], true],
  ])(
    'in %s has its true size, twelve triangles that face outwards, and its colour',
    async (name, make, size, colored) => {
      const model = await read(name, await make());
      expect(sides(model)).toEqual(size.map((side) => expect.closeTo(side, 1) as number));
      const { summary, found } = taken(model);
      expect(summary).toMatchObject({ parts: 1, triangles: 12 });
      expect(found.inverted).toBeUndefined();
      expect(found.open).toBeUndefined();
      if (colored) expect(red(model).values.baseColor!.map((v) => Math.round(v))).toEqual([1, 0, 0]);
    },
  );

  it('in OBJ finds the material file it names and the picture in its folder', async () => {
    const picture = { name: 'textures/grain.png', bytes: new Uint8Array([1]) };
    const model = await read('crate.obj', samples.objText(), [
      { name: 'other.mtl', bytes: new TextEncoder().encode('newmtl Red\nKd 0 1 0\n') },
      { name: 'crate.mtl', bytes: samples.mtlText() },
      picture,
    ]);
    expect(red(model)).toMatchObject({ name: 'Red', maps: [{ slot: 'baseColor', picture: 0 }] });
    expect(model.pictures).toEqual([picture]);
    expect(model.notes).toEqual([]);
  });

  it('in glTF finds its buffer beside it, and without it says which one is missing', async () => {
    const { gltf, buffer } = await samples.gltfFiles();
    expect(sides(await read('crate.gltf', gltf, [{ name: 'data/the crate.bin', bytes: buffer }]))).toEqual([
      20, 30, 40,
    ]);
    expect(sides(await read('crate.gltf', gltf, [{ name: 'the crate.bin', bytes: buffer }]))).toEqual([20, 30, 40]);
    await expect(read('crate.gltf', gltf)).rejects.toThrow(
      /needs the file "data\/the%20crate.bin".*Drop both together/,
    );
  });

  it('of STL text that was cut keep the triangles that are whole, and say so', async () => {
    const whole = samples.stlText(['Crate']);
    const text = new TextDecoder().decode(whole);
    for (const [cut, triangles] of [
      [text.slice(0, text.lastIndexOf('endsolid')), 12],
      [text.slice(0, text.split('endfacet', 4).join('endfacet').length + 'endfacet'.length + 20), 4],
    ] as const) {
      const model = await read('cut.stl', new TextEncoder().encode(cut) as Uint8Array<ArrayBuffer>);
      expect(model.meshes[0]!.indices.length / 3).toBe(triangles);
      expect(model.notes.join()).toMatch(/ends before its data does/);
    }
    expect((await read('whole.stl', whole)).notes).toEqual([]);
  });

  it('in STL with several solids becomes a part for each', async () => {
    const model = await read('two.stl', samples.stlText(['Lid', 'Box']));
    expect(model.nodes.map((node) => node.name)).toEqual(['Lid', 'Box']);
    expect(taken(model).summary).toMatchObject({ parts: 2, triangles: 24 });
  });

  it('in PLY with a few colours has a finish for each, with many a picture', async () => {
    const two = await read(
      'two.ply',
      samples.plyText((corner) => (corner < 4 ? [255, 0, 0] : [0, 0, 255])),
    );
    expect(two.finishes.length).toBeGreaterThan(1);
    expect(taken(two).summary.triangles).toBe(12);
    const mesh = {
      positions: new Float32Array(Array.from({ length: 900 }, (_, k) => Math.sin(k) * 50)),
      normals: new Float32Array(),
      indices: Uint32Array.from({ length: 300 }, (_, k) => k),
    };
    const { colorModel } = await import('./vertexColors');
    const painted = colorModel(
      mesh,
      mesh.positions.map((_, k) => (((k / 9) | 0) % 100) / 100),
      'Scan',
    );
    expect(painted.finishes).toMatchObject([{ maps: [{ slot: 'baseColor', picture: 0 }] }]);
    const { decode } = await import('fast-png');
    const { width, height, data } = decode(painted.pictures[0]!.bytes);
    const { encodeSrgb } = await import('../optics');
    for (const t of [0, 1, 57, 99]) {
      const [u, v] = [0, 1].map(
        (k) =>
          (painted.mesh.uvs![t * 6 + k]! + painted.mesh.uvs![t * 6 + 2 + k]! + painted.mesh.uvs![t * 6 + 4 + k]!) / 3,
      );
      const at = (Math.floor(v! * height) * width + Math.floor(u! * width)) * 3;
      expect(data[at]! / 255).toBeCloseTo(encodeSrgb((t % 100) / 100), 1);
    }
  });
});

describe('solids', () => {
  let cad: CadKernel;
  beforeAll(async () => {
    cad = await startCadKernel(
      readFileSync(createRequire(import.meta.url).resolve('opencascade.js/dist/opencascade.full.wasm')),
    );
    await read('warm.step', samples.solidFile(cad, 'step'));
  }, 240_000);

  it.each(['step', 'iges', 'brep'] as const)('in %s keep their size and their six faces', async (format) => {
    const model = await read(`crate.${format}`, samples.solidFile(cad, format));
    expect(sides(model)).toEqual([20, 40, 30]);
    const faces = new Set(model.meshes.flatMap((mesh, k) => [...mesh.faces!].map((face) => `${k}/${face}`)));
    expect(faces.size).toBe(6);
    expect(taken(model).found).toEqual({});
  });

  it('with a face of another colour become a part for each colour, of one mesh', async () => {
    const model = await read('crate.step', samples.solidFile(cad, 'step'));
    expect(model.meshes).toHaveLength(1);
    const parts = model.nodes.filter((node) => node.mesh === 0);
    expect(parts.map((part) => part.faces!.length).sort()).toEqual([1, 5]);
    const top = parts.find((part) => part.faces!.length === 1)!;
    expect(model.finishes[top.finish!]!.values.baseColor!.map(Math.round)).toEqual([0, 0, 1]);
  });

  it('are cut finer where that is chosen, with the same faces', async () => {
    const step = readFileSync(new URL('../../demo/made/ferrow-r2.step', import.meta.url));
    const sphere = new cad.BRepPrimAPI_MakeSphere_1(30).Shape();
    cad.BRepTools.Write_3(sphere, '/ball.brep', new cad.Message_ProgressRange_1());
    const ball = { name: 'ball.brep', bytes: new Uint8Array(cad.FS.readFile('/ball.brep') as Uint8Array) };
    expect(step.length).toBeGreaterThan(1000);
    const [draft, fine] = [
      await reader.read(ball, [], TESSELLATIONS.draft),
      await reader.read(ball, [], TESSELLATIONS.fine),
    ];
    expect(fine.meshes[0]!.indices.length).toBeGreaterThan(3 * draft.meshes[0]!.indices.length);
    expect(new Set(fine.meshes[0]!.faces)).toEqual(new Set(draft.meshes[0]!.faces));
  });
});

describe('solids in the wrong unit', () => {
  let cad: CadKernel;
  beforeAll(async () => {
    cad = await startCadKernel(
      readFileSync(createRequire(import.meta.url).resolve('opencascade.js/dist/opencascade.full.wasm')),
    );
  }, 240_000);
  const ball = (radius: number) => {
    cad.BRepTools.Write_3(new cad.BRepPrimAPI_MakeSphere_1(radius).Shape(), '/ball.brep', new cad.Message_ProgressRange_1()); // prettier-ignore
    return new Uint8Array(cad.FS.readFile('/ball.brep') as Uint8Array);
  };

  it('are cut as finely as the eye needs, a thousand times too small or too large', async () => {
    const usual = (await read('ball.brep', ball(30))).meshes[0]!.indices.length / 3;
    const small = (await read('ball.brep', ball(0.03))).meshes[0]!.indices.length / 3;
    const large = (await read('ball.brep', ball(300_000))).meshes[0]!.indices.length / 3;
    expect(small).toBeGreaterThan(usual / 4);
    expect(large).toBeGreaterThan(usual / 4);
    expect(large).toBeLessThan(100_000);
  }, 120_000);

  it('say so, and in which unit their size would be a usual one', async () => {
    const { unitReason } = summarize(await read('ball.brep', ball(0.03)));
    expect(unitReason).toMatch(/It is 0\.06 mm across then; if that is wrong, choose m, in which it is 60 mm\.$/);
    expect(summarize(await read('ball.brep', ball(30_000))).unitReason).toMatch(
      /60,000 mm across then; if that is wrong, type its true length\.$/,
    );
    expect(summarize(await read('ball.brep', ball(30))).unitReason).not.toMatch(/across/);
  }, 120_000);

  it('are cut by what was typed at their true size once another unit is chosen', () => {
    const recipe = { ...defaultRecipe(), chord: 0.08 };
    expect(fileTessellation({ ...recipe, unit: 'm' }).chord).toBeCloseTo(0.00008, 12);
    expect(fileTessellation({ ...recipe, unit: 'mm', scale: 0.001 }).chord).toBeCloseTo(80, 9);
  });
});

describe('faces', () => {
  it('go through our own files, also where a vertex belongs to several', async () => {
    const model = await read('crate.stl', samples.stlBinary());
    const { meshes } = mendModel(model, defaultRecipe()).model;
    const shared = { ...meshes[0]!, faces: Uint32Array.from({ length: 12 }, (_, t) => t % 5) };
    const [back] = await readMeshesGlb(writeMeshesGlb([shared]));
    expect([...back!.faces!]).toEqual([...shared.faces]);
    expect(back!.indices).toHaveLength(36);
  });
});

describe('an archive', () => {
  it('gives its files with their folders, which sort into models and what they need', () => {
    const files = unpackArchive(
      zipSync({
        'set/crate.obj': samples.objText(),
        'set/crate.mtl': samples.mtlText(),
        'set/pictures/grain.png': new Uint8Array([1]),
        '__MACOSX/x': new Uint8Array(),
      }),
      'set.zip',
    );
    expect(files.map(({ name }) => name)).toEqual(['set/crate.obj', 'set/crate.mtl', 'set/pictures/grain.png']);
    expect(groupFiles(files.map(({ name }) => name))).toEqual({
      models: [{ file: 0, companions: [1, 2] }],
      pictures: [],
    });
  });

  it('whose paths climb out keeps only their names', () => {
    const [file] = unpackArchive(zipSync({ '../../etc/crate.stl': samples.stlBinary() }), 'climb.zip');
    expect(file!.name).toBe('etc/crate.stl');
  });

  it('that would unfold to far more than it is, is refused before it does', () => {
    const bomb = zipSync({ 'zeros.stl': new Uint8Array(60_000_000) }, { level: 9 });
    expect(bomb.length).toBeLessThan(100_000);
    expect(() => unpackArchive(bomb, 'bomb.zip')).toThrow(/bomb.zip" would unfold/);
  });
});
