import { encode } from 'fast-png';
import { countUp, IDENTITY, type TriangleMesh } from '../geometry';
import { encodeSrgb } from '../optics';
import { colorFinish, type ModelFinish, type ModelNode, type ModelPicture } from './model';

/** More colours than these become a picture, fewer become finishes of their own. */
const MOST_FINISHES = 24;
/** Edge of the largest picture that colours are painted on. */
const MOST_EDGE = 8192;

export interface ColoredModel {
  mesh: TriangleMesh;
  nodes: ModelNode[];
  finishes: ModelFinish[];
  pictures: ModelPicture[];
}

/**
 * A mesh whose vertices have colours: faces with a finish each where the colours are few, and else a picture with a small
 * square for every two triangles, since finishes know no colours of vertices.
 * @param colors linear RGB, three a vertex, 0 to 1
 */
export function colorModel(mesh: TriangleMesh, colors: Float32Array, label: string): ColoredModel {
  const triangles = mesh.indices.length / 3;
  const numbers = new Map<string, number>();
  const faces = new Uint32Array(triangles);
  for (let t = 0; t < triangles && numbers.size <= MOST_FINISHES; t++) {
    const [a, b, c] = [0, 1, 2].map((k) => mesh.indices[t * 3 + k]!) as [number, number, number];
    const mean = [0, 1, 2].map(
      (k) => ((colors[a * 3 + k] ?? 0) + (colors[b * 3 + k] ?? 0) + (colors[c * 3 + k] ?? 0)) / 3,
    );
    const key = mean.map((v) => Math.round(v * 255)).join();
    if (!numbers.has(key)) numbers.set(key, numbers.size);
    faces[t] = numbers.get(key)!;
  }
  if (numbers.size > MOST_FINISHES) return paintColors(mesh, colors, label);
  const finishes = [...numbers.keys()].map((key, k) =>
    colorFinish(
      `${label} colour ${k + 1}`,
      key.split(',').map((v) => Number(v) / 255),
    ),
  );
  if (finishes.length === 1)
    return {
      mesh,
      finishes,
      pictures: [],
      nodes: [{ name: label, parent: -1, transform: IDENTITY, mesh: 0, finish: 0 }],
    };
  return {
    mesh: { ...mesh, faces },
    finishes,
    pictures: [],
    nodes: [
      { name: label, parent: -1, transform: IDENTITY, mesh: null, finish: null },
      ...finishes.map((_, k) => ({
        name: `${label} ${k + 1}`,
        parent: 0,
        transform: IDENTITY,
        mesh: 0,
        faces: [k],
        finish: k,
      })),
    ],
  };
}

function paintColors(mesh: TriangleMesh, colors: Float32Array, label: string): ColoredModel {
  const triangles = mesh.indices.length / 3;
  const across = Math.ceil(Math.sqrt(Math.ceil(triangles / 2)));
  // Four pixels an edge blend the corners' colours; of very many triangles each keeps its mean.
  const cell = Math.max(1, Math.min(4, Math.floor(MOST_EDGE / across)));
  const edge = Math.min(MOST_EDGE, across * cell);
  const data = new Uint8Array(edge * edge * 3);
  const uvs = new Float32Array(triangles * 6);
  const positions = new Float32Array(triangles * 9);
  const normals = mesh.normals.length > 0 ? new Float32Array(triangles * 9) : new Float32Array();
  for (let t = 0; t < triangles; t++) {
    const square = t >> 1;
    const [left, top] = [(square % across) * cell, Math.floor(square / across) * cell];
    const upper = t % 2 === 1;
    const corners = [0, 1, 2].map((k) => mesh.indices[t * 3 + k]!) as [number, number, number];
    const span = cell - 1;
    for (let y = 0; y < cell; y++) {
      for (let x = 0; x < cell; x++) {
        if (cell > 1 && x + y > span !== upper && x + y !== span) continue;
        const [u, v] = span === 0 ? [1 / 3, 1 / 3] : upper ? [1 - x / span, 1 - y / span] : [x / span, y / span];
        if (left + x >= edge || top + y >= edge) continue;
        for (let k = 0; k < 3; k++) {
          const [a, b, c] = corners.map((corner) => colors[corner * 3 + k] ?? 0) as [number, number, number];
          const value = a * Math.max(0, 1 - u - v) + b * u + c * v;
          data[((top + y) * edge + left + x) * 3 + k] = Math.round(255 * encodeSrgb(Math.min(1, Math.max(0, value))));
        }
      }
    }
    const [low, high] = [0.5 / edge, (span + 0.5) / edge];
    const [x, y] = [left / edge, top / edge];
    const places = upper ? [high, high, low, high, high, low] : [low, low, high, low, low, high];
    for (let k = 0; k < 6; k++) uvs[t * 6 + k] = places[k]! + (k % 2 === 0 ? x : y);
    for (let k = 0; k < 9; k++) {
      const from = corners[(k / 3) | 0]! * 3 + (k % 3);
      positions[t * 9 + k] = mesh.positions[from]!;
      if (normals.length > 0) normals[t * 9 + k] = mesh.normals[from]!;
    }
  }
  const bytes = new Uint8Array(encode({ width: edge, height: edge, data, channels: 3 }));
  return {
    mesh: { positions, normals, indices: countUp(triangles * 3), uvs },
    nodes: [{ name: label, parent: -1, transform: IDENTITY, mesh: 0, finish: 0 }],
    finishes: [
      {
        name: `${label} colours`,
        values: { baseColor: [1, 1, 1] },
        maps: [{ slot: 'baseColor', picture: 0, over: {} }],
      },
    ],
    pictures: [{ name: `${label} colours`, bytes }],
  };
}
