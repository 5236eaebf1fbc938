import { evaluateProperties } from '../motion';
import { worldTransforms } from '../scene';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { beforeAll, describe, expect, it } from 'vitest';
import { box } from '../trace/testing/renderState';
import { writeExr } from '../develop';
import { defaultRecipe, newDocument } from '../document';
import { transformPoint } from '../geometry';
import {
  mendModel,
  detectFormat,
  modelBounds,
  modelTransforms,
  modelTree,
  normalizeModel,
  placeModel,
  readGlb,
  readMeshesGlb,
  readObj,
  readCad,
  readStl,
  readSurroundings,
  summarize,
  writeMeshesGlb,
  type CadKernel,
  type Model,
} from './index';
import { startCadKernel } from './cadKernel';

const recipe = defaultRecipe();
const sound = (model: Model): Model => mendModel(model, recipe).model;
const found = (model: Model) => mendModel(model, recipe).found;
const text = (value: string) => new TextEncoder().encode(value);
const noFailure = (run: () => unknown): Error => {
  try {
    run();
  } catch (error) {
    return error as Error;
  }
  throw new Error('it was accepted');
};

function binaryStl(claimed: number, triangles: number[][]): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(84 + triangles.length * 50);
  const view = new DataView(bytes.buffer);
  view.setUint32(80, claimed, true);
  triangles.forEach((corners, k) => corners.forEach((v, c) => view.setFloat32(84 + k * 50 + 12 + c * 4, v, true)));
  return bytes;
}

const TRIANGLE = [0, 0, 0, 100, 0, 0, 0, 100, 0];

describe('the format of a file', () => {
  it('is told by its bytes, whatever its name', () => {
    expect(detectFormat(text('ISO-10303-21;\nHEADER;'), 'x.obj')).toBe('step');
    expect(detectFormat(binaryStl(1, [TRIANGLE]), 'x.step')).toBe('stl');
    expect(detectFormat(text('solid a\nfacet normal 0 0 1'), 'noname')).toBe('stl');
    expect(detectFormat(text('# made\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3'), 'x')).toBe('obj');
  });

  it.each([
    ['empty.step', new Uint8Array(), /empty/],
    ['wrong.step', text('hello there, this is text'), /does not begin like one/],
    ['photo.png', text('\x89PNG----'), /cannot be read/],
    ['cut.stl', text('short'), /does not begin like one/],
  ])('%s is refused with a sentence', (name, bytes, sentence) => {
    expect(noFailure(() => detectFormat(bytes, name)).message).toMatch(sentence);
  });
});

describe('STL', () => {
  it('that lies about its count is read as far as it goes, and says so', () => {
    const model = sound(
      readStl(binaryStl(4_000_000_000, [TRIANGLE, [...TRIANGLE.slice(0, 6), 50, 50, 50]]), 'lie.stl'),
    );
    expect(summarize(model).triangles).toBe(2);
    expect(model.notes.join(' ')).toMatch(/claims 4,000,000,000 triangles and holds 2/);
  });

  it('is one surface as soon as it is read, and says how many corners were joined', () => {
    const square = readStl(binaryStl(2, [TRIANGLE, [100, 0, 0, 100, 100, 0, 0, 100, -0]]), 'square.stl');
    expect(square.meshes[0]!.positions).toHaveLength(12);
    expect(found(square)).toMatchObject({ unwelded: { 0: 2 }, open: { 0: 4 } });
    const apart = mendModel(square, { ...recipe, leave: { weld: [0] } }).model.meshes[0]!;
    expect(apart.positions).toHaveLength(18);
    expect(mendModel({ ...square, nodes: [...square.nodes, { ...square.nodes[0]! }] }, { ...recipe, merge: 'all' }).found.unwelded).toEqual({ 0: 4 + 4 }); // prettier-ignore
  });

  it('with infinite or flat triangles loses only those', () => {
    const bad = [...TRIANGLE];
    bad[4] = Infinity;
    const model = readStl(binaryStl(3, [TRIANGLE, bad, [0, 0, 0, 1, 1, 1, 2, 2, 2]]), 'bad.stl');
    expect(summarize(sound(model)).triangles).toBe(1);
    expect(found(model)).toMatchObject({ infinite: { 0: 1 }, flat: { 0: 1 } });
    const all = readStl(binaryStl(1, [bad]), 'all.stl');
    expect(noFailure(() => sound(all)).message).toMatch(/no solid or surface/);
  });
});

describe('OBJ', () => {
  it('gives a part per object and its colours', () => {
    const obj = 'o A\nv 0 0 0\nv 10 0 0\nv 0 10 0\nusemtl m\nf 1 2 3\no B\nv 0 0 5\nv 10 0 5\nv 0 10 5\nf 4 5 6\n';
    const model = sound(readObj(text(obj), 'two.obj', 'newmtl m\nKd 1 0 0\n'));
    expect(model.nodes.map((node) => node.name)).toEqual(['A', 'B']);
    expect(model.finishes[0]!.values.baseColor![0]).toBeCloseTo(1);
  });

  it('with indices out of range keeps what can be kept', () => {
    const obj = 'v 0 0 0\nv 10 0 0\nv 0 10 0\nf 1 2 3\nf 1 2 99\n';
    expect(summarize(sound(readObj(text(obj), 'range.obj', null))).triangles).toBe(1);
  });
});

describe('GLB', () => {
  it('written by us comes back, in metres for others', async () => {
    const glb = writeMeshesGlb([box(10, 20, 30), box(1, 1, 1)]);
    const meshes = await readMeshesGlb(glb);
    expect(meshes).toHaveLength(2);
    expect(meshes[0]!.positions).toEqual(box(10, 20, 30).positions);
    expect(summarize(sound(await readGlb(glb, 'own.glb'))).size.map(Math.round)).toEqual([10, 20, 30]);
  });

  it('written by us keeps faces, coordinates and the numbers of meshes that have nothing left', async () => {
    const faces = Uint32Array.from({ length: 12 }, (_, t) => t >> 1);
    const crate = box(10, 20, 30);
    const uvs = Float32Array.from({ length: (crate.positions.length / 3) * 2 }, (_, k) => k / 64);
    const empty = { positions: new Float32Array(), normals: new Float32Array(), indices: new Uint32Array() };
    const [first, second, third] = await readMeshesGlb(
      writeMeshesGlb([{ ...crate, faces, uvs }, empty, { ...crate, faces: new Uint32Array(12) }]),
    );
    expect(first!.faces).toEqual(faces);
    expect(first!.uvs).toEqual(uvs);
    expect(second!.indices).toHaveLength(0);
    expect([...third!.faces!]).toEqual(Array(12).fill(0));
    expect(await readMeshesGlb(writeMeshesGlb([]))).toEqual([]);
  });

  it('cut short at any place is refused with a sentence', async () => {
    const glb = writeMeshesGlb([box(10, 20, 30)]);
    for (let length = 12; length < glb.length; length += 131) {
      await expect(readGlb(glb.slice(0, length), 'cut.glb')).rejects.toThrow(/cut.glb" cannot be read/);
    }
  });
});

describe('a model', () => {
  const model: Model = {
    nodes: [
      { name: 'Group', parent: -1, transform: [1, 0, 0, 5, 0, 1, 0, 0, 0, 0, 1, 0], mesh: null, finish: null },
      { name: 'Part', parent: 0, transform: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 7], mesh: 0, finish: null },
    ],
    meshes: [box(2, 4, 6)],
    finishes: [],
    pictures: [],
    unit: 'inch',
    unitReason: '',
    up: 'z',
    upReason: '',
    exact: false,
    notes: [],
  };

  it('in inches and Z up becomes millimetres and Y up with the same shape', () => {
    const normal = normalizeModel(model, { unit: 'inch', scale: 1, up: 'z', front: 0 });
    const { low, high } = modelBounds(normal);
    expect(high.map((v, k) => v - low[k]!)).toEqual([
      expect.closeTo(50.8, 3),
      expect.closeTo(152.4, 3),
      expect.closeTo(101.6, 3),
    ]);
    const before = transformPoint(modelTransforms(model)[1]!, [1, 2, 3]);
    const after = transformPoint(modelTransforms(normal)[1]!, [1 * 25.4, 3 * 25.4, -2 * 25.4]);
    expect(after.map((v) => v / 25.4)).toEqual([
      expect.closeTo(before[0]),
      expect.closeTo(before[2]),
      expect.closeTo(-before[1]),
    ]);
  });

  it('is placed centred and on the floor, keeping its tree', () => {
    const normal = normalizeModel(model, recipe);
    const { nodes, root } = placeModel(modelTree(normal), 'a'.repeat(64), 'Thing', 0);
    expect(nodes.find((node) => node.id === root)!.position).toEqual([-5, 2, -7]);
    expect(nodes.find((node) => node.name === 'Part')!.parent).toBe(nodes.find((node) => node.name === 'Group')!.id);
  });

  it('turns about its middle, each part about its own, wherever the file has its origin; equal materials are one', () => {
    const far: Model = {
      ...model,
      meshes: model.meshes.map((mesh) => ({ ...mesh, positions: mesh.positions.map((v) => v + 3000) })),
      finishes: [0, 1, 2].map((k) => ({ name: k === 2 ? 'Other' : 'Steel', values: { baseMetalness: 1 }, maps: [] })),
      nodes: model.nodes.map((node, k) => ({ ...node, finish: node.mesh === null ? null : k % 2 })),
    };
    const tree = modelTree(normalizeModel(far, recipe));
    const { nodes, root, finishes } = placeModel(tree, 'a'.repeat(64), 'Thing', 0);
    expect(finishes.map(({ name }) => name)).toEqual(['Steel', 'Other']);
    const document = newDocument('Placed');
    for (const node of nodes) document.nodes[node.id] = node;
    const before = worldTransforms(evaluateProperties(document, null, 1));
    const middle = nodes.find(({ id }) => id === root)!;
    expect(middle.pivot.map((v, k) => v - tree.center[k]!)).toEqual([0, 0, 0].map((v) => expect.closeTo(v, 5)));
    // Turned half round, the whole stands where it stood: its middle has not moved.
    document.nodes[root]!.turn = [0, Math.PI, 0];
    const after = worldTransforms(evaluateProperties(document, null, 1));
    const at = (world: typeof before) => transformPoint(world.get(root)!, tree.center);
    at(after).forEach((v, k) => expect(v).toBeCloseTo(at(before)[k]!, 3));
  });
});

describe('surroundings', () => {
  it('keep their top on top', () => {
    const data = new Float32Array(16 * 8);
    data.fill(1, 0, 16);
    const exr = writeExr({
      width: 16,
      height: 8,
      channels: ['R', 'G', 'B'].map((name) => ({ name, type: 'half' as const, data })),
    });
    const { pixels, width } = readSurroundings(exr, 'top.exr');
    expect(width).toBe(16);
    expect(pixels[0]).toBeCloseTo(1);
    expect(pixels.at(-1)).toBe(0);
  });

  it('that are none are refused', () => {
    expect(noFailure(() => readSurroundings(new Uint8Array([1, 2, 3]), 'x.hdr')).message).toMatch(
      /neither an HDR nor an EXR/,
    );
    expect(
      noFailure(() => readSurroundings(text('#?RADIANCE\nnonsense') as Uint8Array<ArrayBuffer>, 'x.hdr')).message,
    ).toMatch(/cannot serve/);
  });
});

describe('STEP', () => {
  let cad: CadKernel;
  const step = readFileSync(new URL('../../demo/made/ferrow-r2.step', import.meta.url));
  beforeAll(async () => {
    cad = await startCadKernel(
      readFileSync(createRequire(import.meta.url).resolve('opencascade.js/dist/opencascade.full.wasm')),
    );
  }, 120_000);

  it('of the demo radio gives its whole tree with names, colours and millimetres', () => {
    const model = sound(readCad(cad, 'step', step, 'ferrow-r2.step', { chord: 0.5, angle: 0.6 }));
    const { size, parts } = summarize(model);
    expect(parts).toBeGreaterThanOrEqual(40);
    expect(size[0]).toBeCloseTo(244, 0);
    const lens = model.nodes.find((node) => node.name === 'Lens 4')!;
    expect(model.nodes[lens.parent]!.name).toBe('Level lamp 4');
    expect(model.nodes[model.nodes[lens.parent]!.parent]!.name).toBe('Level display');
    expect(model.finishes[lens.finish!]!.values.transmissionWeight).toBeCloseTo(0.75);
    const pin = modelTransforms(model)[model.nodes.findIndex((node) => node.name === 'Hinge pin')]!;
    expect([pin[3], pin[7], pin[11]].map(Math.round)).toEqual([92, 18, 160]);
  }, 240_000);

  it('without solids, cut short or full of nonsense is refused with a sentence', () => {
    const header =
      "ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nFILE_NAME('','',(''),(''),'','','');\nFILE_SCHEMA(('AUTOMOTIVE_DESIGN'));\nENDSEC;\n";
    for (const body of ['DATA;\nENDSEC;\nEND-ISO-10303-21;\n', 'DATA;\n#1=GARBAGE((((', '']) {
      expect(noFailure(() => readCad(cad, 'step', text(header + body), 'bad.step')).message).toMatch(
        /STEP file|bad\.step/,
      );
    }
    expect(noFailure(() => readCad(cad, 'step', step.subarray(0, step.length / 3), 'cut.step')).message).toMatch(
      /cut|STEP/,
    );
  });
});
