import { describe, expect, it } from 'vitest';
import type { SetPiece } from '../document';
import { acrossSides, boundsOfPositions, copyCount, copyPlaces, OPEN, pieceMesh, weldPositions } from './index';
import { newCopies } from '../document';

const PIECES: { piece: SetPiece; volume: number | null; area: number; size: [number, number, number] }[] = [
  { piece: { kind: 'plane', width: 400, depth: 300 }, volume: null, area: 120_000, size: [400, 0, 300] },
  { piece: { kind: 'box', width: 100, height: 50, depth: 20, bevel: 0 }, volume: 100_000, area: 16_000, size: [100, 50, 20] },
  { piece: { kind: 'cylinder', radius: 30, height: 80, bevel: 0 }, volume: Math.PI * 900 * 80, area: 2 * Math.PI * 30 * 110, size: [60, 80, 60] },
  { piece: { kind: 'sphere', radius: 25 }, volume: (4 / 3) * Math.PI * 25 ** 3, area: 4 * Math.PI * 625, size: [50, 50, 50] },
  { piece: { kind: 'disc', radius: 40, hole: 10 }, volume: null, area: Math.PI * 1500, size: [80, 0, 80] },
  { piece: { kind: 'tube', radius: 40, wall: 10, height: 60 }, volume: Math.PI * 700 * 60, area: 2 * Math.PI * 700 + 2 * Math.PI * 70 * 60, size: [80, 60, 80] },
  // The bars' middle lines are 80 + 80 + 180 + 180 mm long; mitres leave that as it is.
  { piece: { kind: 'frame', width: 100, height: 200, bar: 20, depth: 10, section: 'rectangular' }, volume: 520 * 200, area: 520 * 60, size: [100, 200, 10] },
  { piece: { kind: 'frame', width: 100, height: 200, bar: 20, depth: 10, section: 'round' }, volume: 520 * Math.PI * 100, area: 520 * 2 * Math.PI * 10, size: [100, 200, 20] },
  { piece: { kind: 'sweep', width: 500, depth: 600, height: 700, radius: 200 }, volume: null, area: 500 * (400 + 500 + Math.PI * 100), size: [500, 700, 600] },
]; // prettier-ignore

function measures(piece: SetPiece) {
  const { positions: p, normals: n, indices } = pieceMesh(piece);
  let [volume, area, facing] = [0, 0, 1];
  for (let at = 0; at < indices.length; at += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => [0, 1, 2].map((axis) => p[indices[at + k]! * 3 + axis]!)) as number[][];
    const [u, v] = [b!.map((x, k) => x - a![k]!), c!.map((x, k) => x - a![k]!)];
    const way = [0, 1, 2].map((k) => u[(k + 1) % 3]! * v[(k + 2) % 3]! - u[(k + 2) % 3]! * v[(k + 1) % 3]!);
    area += Math.hypot(...way) / 2;
    volume += way.reduce((sum, x, k) => sum + x * a![k]!, 0) / 6;
    for (let k = 0; k < 3; k++) {
      const along = way.reduce((sum, x, axis) => sum + x * n[indices[at + k]! * 3 + axis]!, 0) / Math.hypot(...way);
      facing = Math.min(facing, along);
    }
  }
  return { volume, area, facing };
}

describe('a set piece', () => {
  for (const { piece, volume, area, size } of PIECES) {
    const name = piece.kind === 'frame' ? `${piece.section} frame` : piece.kind;
    it(`${name} has the size, area and volume of its dimensions, and faces outwards`, () => {
      const mesh = pieceMesh(piece);
      const { low, high } = boundsOfPositions(mesh.positions);
      expect(low[1]).toBeCloseTo(0, 4);
      high.forEach((v, k) => expect(v - low[k]!).toBeCloseTo(size[k]!, 1));
      const found = measures(piece);
      expect(found.area / area).toBeCloseTo(1, 2);
      if (volume !== null) {
        expect(found.volume / volume).toBeCloseTo(1, 2);
        // A body is closed: no side of a triangle is open.
        const { places } = weldPositions(mesh.positions, 1e-4);
        const open = acrossSides(mesh.indices.map((vertex) => places[vertex]!)).filter((other) => other === OPEN);
        expect(open.length).toBe(0);
      }
      expect(found.facing).toBeGreaterThan(0.98);
      expect(mesh.uvs!.length).toBe((mesh.positions.length / 3) * 2);
      expect(mesh.faces!.length).toBe(mesh.indices.length / 3);
    });
  }

  it('keeps its outer size when its edges are rounded, and loses some volume', () => {
    for (const piece of [PIECES[1]!.piece, PIECES[2]!.piece]) {
      const round = { ...piece, bevel: 5 } as SetPiece;
      const sharp = boundsOfPositions(pieceMesh(piece).positions);
      const { low, high } = boundsOfPositions(pieceMesh(round).positions);
      high.forEach((v, k) => expect(v - low[k]!).toBeCloseTo(sharp.high[k]! - sharp.low[k]!, 3));
      const part = measures(round).volume / measures(piece).volume;
      expect(part).toBeGreaterThan(0.9);
      expect(part).toBeLessThan(0.995);
      const { positions, indices } = pieceMesh(round);
      const { places } = weldPositions(positions, 1e-4);
      const open = acrossSides(indices.map((vertex) => places[vertex]!)).filter((other) => other === OPEN);
      expect(open.length).toBe(0);
      expect(measures(round).facing).toBeGreaterThan(0.98);
    }
  });

  it('takes bevels, walls and curves that are too large as large as they fit', () => {
    const odd: SetPiece[] = [
      { kind: 'box', width: 10, height: 4, depth: 10, bevel: 100 },
      { kind: 'cylinder', radius: 10, height: 4, bevel: 100 },
      { kind: 'tube', radius: 10, wall: 50, height: 4 },
      { kind: 'disc', radius: 10, hole: 50 },
      { kind: 'sweep', width: 10, depth: 5, height: 8, radius: 500 },
      { kind: 'frame', width: 10, height: 10, bar: 50, depth: 3, section: 'round' },
    ];
    for (const piece of odd) {
      const { positions, indices } = pieceMesh(piece);
      expect(positions.every(Number.isFinite), piece.kind).toBe(true);
      expect(indices.length, piece.kind).toBeGreaterThan(0);
    }
  });
});

describe('copies', () => {
  it('in a line begin with the node itself and go on by the spacing', () => {
    const places = copyPlaces(newCopies({ kind: 'line', count: 4, spacing: [10, 0, -2] }));
    expect(places.map(({ offset }) => offset)).toEqual([0, 1, 2, 3].map((k) => [k * 10, 0, -k * 2].map((v) => v + 0)));
  });

  it('in a grid fill its rows', () => {
    const copies = newCopies({ kind: 'grid', counts: [3, 2, 2], spacing: [10, 20, 30] });
    const places = copyPlaces(copies);
    expect(places).toHaveLength(12);
    expect(copyCount(copies)).toBe(12);
    expect(new Set(places.map(({ offset }) => offset.join())).size).toBe(12);
    expect(places.at(-1)!.offset).toEqual([20, 20, 30]);
  });

  it('in a ring stand at its radius, evenly, and face outwards where they turn with it', () => {
    const places = copyPlaces(newCopies({ kind: 'ring', count: 6, radius: 50, axis: [0, 2, 0] }));
    for (const [k, { offset, turn }] of places.entries()) {
      expect(Math.hypot(...offset)).toBeCloseTo(50, 9);
      const next = places[(k + 1) % 6]!.offset;
      expect(Math.hypot(...offset.map((v, axis) => v - next[axis]!))).toBeCloseTo(50, 9);
      expect(2 * Math.acos(Math.min(1, Math.abs(turn[3])))).toBeCloseTo(Math.min(k, 6 - k) * (Math.PI / 3), 6);
    }
  });

  it('in a part of a ring reach both of its ends', () => {
    const places = copyPlaces(newCopies({ kind: 'ring', count: 3, radius: 10, angle: Math.PI, facing: false }));
    expect(places[2]!.offset.map((v) => Math.round(v) + 0)).toEqual([-10, 0, 0]);
    expect(places[2]!.turn).toEqual([0, 0, 0, 1]);
  });

  it('differ at random within what is allowed, the same at every look', () => {
    const copies = newCopies({ count: 200, spacing: [0, 0, 0], varyOffset: [5, 0, 0], varyScale: 0.2, seed: 7 });
    const places = copyPlaces(copies);
    expect(copyPlaces(copies)).toEqual(places);
    expect(copyPlaces({ ...copies, seed: 8 })).not.toEqual(places);
    const offsets = places.map(({ offset }) => offset[0]);
    expect(Math.max(...offsets)).toBeGreaterThan(4);
    expect(Math.min(...offsets)).toBeLessThan(-4);
    expect(Math.max(...offsets.map(Math.abs))).toBeLessThanOrEqual(5);
    expect(Math.abs(offsets.reduce((sum, v) => sum + v, 0) / 200)).toBeLessThan(1);
    expect(Math.max(...places.map(({ scale }) => Math.abs(scale - 1)))).toBeLessThanOrEqual(0.2);
  });
});
