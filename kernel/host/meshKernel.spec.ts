import { describe, expect, it } from 'vitest';
import { inMeshKernel, type MeshKernel } from './meshKernel';

const OPEN = -1;
const CROWDED = -2;

/** Whole numbers below a limit, the same in each run. */
function chances(seed: number): (below: number) => number {
  return (below) => (seed = (seed * 16807) % 2147483647) % below;
}

const random = chances(11);
const words = (length: number, below: number) => Uint32Array.from({ length }, () => random(below));
const sidesOf = (corners: Uint32Array) => [...corners.keys()];
const endOf = (corners: Uint32Array, side: number) => corners[side % 3 === 2 ? side - 2 : side + 1]!;

/** What lies across each side, by comparing all with all. */
function acrossByHand(corners: Uint32Array): number[] {
  const alike = (a: number, b: number) => {
    const [from, to] = [corners[b]!, endOf(corners, b)];
    const [low, high] = [corners[a]!, endOf(corners, a)];
    return (from === low && to === high) || (from === high && to === low);
  };
  return sidesOf(corners).map((side) => {
    const others = sidesOf(corners).filter((other) => other !== side && alike(side, other));
    return others.length === 0 ? OPEN : others.length === 1 ? others[0]! : CROWDED;
  });
}

function across(kernel: MeshKernel, corners: Uint32Array, places: number): number {
  const at = kernel.put(corners);
  const { length } = corners;
  const out = kernel.room(length * 4, 255);
  const [heads, chain] = [kernel.room(places * 4, 255), kernel.room(length * 4)];
  const lengths = kernel.room(places, 0);
  kernel.passes.findSides(at, 0, length, length, out, heads, chain, lengths, kernel.spare);
  return out;
}

describe('passes over sides', () => {
  it('find what comparing all with all finds, at places with many sides too', () => {
    for (let round = 0; round < 60; round++) {
      // From places where two or three sides meet to places with more than fit into a chain.
      const places = round % 3 === 0 ? 60 : 5 + random(12);
      const corners = words(3 * (1 + random(60)), places);
      if (round % 3 === 0) for (let k = 0; k < corners.length; k += 3) corners[k] = 7;
      inMeshKernel((kernel) => {
        const out = across(kernel, corners, places);
        const found = [...kernel.integers(out, corners.length)];
        // A side from a place to itself joins nothing that is drawn, and may be told in either way.
        const whole = sidesOf(corners).filter((side) => corners[side] !== endOf(corners, side));
        const byHand = acrossByHand(corners);
        expect(whole.map((side) => found[side])).toEqual(whole.map((side) => byHand[side]));
        const list = kernel.room(corners.length * 4 + 4);
        const open = kernel.passes.openSides(out, corners.length, list);
        expect([...kernel.numbers(list, open)]).toEqual(sidesOf(corners).filter((side) => found[side] === OPEN));
      });
    }
  });

  it('write the sides of which an end is marked', () => {
    for (let round = 0; round < 60; round++) {
      const corners = words(30, 12);
      const marks = Uint8Array.from({ length: 12 }, () => (random(4) === 0 ? 1 : 0));
      inMeshKernel((kernel) => {
        const [at, marked, out] = [kernel.put(corners), kernel.put(marks), kernel.room(120)];
        const count = kernel.passes.markedSides(at, 10, marked, out);
        const byHand = sidesOf(corners).filter((side) => marks[corners[side]!] || marks[endOf(corners, side)]);
        expect([...kernel.numbers(out, count)]).toEqual(byHand);
      });
    }
  });

  it('tell whether all neighbours pass their side in opposite directions', () => {
    for (let round = 0; round < 60; round++) {
      const corners = words(6 + 3 * random(3), 6);
      inMeshKernel((kernel) => {
        const out = across(kernel, corners, 6);
        const found = [...kernel.integers(out, corners.length)];
        const agree = found.every((other, side) => other < 0 || corners[other] !== corners[side]);
        expect(!!kernel.passes.sidesAgree(kernel.put(corners), out, corners.length)).toBe(agree);
      });
    }
  });

  it('leave no triangle with a twin out', () => {
    let twins = 0;
    for (let round = 0; round < 200; round++) {
      const corners = words(3 * (2 + random(10)), 7);
      for (let k = 3; k < corners.length; k += 3) {
        if (random(3) === 0) [0, 2, 1].forEach((from, j) => (corners[k + j] = corners[k - 3 + from]!));
      }
      const named = (t: number) => [...corners.subarray(t * 3, t * 3 + 3)].sort((a, b) => a - b).join();
      const triangles = [...Array(corners.length / 3).keys()];
      const drawn = triangles.filter((t) => new Set(corners.subarray(t * 3, t * 3 + 3)).size === 3);
      const byHand = drawn.filter((t) => drawn.some((other) => other !== t && named(other) === named(t)));
      twins += byHand.length;
      inMeshKernel((kernel) => {
        const out = across(kernel, corners, 7);
        const list = kernel.room(corners.length * 4 + 4);
        const count = kernel.passes.likeTwins(kernel.put(corners), out, corners.length / 3, list);
        const told = new Set(kernel.numbers(list, count));
        expect(byHand.filter((t) => !told.has(t))).toEqual([]);
      });
    }
    expect(twins).toBeGreaterThan(100);
  });

  it('do not take mere neighbours for twins', () => {
    // Two sides of a square, and a closed tetrahedron.
    for (const corners of [
      [0, 1, 2, 0, 2, 3],
      [0, 1, 2, 0, 2, 3, 0, 3, 1, 1, 3, 2],
    ]) {
      inMeshKernel((kernel) => {
        const given = new Uint32Array(corners);
        const out = across(kernel, given, 4);
        expect(kernel.passes.likeTwins(kernel.put(given), out, given.length / 3, kernel.room(64))).toBe(0);
      });
    }
  });

  it('count to the greatest number', () => {
    inMeshKernel((kernel) => {
      expect(kernel.passes.countTo(kernel.put(new Uint32Array([3, 9, 4])), 3)).toBe(10);
      expect(kernel.passes.countTo(kernel.spare, 0)).toBe(0);
    });
  });
});

describe('passes over sets', () => {
  it('number what is joined by its least members', () => {
    for (let round = 0; round < 60; round++) {
      const count = 3 + random(40);
      const corners = words(3 * random(20), count);
      const sets = [...Array(count).keys()];
      const all = (from: number, to: number) => sets.forEach((set, k) => set === from && (sets[k] = to));
      for (let k = 0; k < corners.length; k += 3) {
        for (const j of [1, 2]) {
          const [a, b] = [sets[corners[k]!]!, sets[corners[k + j]!]!];
          all(Math.max(a, b), Math.min(a, b));
        }
      }
      const order = [...new Set(sets)];
      inMeshKernel((kernel) => {
        const [at, parent, out] = [kernel.put(corners), kernel.room(count * 4), kernel.room(count * 4)];
        kernel.passes.eachAlone(parent, count);
        kernel.passes.joinCorners(at, corners.length / 3, parent);
        expect(kernel.passes.numberSets(parent, count, out)).toBe(order.length);
        expect([...kernel.numbers(out, count)]).toEqual(sets.map((set) => order.indexOf(set)));
      });
    }
  });

  it('join triangles across sides, or the parts they belong to', () => {
    // A strip of four triangles; the last lies apart.
    const corners = new Uint32Array([0, 1, 2, 2, 1, 3, 2, 3, 4, 7, 8, 9]);
    inMeshKernel((kernel) => {
      const out = across(kernel, corners, 10);
      const parent = kernel.room(16);
      const numbers = kernel.room(16);
      kernel.passes.eachAlone(parent, 4);
      kernel.passes.joinAcross(out, 12, 0, parent);
      expect(kernel.passes.numberSets(parent, 4, numbers)).toBe(2);
      expect([...kernel.numbers(numbers, 4)]).toEqual([0, 0, 0, 1]);
      // Triangles 0 and 1 are of part 1, triangle 2 of part 0, and the last of part 2.
      const parts = kernel.put(new Uint32Array([1, 1, 0, 2]));
      kernel.passes.eachAlone(parent, 3);
      kernel.passes.joinAcross(out, 12, parts, parent);
      expect(kernel.passes.numberSets(parent, 3, numbers)).toBe(2);
      expect([...kernel.numbers(numbers, 3)]).toEqual([0, 0, 1]);
    });
  });

  it('join neighbours up to a crease, whichever way they face', () => {
    const turned = (degrees: number) => [Math.sin((degrees * Math.PI) / 180), 0, Math.cos((degrees * Math.PI) / 180)];
    for (const [apart, alike, joined] of [
      [29, false, true],
      [31, false, false],
      [151, true, true],
      [149, true, false],
    ] as const) {
      const corners = new Uint32Array(alike ? [0, 1, 2, 0, 1, 3] : [0, 1, 2, 1, 0, 3]);
      inMeshKernel((kernel) => {
        const out = across(kernel, corners, 4);
        const [at, planes] = [
          kernel.put(corners),
          kernel.put(new Float32Array([...turned(10), ...turned(10 + apart)])),
        ];
        const [parent, numbers] = [kernel.room(8), kernel.room(8)];
        kernel.passes.eachAlone(parent, 2);
        kernel.passes.joinSmooth(planes, at, out, 6, Math.cos(Math.PI / 6), parent);
        expect(kernel.passes.numberSets(parent, 2, numbers), `${apart}°`).toBe(joined ? 1 : 2);
      });
    }
  });
});

describe('passes over vertices', () => {
  it('look up, gather, and take out what corners name in its order', () => {
    const positions = Float32Array.from({ length: 15 }, (_, k) => k / 2);
    inMeshKernel((kernel) => {
      const at = kernel.put(positions);
      const named = kernel.put(new Int32Array([3, 0, 3, 4, -1, 5, 0]));
      const [numbers, places, vertices] = [kernel.room(20, 0), kernel.room(60), kernel.room(28)];
      expect(kernel.passes.ownVertices(named, 7, at, 5, numbers, places, vertices)).toBe(3);
      expect([...kernel.numbers(vertices, 7)]).toEqual([0, 1, 0, 2, 0xffffffff, 0xffffffff, 1]);
      expect([...kernel.floats(places, 9)]).toEqual([4.5, 5, 5.5, 0, 0.5, 1, 6, 6.5, 7]);
      const [sources, out] = [kernel.put(new Uint32Array([4, 1])), kernel.room(24)];
      kernel.passes.gatherPlaces(at, sources, 2, out);
      expect([...kernel.floats(out, 6)]).toEqual([6, 6.5, 7, 1.5, 2, 2.5]);
      const table = kernel.put(new Uint32Array([9, 8, 7, 6, 5]));
      kernel.passes.lookedUp(sources, 2, table, out);
      expect([...kernel.numbers(out, 2)]).toEqual([5, 8]);
    });
  });
});

describe('passes over normals', () => {
  const points = (...xyz: number[][]) => new Float32Array(xyz.flat());

  it('tell what cannot be drawn, and why', () => {
    const far = 2e12;
    const places = points([0, 0, 0], [2, 0, 0], [0, 3, 0], [NaN, 0, 0], [0, far, 0], [4, 0, 0], [0, 0, -Infinity]);
    const triangles = [
      [0, 1, 2, 0],
      [0, 2, 1, 0],
      [0, 1, 7, 1],
      [7, 1, 2, 1],
      [0, 7, 2, 1],
      [3, 1, 2, 2],
      [0, 3, 2, 2],
      [0, 1, 3, 2],
      [0, 1, 4, 2],
      [6, 1, 2, 2],
      [0, 1, 5, 3],
      [2, 2, 1, 3],
    ];
    inMeshKernel((kernel) => {
      const [at, indices] = [kernel.put(places), kernel.put(new Uint32Array(triangles.flatMap((t) => t.slice(0, 3))))];
      const [planes, marks] = [kernel.room(triangles.length * 12), kernel.room(triangles.length)];
      const unsound = kernel.passes.faceNormals(at, 7, indices, triangles.length, planes, marks);
      expect([...kernel.bytes(marks, triangles.length)]).toEqual(triangles.map((t) => t[3]));
      expect(unsound).toBe(10);
      expect([...kernel.floats(planes, 6)]).toEqual([0, 0, 1, 0, 0, -1]);
      expect(!!kernel.passes.allNear(at, 9)).toBe(true);
      expect(!!kernel.passes.allNear(at, 10)).toBe(false);
      expect(!!kernel.passes.allNear(kernel.put(points([0, -far, 0])), 3)).toBe(false);
    });
  });

  it('measure the angles of any triangle as the arc cosine does', () => {
    for (let round = 0; round < 100; round++) {
      const places = Float32Array.from({ length: 9 }, () => random(2001) / 100 - 10);
      const side = (a: number, b: number) => [0, 1, 2].map((k) => places[b * 3 + k]! - places[a * 3 + k]!);
      const dot = (u: number[], v: number[]) => u.reduce((sum, c, k) => sum + c * v[k]!, 0);
      const angle = (a: number, b: number, c: number) => {
        const [u, v] = [side(a, b), side(a, c)];
        return Math.acos(dot(u, v) / Math.sqrt(dot(u, u) * dot(v, v)));
      };
      inMeshKernel((kernel) => {
        const [at, out] = [kernel.put(places), kernel.room(12)];
        kernel.passes.cornerAngles(at, kernel.put(new Uint32Array([0, 1, 2])), 1, out);
        [angle(0, 1, 2), angle(1, 2, 0), angle(2, 0, 1)].forEach((expected, k) =>
          expect(kernel.floats(out, 3)[k]).toBeCloseTo(expected, 5),
        );
      });
    }
  });

  it('give needles and points an angle, too', () => {
    const [tiny, huge] = [1e-7, 1e6];
    for (const xyz of [
      [0, 0, 0, huge, tiny, 0, huge / 3, 0, tiny],
      [0, 0, 0, 1, 1, 1, 3, 3, 3],
      [1, 2, 3, 1, 2, 3, 4, 5, 6],
      [1, 2, 3, 1, 2, 3, 1, 2, 3],
    ]) {
      inMeshKernel((kernel) => {
        const [at, out] = [kernel.put(new Float32Array(xyz)), kernel.room(12)];
        kernel.passes.cornerAngles(at, kernel.put(new Uint32Array([0, 1, 2])), 1, out);
        const angles = [...kernel.floats(out, 3)];
        expect(angles.every((angle) => angle >= -1e-5 && angle <= Math.PI + 1e-5)).toBe(true);
        expect(angles.reduce((sum, angle) => sum + angle, 0)).toBeCloseTo(Math.PI, 5);
      });
    }
    for (let k = 0; k < 500; k++) {
      // Three points of a line, as single precision has them: rounding takes a cosine beyond one.
      const along = [random(1000) / 7, random(1000) / 11, random(1000) / 13];
      const xyz = [0, 1 + random(50), 60 + random(50)].flatMap((t) => along.map((v) => v * t));
      inMeshKernel((kernel) => {
        const [at, out] = [kernel.put(new Float32Array(xyz)), kernel.room(12)];
        kernel.passes.cornerAngles(at, kernel.put(new Uint32Array([0, 1, 2])), 1, out);
        expect([...kernel.floats(out, 3)].every(Number.isFinite)).toBe(true);
      });
    }
  });

  it('weigh normals at a place by the angles there, and tell where a crease may be', () => {
    // Two triangles at a right angle along an edge, and one that continues the first.
    const places = points([0, 0, 0], [1, 0, 0], [0, 1, 0], [0, 0, 1], [-1, 0, 0]);
    const corners = new Uint32Array([0, 1, 2, 0, 3, 1, 0, 2, 4]);
    inMeshKernel((kernel) => {
      const [at, indices] = [kernel.put(places), kernel.put(corners)];
      const [planes, marks] = [kernel.room(36), kernel.room(3)];
      kernel.passes.faceNormals(at, 5, indices, 3, planes, marks);
      const [sums, first, sharp] = [kernel.room(60, 0), kernel.room(20, 0), kernel.room(5, 0)];
      const any = kernel.passes.sumNormals(at, indices, indices, 3, planes, Math.cos(Math.PI / 8), sums, first, sharp);
      expect(!!any).toBe(true);
      expect([...kernel.bytes(sharp, 5)]).toEqual([1, 1, 0, 0, 0]);
      // At place 0 the first and the third triangle (upwards) have a right angle each, the second (along y) one too.
      kernel.floats(sums, 3).forEach((v, k) => expect(v).toBeCloseTo([0, Math.PI / 2, Math.PI][k]!, 5));
      // At place 1 the first has an eighth of a turn, and so has the second.
      kernel.floats(sums + 12, 3).forEach((v, k) => expect(v).toBeCloseTo([0, Math.PI / 4, Math.PI / 4][k]!, 5));
      kernel.passes.directions(sums, 5);
      kernel.floats(sums, 3).forEach((v, k) => expect(v).toBeCloseTo([0, 1, 2][k]! / Math.sqrt(5), 5));
      kernel.floats(sums, 3).fill(0);
      kernel.passes.directions(sums, 1);
      expect([...kernel.floats(sums, 3)]).toEqual([0, 1, 0]);
    });
  });

  it('tell a place of two triangles that go on from each other from one at a crease', () => {
    const places = points([0, 0, 0], [1, 0, 0], [0, 1, 0], [0, 0, 1], [1, 1, 0]);
    const corners = new Uint32Array([0, 2, 3, 0, 1, 2, 1, 4, 2]);
    inMeshKernel((kernel) => {
      const [at, indices] = [kernel.put(places), kernel.put(corners)];
      const [planes, marks] = [kernel.room(36), kernel.room(3)];
      kernel.passes.faceNormals(at, 5, indices, 3, planes, marks);
      const [sums, first, sharp] = [kernel.room(60, 0), kernel.room(20, 0), kernel.room(5, 0)];
      kernel.passes.sumNormals(at, indices, indices, 3, planes, Math.cos(Math.PI / 8), sums, first, sharp);
      expect([...kernel.bytes(sharp, 5)]).toEqual([1, 0, 1, 0, 0]);
    });
  });

  it('add up the volumes of shells, and tell which are open', () => {
    // A tetrahedron of volume 1/6 away from the origin, turned over in one triangle, and a triangle alone.
    const places = points([5, 5, 5], [6, 5, 5], [5, 6, 5], [5, 5, 6], [0, 0, 2], [3, 0, 2], [0, 3, 2]);
    const corners = new Uint32Array([0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 3, 2, 4, 5, 6]);
    inMeshKernel((kernel) => {
      const out = across(kernel, corners, 7);
      const [at, indices] = [kernel.put(places), kernel.put(corners)];
      const turned = kernel.put(new Uint8Array([0, 0, 0, 1, 0]));
      const region = kernel.put(new Uint32Array([0, 0, 0, 0, 1]));
      const sums = kernel.room(48, 0);
      kernel.passes.shellVolumes(at, indices, out, turned, region, 5, sums);
      const [volumes, counts] = [kernel.doubles(sums, 6), kernel.numbers(sums, 12)];
      expect(volumes[0]).toBeCloseTo(1, 9);
      expect(volumes[3]).toBeCloseTo(18, 9);
      expect(volumes[4]).toBeCloseTo(18, 9);
      // Parts of the tetrahedron as seen from the origin: three sides of 5 below it, 16 behind it.
      expect(volumes[1]).toBeCloseTo(5 + 5 + 5 + 16, 9);
      expect([counts[4], counts[5], counts[10], counts[11]]).toEqual([4, 0, 1, 1]);
    });
    // One open side is enough, whichever it is.
    for (let side = 0; side < 3; side++) {
      inMeshKernel((kernel) => {
        const sides = new Int32Array(3).fill(3);
        sides[side] = OPEN;
        const [at, indices, open] = [kernel.put(places), kernel.put(corners), kernel.put(sides)];
        const sums = kernel.room(24, 0);
        kernel.passes.shellVolumes(at, indices, open, kernel.room(1, 0), kernel.room(4, 0), 1, sums);
        expect(kernel.numbers(sums, 6)[5]).toBe(1);
      });
    }
  });
});

describe('passes over lines', () => {
  const text = (kernel: MeshKernel, lines: string) => {
    const bytes = new TextEncoder().encode(lines);
    const at = kernel.room(bytes.length + 64, 0);
    kernel.write(bytes, at);
    return { at, end: at + bytes.length };
  };

  /** Numbers that are read from lines, and the first line that is not. */
  const numbers = (lines: string, letters: number, width: number) =>
    inMeshKernel((kernel) => {
      const { at, end } = text(kernel, lines);
      const out = kernel.room(lines.length * 2 + 16);
      const next = kernel.passes.numberLines(at, end, letters, width, out);
      return { read: [...kernel.floats(out, kernel.passes.numbersWritten())], rest: lines.slice(next - at) };
    });
  const triangles = (lines: string, lists: number) =>
    inMeshKernel((kernel) => {
      const { at, end } = text(kernel, lines);
      const out = kernel.room(lines.length * 2 + 16);
      const next = kernel.passes.triangleLines(at, end, lists, out);
      return { read: [...kernel.numbers(out, kernel.passes.numbersWritten())], rest: lines.slice(next - at) };
    });

  it('round every number as it is written once', () => {
    for (let round = 0; round < 500; round++) {
      const whole = String(random(10 ** random(9)));
      const part = String(random(10 ** random(9))).padStart(1 + random(6), '0');
      const written = `${random(2) ? '-' : ''}${whole}${random(4) ? `.${part}` : ''}`;
      if (written.replace(/\D/g, '').length > 15) continue;
      expect(numbers(`v ${written}\n`, 1, 1), written).toEqual({ read: [Math.fround(Number(written))], rest: '' });
    }
  });

  it('go to fifteen digits and to the end of lines in either manner', () => {
    expect(numbers('v  123456789012345 -0.5   7 \r\nv 1 2 3\n', 1, 3)).toEqual({
      read: [123456789012345, -0.5, 7, 1, 2, 3].map(Math.fround),
      rest: '',
    });
    expect(numbers('vn .5 5. 12345678.1234567\n', 2, 3).read).toEqual([0.5, 5, 12345678.1234567].map(Math.fround));
    expect(numbers('vn 0 0 1\nvn 1 0 0\nvt 0 0\n', 2, 3)).toEqual({ read: [0, 0, 1, 1, 0, 0], rest: 'vt 0 0\n' });
  });

  it.each([
    'v 1234567890123456 0 0\n',
    'v 12345678.12345678 0 0\n',
    'v 1e3 0 0\n',
    'v 1 2\n',
    'v 1 2 3 4\n',
    'v 1 2 3 # here\n',
    'v 1,5 2 3\n',
    'v 1 2 -\n',
    'v 1 2 .\n',
    'v 1 2 3',
    'v\t1 2 3\n',
    'v 1 2 3\r',
    'w 1 2 3\n',
  ])('leave "%j", and what follows, to those who read slowly', (line) => {
    expect(numbers(`v 4 5 6\n${line}v 7 8 9\n`, 1, 3)).toEqual({ read: [4, 5, 6], rest: `${line}v 7 8 9\n` });
  });

  it('of triangles name one to three lists', () => {
    expect(triangles('f 1 2 3\nf 123456789 5  6 \r\n', 1)).toEqual({ read: [0, 1, 2, 123456788, 4, 5], rest: '' });
    expect(triangles('f 1/9 2/8 3/7\n', 2).read).toEqual([0, 8, 1, 7, 2, 6]);
    expect(triangles('f 1//9 2//8 3//7\n', 3).read).toEqual([0, 8, 1, 7, 2, 6]);
    expect(triangles('f 1/4/9 2/5/8 3/6/7\n', 4).read).toEqual([0, 3, 8, 1, 4, 7, 2, 5, 6]);
  });

  it.each([
    ['f 1 2 3 4\n', 1],
    ['f 1 2\n', 1],
    ['f 0 1 2\n', 1],
    ['f -1 1 2\n', 1],
    ['f 1234567890 1 2\n', 1],
    ['f 1/1 2/1 3/1\n', 1],
    ['g 1 2 3\n', 1],
    ['f\t1 2 3\n', 1],
    ['f 1/0 2/1 3/1\n', 2],
    ['f 1/1 2/1 3/1234567890\n', 2],
    ['f 1/1 2/1 3\n', 2],
    ['f 1//1 2//1 3//1\n', 2],
    ['f 1/1 2/1 3/1\n', 3],
    ['f 1/1/1 2/1/1 3/1/1\n', 3],
    ['f 1//1 2//1 3//1234567890\n', 3],
    ['f 1//0 2//1 3//1\n', 3],
    ['f 1//1 2//1 3//1\n', 4],
    ['f 1/1/1 2/1/1 3/1\n', 4],
    ['f 1/1/1 2/0/1 3/1/1\n', 4],
  ])('leave "%j" of %i lists, and what follows', (line, lists) => {
    const corner = ['', '7', '7/7', '7//7', '7/7/7'][lists];
    const first = `f ${corner} ${corner} ${corner}\n`;
    const { read, rest } = triangles(`${first}${line}${first}`, lists);
    expect(rest).toBe(`${line}${first}`);
    expect(read).toEqual(Array(3 * [0, 1, 2, 2, 3][lists]!).fill(6));
  });

  it('that begin behind the end are left', () => {
    inMeshKernel((kernel) => {
      const { at } = text(kernel, 'v 1 2 3\nv 4 5 6\n');
      expect(kernel.passes.numberLines(at, at + 8, 1, 3, kernel.room(64)) - at).toBe(8);
      expect(kernel.passes.numbersWritten()).toBe(3);
      const faces = text(kernel, 'f 1 2 3\nf 4 5 6\n').at;
      expect(kernel.passes.triangleLines(faces, faces + 8, 1, kernel.room(64)) - faces).toBe(8);
      expect(kernel.passes.numbersWritten()).toBe(3);
    });
  });
});
