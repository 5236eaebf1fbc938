import { BoxGeometry, SphereGeometry, TorusGeometry, type BufferGeometry } from 'three';
import { describe, expect, it } from 'vitest';
import {
  acrossSides,
  boundsOfTransformed,
  composeTransform,
  corners,
  CROWDED,
  creaseFaces,
  creaseNormals,
  faceNormals,
  findOrientation,
  facesAlone,
  facesByShell,
  joinMeshes,
  keepsAxes,
  OPEN,
  pickFaces,
  PlaceTable,
  quaternionAbout,
  regions,
  sidesOf,
  trianglesOfRegions,
  shells,
  transformBounds,
  transformMesh,
  weldPositions,
  type Bounds,
  type TriangleMesh,
} from './index';

function meshOf(geometry: BufferGeometry): TriangleMesh {
  const array = (name: string) => new Float32Array(geometry.getAttribute(name).array);
  return {
    positions: array('position'),
    normals: array('normal'),
    indices: new Uint32Array(geometry.getIndex()!.array),
  };
}

const ball = (radius = 10) => meshOf(new SphereGeometry(radius, 24, 12));
const crate = () => meshOf(new BoxGeometry(10, 20, 30));
const moved = (mesh: TriangleMesh, x: number) => transformMesh(mesh, [1, 0, 0, x, 0, 1, 0, 0, 0, 0, 1, 0]);

function topology({ positions, indices }: TriangleMesh) {
  const { places, count } = weldPositions(positions, 1e-4);
  // Poles of a sphere have triangles without area.
  const sound = indices.filter((_, k) => {
    const t = k - (k % 3);
    const [a, b, c] = [places[indices[t]!], places[indices[t + 1]!], places[indices[t + 2]!]];
    return a !== b && b !== c && a !== c;
  });
  const corners = sound.map((vertex) => places[vertex]!);
  return { indices: sound, corners, count, across: acrossSides(corners), places };
}

const turn = (indices: Uint32Array, which: (triangle: number) => boolean): Uint32Array =>
  indices.map((v, k) => {
    const t = (k / 3) | 0;
    return which(t) && k % 3 > 0 ? indices[t * 3 + (k % 3 === 1 ? 2 : 1)]! : v;
  });

describe('welding', () => {
  it('finds the eight corners of a crate that has four vertices a side', () => {
    expect(crate().positions).toHaveLength(24 * 3);
    expect(weldPositions(crate().positions).count).toBe(8);
  });

  it('takes minus zero for zero and neighbours across the border of a cell for one place', () => {
    expect(weldPositions(new Float32Array([0, 1, 2, -0, 1, 2])).count).toBe(1);
    for (const x of [-3, -0.0001, 0, 0.2, 1, 7.3]) {
      const near = weldPositions(new Float32Array([x - 0.04, x, x, x + 0.04, x, x]), 0.1);
      expect(near.count).toBe(1);
    }
    expect(weldPositions(new Float32Array([0, 0, 0, 0.3, 0, 0]), 0.1).count).toBe(2);
  });

  it('joins near vertices over walls, edges and corners of cells, and none that are far', () => {
    // Pairs at steps of a cell's width, in all directions over the wall.
    const cell = 0.1 * 64;
    for (const [x, y, z] of [
      [1, 0, 0],
      [0, -1, 0],
      [0, 0, 1],
      [1, 1, 0],
      [-1, 0, 1],
      [1, -1, 1],
    ] as const) {
      const low = [3 * cell - 0.03 * x, -2 * cell - 0.03 * y, -0.03 * z];
      const high = [3 * cell + 0.02 * x, -2 * cell + 0.02 * y, 0.02 * z];
      const { places, positions } = weldPositions(new Float32Array([...low, 50, 50, 50, ...high]), 0.1);
      expect([...places]).toEqual([0, 1, 0]);
      expect([...positions.subarray(0, 3)]).toEqual(low.map(Math.fround));
    }
  });

  it('numbers places as they come, however many more there are than was expected', () => {
    const table = new PlaceTable(2);
    const placeOf = (k: number) => table.placeOf(Math.sin(k), k % 7, k / 3);
    const first = Array.from({ length: 5000 }, (_, k) => placeOf(k));
    expect(first).toEqual(first.map((_, k) => k));
    expect(Array.from({ length: 5000 }, (_, k) => placeOf(k))).toEqual(first);
    expect(table.positions()).toHaveLength(15_000);
    expect(table.positions()[3 * 4321]).toBe(Math.fround(Math.sin(4321)));
    // What is no number is one place, too, and stays to be found out later.
    expect(table.placeOf(NaN, 0, 0)).toBe(table.placeOf(NaN, -0, 0));
  });
});

describe('sides', () => {
  it('of a closed surface have each another one across, which has it across', () => {
    const { across } = topology(ball());
    across.forEach((other, side) => expect(across[other]).toBe(side));
  });

  it('are open at a border and crowded where three triangles meet', () => {
    const across = acrossSides(new Uint32Array([0, 1, 2, 1, 0, 3, 0, 1, 4]));
    expect([...across]).toEqual([CROWDED, OPEN, OPEN, CROWDED, OPEN, OPEN, CROWDED, OPEN, OPEN]);
  });

  it('at a crowded place are found as at any other', () => {
    // A closed double cone round places 0 and 1 with very many sides, and three more triangles at one of them.
    const rim = 500;
    const cone = Array.from({ length: rim }, (_, k) => [k, (k + 1) % rim].map((at) => at + 2)).flatMap(([a, b]) => [
      0,
      a!,
      b!,
      1,
      b!,
      a!,
    ]);
    const across = acrossSides(new Uint32Array(cone));
    across.forEach((other, side) => expect(across[other]).toBe(side));
    expect(sidesOf(new Uint32Array(cone)).agree).toBe(true);
    const more = new Uint32Array([...cone, 0, 2, 9000, 0, 2, 9001, 9002, 2, 0]);
    const sides = acrossSides(more);
    expect([...sides.subarray(cone.length)]).toEqual([CROWDED, OPEN, OPEN, CROWDED, OPEN, OPEN, OPEN, CROWDED, OPEN]);
    expect(sides[0]).toBe(CROWDED);
  });

  it('found again where places were joined are those of all sides found anew', () => {
    let seed = 7;
    const chance = (below: number) => (seed = (seed * 16807) % 2147483647) % below;
    for (let round = 0; round < 200; round++) {
      // Few places and many triangles, so that sides meet, are crowded and lie open.
      const corners = Uint32Array.from({ length: 3 * (4 + chance(30)) }, () => chance(14));
      const before = acrossSides(corners);
      const end = (side: number) => corners[side % 3 === 2 ? side - 2 : side + 1]!;
      const open = [...before.keys()].filter((side) => before[side] === OPEN);
      const atBorder = new Set(open.flatMap((side) => [corners[side]!, end(side)]));
      const [first] = [...atBorder];
      const merged = new Map(
        [...atBorder].flatMap((place) =>
          chance(3) === 0
            ? [
                [place, first!],
                [first!, first!],
              ]
            : [],
        ),
      );
      const joined = corners.map((place) => merged.get(place) ?? place);
      const sides = Uint32Array.from(
        [...corners.keys()].filter((side) => merged.has(corners[side]!) || merged.has(end(side))),
      );
      expect(acrossSides(joined, { sides, across: before })).toEqual(acrossSides(joined));
    }
  });

  it('agree where triangles pass them in opposite directions', () => {
    const agreeing = (corners: number[]) => sidesOf(new Uint32Array(corners)).agree;
    expect(agreeing([0, 1, 2, 1, 0, 3])).toBe(true);
    expect(agreeing([0, 1, 2, 0, 1, 3])).toBe(false);
  });

  it('tell the triangles of each region', () => {
    const { list, begins } = trianglesOfRegions(new Uint32Array([0, 1, 0, 2, 1, 0]), 3);
    expect([0, 1, 2].map((of) => [...list.subarray(begins[of], begins[of + 1])])).toEqual([[0, 2, 5], [1, 4], [3]]);
  });

  it('tell how many loose shells there are', () => {
    const two = topology(joinMeshes([ball(), moved(crate(), 40)]));
    expect(shells(two.corners, two.count).count).toBe(2);
    const corner = acrossSides(new Uint32Array([0, 1, 2, 2, 3, 4]));
    expect(corner.every((side) => side === OPEN)).toBe(true);
    expect(shells(new Uint32Array([0, 1, 2, 2, 3, 4]), 5).count).toBe(1);
  });
});

describe('bounds', () => {
  it('of what is turned are tight, and those of a box where axes stay axes', () => {
    const ball = meshOf(new SphereGeometry(10, 48, 24));
    const turned = composeTransform([5, 0, 0], quaternionAbout([0.6, 0, 0.8], 0.7), [1, 1, 1]);
    const { low, high } = boundsOfTransformed(ball.positions, turned);
    for (let k = 0; k < 3; k++) expect((high[k]! - low[k]!) / 20).toBeCloseTo(1, 1);
    expect((high[0] + low[0]) / 2).toBeCloseTo(5, 1);
    expect(keepsAxes(turned)).toBe(false);
    const quarter = composeTransform([5, 0, 0], quaternionAbout([0, 1, 0], Math.PI / 2), [1, 2, 1]);
    expect(keepsAxes(quarter)).toBe(true);
    const crate = { low: [0, 0, 0], high: [1, 2, 3] } as Bounds;
    const [box, exact] = [transformBounds(crate, quarter), boundsOfTransformed(corners(crate).flat(), quarter)];
    for (const side of ['low', 'high'] as const) box[side].forEach((v, k) => expect(v).toBeCloseTo(exact[side][k]!, 9));
  });
});

describe('orientation', () => {
  const judge = (mesh: TriangleMesh, indices: Uint32Array, t = topology(mesh)) => {
    const corners = indices.map((vertex) => t.places[vertex]!);
    return findOrientation(mesh.positions, indices, corners, sidesOf(corners));
  };

  it('of a sound closed shell is left alone', () => {
    for (const mesh of [ball(), crate(), meshOf(new TorusGeometry(10, 3))]) {
      const found = judge(mesh, topology(mesh).indices);
      expect(found).toMatchObject({ mixed: 0, inverted: 0 });
      expect(found.turned.some((mark) => mark === 1)).toBe(false);
    }
  });

  it('inside out is found as a whole, also away from the origin', () => {
    const mesh = moved(ball(), 500);
    const { indices } = topology(mesh);
    const found = judge(
      mesh,
      turn(indices, () => true),
    );
    expect(found.inverted).toBe(indices.length / 3);
    expect(found.turned.every((mark) => mark === 1)).toBe(true);
  });

  it('of single triangles follows their neighbours', () => {
    const mesh = ball();
    const { indices } = topology(mesh);
    const wrong = new Set([3, 50, 51, 200]);
    const found = judge(
      mesh,
      turn(indices, (t) => wrong.has(t)),
    );
    expect(found.mixed).toBe(4);
    expect([...found.turned.keys()].filter((t) => found.turned[t] === 1)).toEqual([...wrong]);
  });

  it('of a cavity is left alone, of an inverted shell beside another one not', () => {
    const hollow = joinMeshes([ball(10), ball(5)]);
    const half = topology(ball(10)).indices.length / 3;
    const { indices } = topology(hollow);
    expect(
      judge(
        hollow,
        turn(indices, (t) => t >= half),
      ).inverted,
    ).toBe(0);
    const beside = joinMeshes([ball(10), moved(ball(5), 30)]);
    expect(
      judge(
        beside,
        turn(topology(beside).indices, (t) => t >= half),
      ).inverted,
    ).toBe(half);
  });

  it('of an open bowl is told by which side sees more, of a flat sheet not at all', () => {
    const bowl = meshOf(new SphereGeometry(10, 24, 12, 0, Math.PI * 2, Math.PI / 2, Math.PI / 2));
    const { indices } = topology(bowl);
    expect(judge(bowl, indices).inverted).toBe(0);
    expect(
      judge(
        bowl,
        turn(indices, () => true),
      ).inverted,
    ).toBe(indices.length / 3);
    const sheet: TriangleMesh = {
      positions: new Float32Array([0, 0, 0, 9, 0, 0, 9, 0, 9, 0, 0, 9]),
      normals: new Float32Array(),
      indices: new Uint32Array([0, 1, 2, 0, 2, 3]),
    };
    expect(judge(sheet, sheet.indices).inverted).toBe(0);
    expect(
      judge(
        sheet,
        turn(sheet.indices, () => true),
      ).inverted,
    ).toBe(0);
  });
});

describe('creases', () => {
  it('leave a crate its six faces with flat normals, and a ball one with round ones', () => {
    const box = topology(crate());
    const planes = faceNormals(crate().positions, box.indices);
    expect(creaseFaces(planes, box.corners, box.across, 0.5).count).toBe(6);
    const flat = creaseNormals(crate().positions, box.indices, box.corners, box.count, 0.5);
    expect(flat.positions.length / 3).toBe(24);
    flat.indices.forEach((vertex, at) => {
      for (let k = 0; k < 3; k++) {
        expect(flat.normals[vertex * 3 + k]).toBeCloseTo(planes[((at / 3) | 0) * 3 + k]!, 5);
      }
    });
    const round = topology(ball());
    const smooth = creaseNormals(ball().positions, round.indices, round.corners, round.count, 0.6);
    expect(creaseFaces(faceNormals(ball().positions, round.indices), round.corners, round.across, 0.6).count).toBe(1);
    for (let vertex = 0; vertex < smooth.normals.length; vertex += 3) {
      const along = [0, 1, 2].reduce(
        (sum, k) => sum + (smooth.normals[vertex + k]! * smooth.positions[vertex + k]!) / 10,
        0,
      );
      expect(along).toBeGreaterThan(0.995);
    }
  });

  it('are the same whichever way triangles face, and faces hang together as one shell', () => {
    const { indices, corners, across } = topology(crate());
    const third = (list: Uint32Array) => turn(list, (t) => t % 3 === 1);
    const mixed = third(corners);
    const faces = creaseFaces(faceNormals(crate().positions, third(indices)), mixed, acrossSides(mixed), 0.5);
    expect(faces.count).toBe(6);
    expect(faces.regions).toEqual(creaseFaces(faceNormals(crate().positions, indices), corners, across, 0.5).regions);
    expect(regions(across, faces)).toEqual(regions(across));
    const two = topology(joinMeshes([crate(), moved(crate(), 90)]));
    const parts = creaseFaces(new Float32Array(two.corners.length).fill(1), two.corners, two.across, 0.5);
    expect([parts.count, regions(two.across, parts)]).toEqual([2, parts]);
  });

  it('give each side of a folded sheet its own normals at the fold, and leave out vertices that nothing uses', () => {
    const positions = new Float32Array([9, 9, 9, 0, 0, 0, 1, 0, 0, 1, 0, 1, 0, 0, 1, 0, 1, 0, 1, 1, 0]);
    const indices = new Uint32Array([1, 3, 2, 1, 4, 3, 1, 2, 6, 1, 6, 5]);
    const made = creaseNormals(positions, indices, indices, 7, 0.5);
    expect(made.positions).toHaveLength(8 * 3);
    expect([...made.sources]).toEqual([1, 2, 3, 4, 5, 6, 1, 2]);
    const planes = faceNormals(positions, indices);
    made.indices.forEach((vertex, at) => {
      expect(made.sources[vertex]).toBe(indices[at]);
      for (let k = 0; k < 3; k++)
        expect(made.normals[vertex * 3 + k]).toBeCloseTo(planes[Math.floor(at / 3) * 3 + k]!, 6);
    });
  });

  it('weigh triangles by their angles, whatever their size', () => {
    // Three sides of a crate meet at right angles: two triangles of one, one each of the others.
    const positions = new Float32Array([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0, 0, 0, -50]);
    const indices = new Uint32Array([0, 1, 2, 0, 2, 3, 0, 3, 4, 0, 4, 1]);
    const made = creaseNormals(positions, indices, indices, 5, Math.PI);
    [-1, -1, 1].forEach((v, k) => expect(made.normals[k]).toBeCloseTo(v / Math.sqrt(3), 6));
  });

  it('take no time by the square of the triangles that meet at one place', () => {
    const fan = 200_000;
    const positions = new Float32Array((fan + 1) * 3);
    const indices = new Uint32Array(fan * 3);
    for (let k = 0; k < fan; k++) {
      const angle = (k / fan) * 2 * Math.PI;
      positions.set([Math.cos(angle), 0, Math.sin(angle)], (k + 1) * 3);
      indices.set([0, ((k + 1) % fan) + 1, k + 1], k * 3);
    }
    const start = performance.now();
    const made = creaseNormals(positions, indices, indices, fan + 1, 0.5);
    expect(performance.now() - start).toBeLessThan(3000);
    expect(made.normals[1]).toBeCloseTo(1, 4);
  });
});

describe('pieces', () => {
  it('are the faces that are asked for, with the vertices they use', () => {
    const whole = { ...crate(), faces: Uint32Array.from({ length: 12 }, (_, t) => t >> 1) };
    const piece = pickFaces(whole, [1, 4]);
    expect(piece.indices).toHaveLength(4 * 3);
    expect(piece.positions).toHaveLength(8 * 3);
    expect([...piece.faces!]).toEqual([1, 1, 4, 4]);
  });

  it('joined keep their places and number their faces on', () => {
    const faces = Uint32Array.from({ length: 12 }, (_, t) => t >> 1);
    const both = joinMeshes([{ ...crate(), faces }, moved({ ...crate(), faces }, 100)]);
    expect(both.indices).toHaveLength(24 * 3);
    expect(new Set(both.faces).size).toBe(12);
    expect(Math.max(...both.positions)).toBe(105);
  });

  it('are divided by face and by loose shell, within the faces that are meant', () => {
    const faces = Uint32Array.from({ length: 12 }, (_, t) => t >> 1);
    const both = joinMeshes([{ ...crate(), faces }, moved({ ...crate(), faces }, 100)]);
    expect(facesAlone(both)).toHaveLength(12);
    expect(facesAlone(both, [3, 7])).toEqual([[3], [7]]);
    expect(facesByShell(both)).toEqual([
      [0, 1, 2, 3, 4, 5],
      [6, 7, 8, 9, 10, 11],
    ]);
    expect(facesByShell(both, [1, 6])).toEqual([[1], [6]]);
  });

  it('mirrored still face outwards', () => {
    const mirrored = transformMesh(ball(), [-1, 0, 0, 3, 0, 2, 0, 0, 0, 0, 1, 0]);
    const { indices, corners } = topology(mirrored);
    expect(findOrientation(mirrored.positions, indices, corners, sidesOf(corners)).inverted).toBe(0);
    const planes = faceNormals(mirrored.positions, indices);
    const n = indices[30]! * 3;
    const along = [0, 1, 2].reduce((sum, k) => sum + mirrored.normals[n + k]! * planes[30 + k]!, 0);
    expect(along).toBeGreaterThan(0.9);
  });
});
