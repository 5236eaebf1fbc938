import { nanoid } from 'nanoid';
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
  lights: {},
  lightsWritten: {},
  exposure: 0,
  balanceKelvin: 6500,
  balanceTint: 0,
  tone: 'neutral',
  contrast: 1,
  contrastPivot: 0.18,
  saturation: 1,
  curves: { all: straightCurve(), red: straightCurve(), green: straightCurve(), blue: straightCurve() },
  lookup: null,
  lookupAmount: 1,
  denoise: 0.8,
  specks: 1,
  bloomAmount: 0.04,
  bloomRadius: 0.04,
  bloomThreshold: 1,
  zoomBlur: 0,
  fringing: 0,
  vignette: 0,
  vignetteSize: 0.6,
  sharpen: 0,
  grain: 0,
  grainSize: 0.0015,
});

export function newFinish(over: Partial<Finish> = {}): Finish {
  return {
    id: newId(),
    name: 'Satin plastic',
    baseWeight: 1,
    baseColor: [0.5, 0.5, 0.5],
    baseMetalness: 0,
    baseDiffuseRoughness: 0,
    specularWeight: 1,
    specularColor: [1, 1, 1],
    specularRoughness: 0.35,
    specularRoughnessAnisotropy: 0,
    specularRotation: 0,
    specularIor: 1.5,
    transmissionWeight: 0,
    transmissionColor: [1, 1, 1],
    transmissionDepth: 0,
    transmissionScatter: [0, 0, 0],
    transmissionScatterAnisotropy: 0,
    transmissionDispersionScale: 0,
    transmissionDispersionAbbeNumber: 20,
    subsurfaceWeight: 0,
    subsurfaceColor: [0.8, 0.8, 0.8],
    subsurfaceRadius: 1,
    subsurfaceRadiusScale: [1, 0.5, 0.25],
    subsurfaceScatterAnisotropy: 0,
    thinWalled: false,
    coatWeight: 0,
    coatColor: [1, 1, 1],
    coatRoughness: 0.03,
    coatRoughnessAnisotropy: 0,
    coatIor: 1.5,
    coatDarkening: 1,
    fuzzWeight: 0,
    fuzzColor: [1, 1, 1],
    fuzzRoughness: 0.5,
    thinFilmWeight: 0,
    thinFilmThickness: 0.5,
    thinFilmIor: 1.4,
    geometryOpacity: 1,
    emissionPower: 0,
    emissionUnit: 'lumen',
    emissionKelvin: 4000,
    emissionColor: [1, 1, 1],
    emissionTwoSided: false,
    emissionVisibleToCamera: true,
    maps: {},
    ...over,
  };
}

export function newNode(over: Partial<SceneNode> = {}): SceneNode {
  return {
    id: newId(),
    name: 'Group',
    parent: null,
    order: 0,
    kind: 'group',
    position: [0, 0, 0],
    turn: [0, 0, 0],
    scale: [1, 1, 1],
    pivot: [0, 0, 0],
    axis: [0, 1, 0],
    visible: true,
    mesh: null,
    finish: null,
    glow: 1,
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
  kind: 'line',
  count: 3,
  counts: [3, 1, 3],
  spacing: [100, 100, 100],
  radius: 200,
  axis: [0, 1, 0],
  angle: 2 * Math.PI,
  facing: true,
  seed: 1,
  varyTurn: [0, 0, 0],
  varyOffset: [0, 0, 0],
  varyScale: 0,
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
    on: true,
    solo: false,
    parent: null,
    position: [0, 400, 400],
    target: [0, 0, 0],
    power: { panel: 900, disc: 900, tube: 700, bulb: 400, spot: 600, sun: 2000 }[kind],
    unit: kind === 'sun' ? 'lux' : 'lumen',
    kelvin: 5000,
    tint: [1, 1, 1],
    width: kind === 'tube' ? 600 : 300,
    height: 300,
    radius: { panel: 150, disc: 150, tube: 13, bulb: 20, spot: 25, sun: 150 }[kind],
    gradient: 0,
    coneAngle: 0.7,
    penumbra: 0.25,
    gridAngle: 0,
    angularSize: 0.0093,
    visibleToCamera: false,
    castsShadows: true,
    group: '',
    ...over,
  };
}

export function newCamera(over: Partial<Camera> = {}): Camera {
  return {
    id: newId(),
    name: 'Camera',
    order: 0,
    parent: null,
    position: [300, 220, 600],
    target: [0, 60, 0],
    roll: 0,
    focalLength: 50,
    sensorWidth: 36,
    projection: 'perspective',
    orthographicWidth: 500,
    blades: 0,
    bladeTurn: 0,
    shutterAngle: Math.PI,
    fStop: 0,
    focusDistance: 600,
    focusOn: null,
    locked: false,
    ...over,
  };
}

export function newShot(over: Partial<Shot> = {}): Shot {
  return { id: newId(), name: 'Shot', order: 0, length: 96, camera: null, changes: {}, tracks: {}, moves: {}, ...over };
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
  const base = { id: newId(), target, start, length, repeat: 1, mirrored: false, pace: 'linear' as const };
  switch (kind) {
    case 'turntable':
      return { ...base, kind, name: 'Turntable', axis, turns: 1, direction: 1, startAngle: 0 };
    case 'orbit':
      return { ...base, kind, name: 'Orbit', axis, angle: Math.PI / 2, center: null, pace: 'ease' };
    case 'travel':
      return { ...base, kind, name: 'Travel', from: [0, 0, 0], to: [0, 50, 0], carryTarget: true, pace: 'ease' };
    case 'ramp':
      return { ...base, kind, name: 'Ramp', from: 0, to: 1, pace: 'ease' };
    case 'blink':
      return { ...base, kind, name: 'Blink', low: 0, high: 1, count: 3, duty: 0.5, softness: 0.2 };
  }
}

export const clearAir = (): StudioSet['air'] => ({ density: 0, color: [0.9, 0.9, 0.9], anisotropy: 0.3, reach: 4000 });

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
      floor: { kind: 'sweep', color: [0.6, 0.6, 0.6], roughness: 0.6, size: 3000, depth: 900, turn: 0 },
      surroundings: {
        kind: 'color',
        picture: null,
        mirrored: false,
        color: [0.35, 0.36, 0.38],
        gradient: { top: [0.8, 0.82, 0.85], horizon: [0.35, 0.36, 0.38], bottom: [0.08, 0.08, 0.08] },
        turn: 0,
        tilt: 0,
        brightness: 1,
        tint: [1, 1, 1],
        contrast: 1,
        saturation: 1,
        blur: 0,
        sky: { elevation: 0.6, turbidity: 3, sun: true },
      },
      air: clearAir(),
      behind: {
        kind: 'surroundings',
        color: [0.18, 0.18, 0.18],
        picture: null,
        mirrored: false,
        plate: null,
        brightness: 1,
        turn: 0,
      },
    },
    look: defaultLook(),
    shots: { [shot.id]: shot },
    takeLooks: {},
    reel: { clips: {} },
  };
}
