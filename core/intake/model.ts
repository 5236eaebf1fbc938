import type { Transform, TriangleMesh } from '../geometry';

/** A length unit a file may be in. */
export const UNITS = { mm: 1, cm: 10, m: 1000, inch: 25.4, foot: 304.8 } as const;
export type Unit = keyof typeof UNITS;
export type UpAxis = 'y' | 'z' | 'x';

/** How a file colours a part; what it does not say is left out. */
export interface ModelFinish {
  name: string;
  /** Linear. */
  color: [number, number, number];
  /** 1 is opaque. */
  alpha: number;
  metalness?: number;
  roughness?: number;
}

export interface ModelNode {
  name: string;
  /** Position in `nodes`, always before the node itself; -1 for roots. */
  parent: number;
  transform: Transform;
  mesh: number | null;
  finish: number | null;
}

/** What every reader makes of a file, in the file's own unit and axes. */
export interface Model {
  nodes: ModelNode[];
  meshes: TriangleMesh[];
  finishes: ModelFinish[];
  unit: Unit;
  /** Why this unit: said by the file, or guessed from the size. */
  unitReason: string;
  up: UpAxis;
  upReason: string;
  /** What was left out or mended, in sentences for people. */
  notes: string[];
}

export type ModelFormat = 'step' | 'stl' | 'obj' | 'glb';
