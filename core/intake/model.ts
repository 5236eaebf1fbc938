import type { Finish, FinishMap, MapSlot, Recipe } from '../document';
import type { Transform, TriangleMesh } from '../geometry';
import type { ModelAlong } from './along';

export type Unit = Recipe['unit'];
export type UpAxis = Recipe['up'];
/** Millimetres in a unit. */
export const UNITS: Readonly<Record<Unit, number>> = { mm: 1, cm: 10, m: 1000, inch: 25.4, foot: 304.8 };

/** A picture that a finish of the file wears. */
export interface ModelMap {
  slot: MapSlot;
  /** Position in the model's `pictures`. */
  picture: number;
  over: Partial<FinishMap>;
}

/** What a file says of how parts look; what it does not say is left out. */
export interface ModelFinish {
  name: string;
  values: Partial<Omit<Finish, 'id' | 'name' | 'maps'>>;
  maps: ModelMap[];
}

/** A picture as the file brought it: PNG, JPEG or whatever else it is. */
export interface ModelPicture {
  name: string;
  bytes: Uint8Array<ArrayBuffer>;
  /** With more than eight bits, once it was brought into the forms that are kept. */
  deep?: Uint8Array<ArrayBuffer>;
}

/** The finish of a file that only names a colour and how opaque it is: what is half clear is taken for glass. */
export function colorFinish(name: string, color: readonly number[], alpha = 1): ModelFinish {
  const clamped = (least: number) => color.map((v) => Math.min(1, Math.max(least, v))) as [number, number, number];
  const clear = alpha < 0.95;
  return {
    name,
    values: {
      baseColor: clamped(0),
      ...(clear ? { specularRoughness: 0, transmissionWeight: 1 - alpha * 0.5, transmissionColor: clamped(0.02) } : {}),
    },
    maps: [],
  };
}

export interface ModelNode {
  name: string;
  /** Position in `nodes`, always before the node itself; -1 for roots. */
  parent: number;
  transform: Transform;
  mesh: number | null;
  /** Faces of the mesh that are meant; all where it is missing. */
  faces?: number[];
  finish: number | null;
}

/** What every reader makes of a file, in the file's own unit and axes. */
export interface Model {
  nodes: ModelNode[];
  meshes: TriangleMesh[];
  finishes: ModelFinish[];
  pictures: ModelPicture[];
  unit: Unit;
  /** Why this unit: said by the file, or guessed from the size. */
  unitReason: string;
  up: UpAxis;
  upReason: string;
  /** Meshes were cut from solids: their triangles agree, and their normals and faces are those of the solid. */
  exact: boolean;
  /** What was left out or mended, in sentences for people. */
  notes: string[];
  /** Corners on another alike that were joined as the file was read, by the number of the mesh. */
  joined?: Readonly<Record<number, number>>;
  /** Cameras, lights and motion that the file holds too. */
  along?: ModelAlong;
}

export type ModelFormat =
  'step' | 'iges' | 'brep' | 'stl' | 'obj' | 'ply' | '3mf' | 'fbx' | 'dae' | 'gltf' | 'glb' | 'zip';
