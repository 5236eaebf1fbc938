import { nanoid } from 'nanoid';
import {
  AIR,
  BEHIND,
  CAMERA,
  COPIES,
  defaultsOf,
  FINISH,
  FLOOR,
  GRADIENT,
  LIGHT,
  LOOK,
  MOVE,
  MOVES,
  NODE,
  SHOT,
  SKY,
  SURROUNDINGS,
} from './properties';
import {
  SCHEMA_VERSION,
  type Asset,
  type Camera,
  type Copies,
  type Finish,
  type Light,
  type Look,
  type Move,
  type MoveKind,
  type ProjectDocument,
  type Recipe,
  type SceneNode,
  type SetPiece,
  type Shot,
  type StudioSet,
  type Vector3,
} from './schema';

/** A new id, unique over all documents. */
export const newId = (): string => nanoid(12);

/** An asset of one file that needs no recipe. */
export function newAsset(over: Pick<Asset, 'name' | 'kind' | 'hash'> & Partial<Asset>): Asset {
  return {
    id: newId(),
    sourceHash: over.hash,
    sourceName: over.name,
    companions: [],
    recipe: null,
    found: {},
    ...over,
  };
}

export const defaultRecipe = (): Recipe => ({
  unit: 'mm',
  scale: 1,
  up: 'y',
  front: 0,
  chord: 0.08,
  angle: 0.27,
  // 30 degrees: rounds of sixteen sides and more become smooth, bevels stay.
  crease: Math.PI / 6,
  merge: 'parts',
  leave: {},
});

const straightCurve = (): [number, number][] => [
  [0, 0],
  [1, 1],
];

export const defaultLook = (): Look => ({
  ...defaultsOf(LOOK),
  lights: {},
  lightsWritten: {},
  curves: { all: straightCurve(), red: straightCurve(), green: straightCurve(), blue: straightCurve() },
  lookup: null,
});

export const newFinish = (over: Partial<Finish> = {}): Finish => ({
  id: newId(),
  name: 'Satin plastic',
  ...defaultsOf(FINISH),
  maps: {},
  ...over,
});

export function newNode(over: Partial<SceneNode> = {}): SceneNode {
  return {
    id: newId(),
    name: 'Group',
    parent: null,
    order: 0,
    kind: 'group',
    ...defaultsOf(NODE),
    mesh: null,
    finish: null,
    copies: null,
    origin: null,
    ...over,
  };
}

export const SET_PIECE_NAMES: Record<SetPiece['kind'], string> = {
  plane: 'Plane',
  box: 'Box',
  cylinder: 'Cylinder',
  sphere: 'Sphere',
  disc: 'Disc',
  tube: 'Tube',
  frame: 'Frame',
  sweep: 'Curved sweep',
};

/** A set piece of dimensions that fit a product of a size, in millimetres. */
export function newSetPiece(kind: SetPiece['kind'], size: number): SetPiece {
  const part = (of: number) => Math.max(0.1, Number((size * of).toPrecision(2)));
  switch (kind) {
    case 'plane':
      return { kind, width: part(3), depth: part(3) };
    case 'box':
      return { kind, width: part(1), height: part(0.4), depth: part(1), bevel: part(0.01) };
    case 'cylinder':
      return { kind, radius: part(0.5), height: part(0.2), bevel: part(0.01) };
    case 'sphere':
      return { kind, radius: part(0.3) };
    case 'disc':
      return { kind, radius: part(1), hole: 0 };
    case 'tube':
      return { kind, radius: part(0.4), wall: part(0.05), height: part(0.6) };
    case 'frame':
      return { kind, width: part(1), height: part(1.2), bar: part(0.05), depth: part(0.05), section: 'rectangular' };
    case 'sweep':
      return { kind, width: part(6), depth: part(5), height: part(3), radius: part(1.5) };
  }
}

export const newCopies = (over: Partial<Copies> = {}): Copies => ({
  ...defaultsOf(COPIES),
  counts: [3, 1, 3],
  ...over,
});

export const LIGHT_NAMES: Record<Light['kind'], string> = {
  panel: 'Panel',
  disc: 'Disc',
  tube: 'Tube',
  bulb: 'Bulb',
  spot: 'Spot',
  sun: 'Sun',
};

export function newLight(kind: Light['kind'], over: Partial<Light> = {}): Light {
  return {
    id: newId(),
    name: LIGHT_NAMES[kind],
    order: 0,
    kind,
    solo: false,
    parent: null,
    ...defaultsOf(LIGHT),
    power: { panel: 900, disc: 900, tube: 700, bulb: 400, spot: 600, sun: 2000 }[kind],
    unit: kind === 'sun' ? 'lux' : 'lumen',
    width: kind === 'tube' ? 600 : 300,
    radius: { panel: 150, disc: 150, tube: 13, bulb: 20, spot: 25, sun: 150 }[kind],
    ...over,
  };
}

export function newCamera(over: Partial<Camera> = {}): Camera {
  return {
    id: newId(),
    name: 'Camera',
    order: 0,
    parent: null,
    ...defaultsOf(CAMERA),
    focusOn: null,
    ...over,
  };
}

export function newShot(over: Partial<Shot> = {}): Shot {
  return {
    id: newId(),
    name: 'Shot',
    order: 0,
    ...defaultsOf(SHOT),
    camera: null,
    changes: {},
    tracks: {},
    moves: {},
    ...over,
  };
}

/**
 * A move with plain numbers that shows its effect at once. `target` is an entity or, for fade and blink, a property.
 * @param axis of turns, in the space of what the target hangs under
 */
export function newMove(
  kind: MoveKind,
  target: string,
  start: number,
  length: number,
  axis: Vector3 = [0, 1, 0],
): Move {
  const base = { id: newId(), target, ...defaultsOf(MOVE), start, length, pace: 'linear' as const };
  switch (kind) {
    case 'turntable':
      return { ...base, kind, name: 'Turntable', ...defaultsOf(MOVES.turntable), axis, direction: 1 };
    case 'orbit':
      return { ...base, kind, name: 'Orbit', ...defaultsOf(MOVES.orbit), axis, center: null, pace: 'ease' };
    case 'travel':
      return { ...base, kind, name: 'Travel', ...defaultsOf(MOVES.travel), pace: 'ease' };
    case 'ramp':
      return { ...base, kind, name: 'Ramp', from: 0, to: 1, pace: 'ease' };
    case 'blink':
      return { ...base, kind, name: 'Blink', ...defaultsOf(MOVES.blink) };
  }
}

export const clearAir = (): StudioSet['air'] => defaultsOf(AIR);

export function newDocument(name: string): ProjectDocument {
  const camera = newCamera({ name: 'Camera 1' });
  const shot = newShot({ name: 'Shot 1', camera: camera.id });
  const key = newLight('panel', {
    name: 'Key panel',
    position: [-420, 520, 420],
    power: 1400,
    width: 400,
    height: 400,
  });
  return {
    schemaVersion: SCHEMA_VERSION,
    name,
    frameRate: { numerator: 24, denominator: 1 },
    assets: {},
    nodes: {},
    finishes: {},
    lights: { [key.id]: key },
    cameras: { [camera.id]: camera },
    set: {
      floor: defaultsOf(FLOOR),
      surroundings: {
        ...defaultsOf(SURROUNDINGS),
        picture: null,
        gradient: defaultsOf(GRADIENT),
        sky: defaultsOf(SKY),
      },
      air: clearAir(),
      behind: { ...defaultsOf(BEHIND), picture: null, plate: null },
    },
    look: defaultLook(),
    shots: { [shot.id]: shot },
    takeLooks: {},
    reel: { clips: {} },
  };
}
