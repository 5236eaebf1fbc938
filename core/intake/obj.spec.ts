import { describe, expect, it } from 'vitest';
import { defaultRecipe } from '../document';
import { mendModel, readObj, type Model } from './index';
import { scanObj } from './objScan';

const read = (text: string, mtl: string | null = null) => readObj(new TextEncoder().encode(text), 'thing.obj', mtl);
const SQUARE = 'v 0 0 0\nv 2 0 0\nv 2 2 0\nv 0 2 0\n';
const triangles = (model: Model, mesh = 0) => {
  const { positions, indices } = model.meshes[mesh]!;
  return Array.from({ length: indices.length / 3 }, (_, t) =>
    [0, 1, 2].map((k) => [...positions.subarray(indices[t * 3 + k]! * 3, indices[t * 3 + k]! * 3 + 3)]),
  );
};
/** Area along z of all triangles of a mesh in a plane. */
const area = (model: Model) =>
  triangles(model).reduce((sum, [a, b, c]) => {
    const part = (b![0]! - a![0]!) * (c![1]! - a![1]!) - (b![1]! - a![1]!) * (c![0]! - a![0]!);
    expect(part).toBeGreaterThanOrEqual(0);
    return sum + part / 2;
  }, 0);

describe('numbers of an OBJ file', () => {
  it('are read as by the language itself, however they are written', () => {
    const written = ['1', '-2.5', '+.5', '3.', '1e3', '-1.25E-2', '0.1', '123456789.123456', '0.00000000000000012345678901234567890', '-0', '9007199254740993']; // prettier-ignore
    for (let seed = 1; seed < 400; seed++) written.push((Math.sin(seed * 12.9898) * 10 ** ((seed % 13) - 5)).toFixed(seed % 17)); // prettier-ignore
    const lines = written.map((number) => `v ${number} 0 0\n`).join('');
    const faces = written.map((_, k) => `f ${k + 1} ${k + 1} ${k + 1}\n`).join('');
    const { positions } = read(lines + faces).meshes[0]!;
    written.forEach((number, k) => expect(positions[k * 3]).toBe(Math.fround(Number(number))));
  });

  it('that are none, or missing, spoil only the triangles they are in', () => {
    const model = read(`${SQUARE}v one 0 0\nv 5\nf 1 2 3\nf 1 2 5\nf 1 2 6\n`);
    const { model: mended, found } = mendModel(model, defaultRecipe());
    expect(mended.meshes[0]!.indices).toHaveLength(3);
    expect(found.infinite).toEqual({ 0: 2 });
  });
});

describe('faces of an OBJ file', () => {
  it('count from the end where they are below zero, and may come before their corners', () => {
    expect(triangles(read(`${SQUARE}f -4 -3 -2\n`))[0]).toEqual([[0, 0, 0], [2, 0, 0], [2, 2, 0]]); // prettier-ignore
    expect(triangles(read(`f 1 2 3\n${SQUARE}`))[0]).toEqual([[0, 0, 0], [2, 0, 0], [2, 2, 0]]); // prettier-ignore
  });

  it('with more corners fill exactly their polygon, dented or not', () => {
    expect(area(read(`${SQUARE}f 1 2 3 4\n`))).toBeCloseTo(4);
    const arrow = 'v 0 0 0\nv 4 2 0\nv 0 4 0\nv 1 2 0\n';
    expect(area(read(`${arrow}f 1 2 3 4\n`))).toBeCloseTo(6);
    expect(area(read(`${arrow}f 4 1 2 3\n`))).toBeCloseTo(6);
    const comb = 'v 0 0 0\nv 7 0 0\nv 7 3 0\nv 5 3 0\nv 5 1 0\nv 4 1 0\nv 4 3 0\nv 2 3 0\nv 2 1 0\nv 0 1 0\n';
    expect(area(read(`${comb}f 1 2 3 4 5 6 7 8 9 10\nf 1 2 3\n`))).toBeCloseTo(7 + 4 + 4 + 7 * 1.5);
  });

  it('share the vertices of one place with one normal and one coordinate, and no others', () => {
    const list = `${SQUARE}vt 0 0\nvt 1 0.25\nvn 0 0 1\nvn 0 1 0\n`;
    const [one] = read(`${list}f 1/1/1 2/1/1 3/1/1\nf 1/1/1 3/1/1 4/1/1\n`).meshes;
    expect(one!.positions).toHaveLength(12);
    expect([...one!.normals.subarray(0, 3)]).toEqual([0, 0, 1]);
    const [apart] = read(`${list}f 1/1/1 2/1/1 3/1/1\nf 1/2/1 3/1/2 4/1/1\n`).meshes;
    expect(apart!.positions).toHaveLength(18);
    expect([...apart!.uvs!.subarray(6, 8)]).toEqual([1, 0.75]);
  });

  it('get their normals made where only some corners have one, and keep coordinates that only some have', () => {
    const [mesh] = read(`${SQUARE}vt 0.5 0.5\nvn 0 0 1\nf 1//1 2//1 3//1\nf 1/1 3/1 4/1\n`).meshes;
    expect(mesh!.normals).toHaveLength(0);
    expect([...mesh!.uvs!]).toEqual([0, 1, 0, 1, 0, 1, 0.5, 0.5, 0.5, 0.5, 0.5, 0.5]);
  });

  it('of fewer than three corners, lines and points are passed over', () => {
    expect(triangles(read(`${SQUARE}f 1 2\nl 1 2 3\np 1\nf 1\nf\nf 2/1 3/1\nf 1 2 3\n`))).toHaveLength(1);
    expect(() => read(`${SQUARE}l 1 2\n`)).toThrow(/holds no faces/);
  });

  it('that name what is nowhere are found and left out, the greatest numbers included', () => {
    for (const far of ['9', '-9', '0', '4294967297', '99999999999999999999']) {
      const { model, found } = mendModel(read(`${SQUARE}f 1 2 3\nf 1 2 ${far}\nf 1 2 3 ${far}\n`), defaultRecipe());
      expect(model.meshes[0]!.indices).toHaveLength(3);
      expect(found.range).toEqual({ 0: 2 });
    }
  });
});

describe('lines of an OBJ file', () => {
  it('may end as on any system, go on after a backslash, and hold tabs and notes', () => {
    const text = '# made\nv 0 0 0 # first\nv\t2 0 0\nv 2 \\\n 2 0\nf 1 2 \\\n 3\n';
    for (const end of ['\n', '\r\n']) {
      expect(triangles(read(text.replaceAll('\n', end)))[0]).toEqual([[0, 0, 0], [2, 0, 0], [2, 2, 0]]); // prettier-ignore
    }
    expect(triangles(read('v 0 0 0\rv 2 0 0\rv 2 2 0\rf 1 2 3'))).toHaveLength(1);
  });

  it('are the same wherever a file is cut off, with more lines behind that or without', () => {
    const text = `o A\r\n${SQUARE}usemtl Red\nf 1 2 \\\n3 4\nf 1//\\\r\n 2 3\nvn 0 0 1\nv -1.5e3 +2. \\`;
    for (let end = 0; end <= text.length; end++) {
      const bytes = new TextEncoder().encode(text.slice(0, end));
      // The last lines are read from a copy, which begins elsewhere where more follow.
      const longer = new TextEncoder().encode(text.slice(0, end) + '\n'.repeat(20));
      expect(scanObj(bytes), `cut at ${end}`).toEqual(scanObj(longer));
    }
  });

  it('of one plain kind in a row are read like lines that are not plain', () => {
    let seed = 1;
    const random = (below: number) => (seed = (seed * 48271) % 2147483647) % below;
    const number = () => (random(9) === 0 ? ['1e3', '-0', '.', '5.', '+2', '-.5', '1234567890123', 'x'][random(8)]! : ((random(2e6) - 1e6) / 10 ** random(7)).toFixed(random(11))); // prettier-ignore
    const named = () => (random(30) === 0 ? ['0', '-2', '99999999999', '1.5', ''][random(5)]! : String(1 + random(50)));
    const kinds: Record<string, () => string> = {
      v: () => `v ${number()} ${number()} ${number()}${random(20) ? '' : ' 0.5 1 1'}`,
      vt: () => `vt  ${number()} ${number()}${random(20) ? ' ' : ' 0'}`,
      vn: () => `vn ${number()} ${number()} ${number()}`,
      plain: () => `f ${named()} ${named()}  ${named()}${random(20) ? '' : ` ${named()}`}`,
      worn: () => `f ${[0, 1, 2].map(() => `${named()}/${named()}`).join(' ')}`,
      shaded: () => `f ${[0, 1, 2].map(() => `${named()}//${named()}`).join(' ')} `,
      both: () => `f ${[0, 1, 2].map(() => `${named()}/${named()}/${named()}`).join(' ')}`,
      other: () => ['o part', 'usemtl Red', 's off', '# v 1 2 3', ''][random(5)]!,
    };
    for (let file = 0; file < 60; file++) {
      const lines: string[] = [];
      while (lines.length < 200) {
        const kind = kinds[Object.keys(kinds)[random(8)]!]!;
        for (let k = random(60); k >= 0; k--) lines.push(kind());
      }
      const text = lines.join(file % 2 ? '\n' : '\r\n');
      const scan = (each: string) => scanObj(new TextEncoder().encode(each));
      // No line with tabs is plain.
      expect(scan(text), `file ${file}`).toEqual(scan(text.replaceAll(' ', '\t')));
    }
  });

  it('name objects and materials: one part for each pair, whichever way they alternate', () => {
    const text = `mtllib a.mtl\n${SQUARE}o Körper 1\nusemtl Rot\nf 1 2 3\nusemtl Blau\nf 1 3 4\nusemtl Rot\nf 2 3 4\no Lid\ng top\nf 1 2 4\n`;
    const model = read(text, 'newmtl Rot\nKd 1 0 0\nnewmtl Blau\nKd 0 0 1\n');
    expect(model.nodes.map(({ name, finish }) => [name, finish])).toEqual([['Körper 1 Rot', 0], ['Körper 1 Blau', 1], ['top', 0]]); // prettier-ignore
    expect(model.nodes.map((_, mesh) => triangles(model, mesh).length)).toEqual([2, 1, 1]);
    expect(read(text).nodes.every(({ finish }) => finish === null)).toBe(true);
  });
});
