import { nanoid } from 'nanoid';
import {
  SCHEMA_VERSION,
  type Camera,
  type Finish,
  type Light,
  type Look,
  type Move,
  type MoveKind,
  type ProjectDocument,
  type SceneNode,
  type Shot,
  type Vector3,
} from './schema';

/** A new id, unique over all documents. */
export const newId = (): string => nanoid(12);

export const defaultLook = (): Look => ({
  exposure: 0,
  tone: 'neutral',
  denoise: 0.8,
  bloomAmount: 0.04,
  bloomRadius: 0.04,
  bloomThreshold: 1,
});

export function newFinish(over: Partial<Finish> = {}): Finish {
  return {
    id: newId(),
    name: 'Satin plastic',
    baseColor: [0.5, 0.5, 0.5],
    baseMetalness: 0,
    specularWeight: 1,
    specularRoughness: 0.35,
    specularIor: 1.5,
    transmissionWeight: 0,
    transmissionColor: [1, 1, 1],
    transmissionDepth: 0,
    thinWalled: false,
    coatWeight: 0,
    coatColor: [1, 1, 1],
    coatRoughness: 0.03,
    coatIor: 1.5,
    emissionLumens: 0,
    emissionKelvin: 4000,
    emissionColor: [1, 1, 1],
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
    visible: true,
    mesh: null,
    finish: null,
    glow: 1,
    ...over,
  };
}

export function newLight(kind: Light['kind'], over: Partial<Light> = {}): Light {
  return {
    id: newId(),
    name: kind === 'panel' ? 'Panel' : 'Bulb',
    order: 0,
    kind,
    on: true,
    solo: false,
    position: [0, 400, 400],
    target: [0, 0, 0],
    lumens: kind === 'panel' ? 900 : 400,
    kelvin: 5000,
    tint: [1, 1, 1],
    width: 300,
    height: 300,
    radius: 20,
    visibleToCamera: false,
    ...over,
  };
}

export function newCamera(over: Partial<Camera> = {}): Camera {
  return {
    id: newId(),
    name: 'Camera',
    order: 0,
    position: [300, 220, 600],
    target: [0, 60, 0],
    roll: 0,
    focalLength: 50,
    sensorWidth: 36,
    fStop: 0,
    focusDistance: 600,
    locked: false,
    ...over,
  };
}

export function newShot(over: Partial<Shot> = {}): Shot {
  return { id: newId(), name: 'Shot', order: 0, length: 96, camera: null, changes: {}, tracks: {}, moves: {}, ...over };
}

/** A move with plain numbers that shows its effect at once. `target` is an entity or, for fade and blink, a property. */
export function newMove(kind: MoveKind, target: string, start: number, length: number): Move {
  const base = { id: newId(), target, start, length, repeat: 1, mirrored: false, pace: 'linear' as const };
  const up: Vector3 = [0, 1, 0];
  switch (kind) {
    case 'turntable':
      return { ...base, kind, name: 'Turntable', axis: up, turns: 1, direction: 1, startAngle: 0 };
    case 'orbit':
      return { ...base, kind, name: 'Orbit', axis: up, angle: Math.PI / 2, center: null, pace: 'ease' };
    case 'glide':
      return { ...base, kind, name: 'Glide', from: [0, 0, 0], to: [0, 50, 0], carryTarget: true, pace: 'ease' };
    case 'fade':
      return { ...base, kind, name: 'Fade', from: 0, to: 1, pace: 'ease' };
    case 'blink':
      return { ...base, kind, name: 'Blink', low: 0, high: 1, count: 3, duty: 0.5, softness: 0.2 };
  }
}

export function newDocument(name: string): ProjectDocument {
  const camera = newCamera({ name: 'Camera 1' });
  const shot = newShot({ name: 'Shot 1', camera: camera.id });
  const key = newLight('panel', {
    name: 'Key panel',
    position: [-420, 520, 420],
    lumens: 1400,
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
      surroundings: { kind: 'color', picture: null, color: [0.35, 0.36, 0.38], turn: 0, brightness: 1 },
      behind: { kind: 'surroundings', color: [0.18, 0.18, 0.18] },
    },
    look: defaultLook(),
    shots: { [shot.id]: shot },
    takeLooks: {},
    reel: { clips: {} },
  };
}
