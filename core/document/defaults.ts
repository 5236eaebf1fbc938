import { LAMP_KINDS } from '../optics/lamps';
import {
  AIR,
  BEHIND,
  CAMERA,
  CLIP,
  COPIES,
  defaultsOf,
  FINISH,
  FLOOR,
  LABEL,
  GRADIENT,
  LIGHT,
  LOOK,
  NODE,
  PICTURE,
  REEL,
  RENDER,
  SETTINGS,
  TRACK,
  SHOT,
  SKY,
  SOUND,
  SURROUNDINGS,
  TITLE,
} from './properties';
import { newId } from './properties/ids';
import {
  SCHEMA_VERSION,
  type Asset,
  type Camera,
  type Clip,
  type ClipSource,
  type Copies,
  type Finish,
  type Label,
  type Light,
  type Look,
  type ProjectDocument,
  type Recipe,
  type SceneNode,
  type Shot,
  type Sound,
  type StudioSet,
  type Title,
} from './schema';

/** An asset of one file that needs no recipe. */
export function newAsset(over: Pick<Asset, 'name' | 'kind' | 'hash'> & Partial<Asset>): Asset {
  return {
    id: newId(),
    sourceHash: over.hash,
    sourceName: over.name,
    companions: [],
    recipe: null,
    footage: null,
    sound: null,
    deep: null,
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
    labels: {},
    origin: null,
    ...over,
  };
}

export const newLabel = (picture: string, over: Partial<Label> = {}): Label => ({
  name: 'Label',
  order: 0,
  picture,
  finish: null,
  ...defaultsOf(LABEL),
  ...over,
});

export const newCopies = (over: Partial<Copies> = {}): Copies => ({
  ...defaultsOf(COPIES),
  counts: [3, 1, 3],
  wears: [],
  ...over,
});

export function newLight(kind: Light['kind'], over: Partial<Light> = {}): Light {
  return {
    id: newId(),
    name: LAMP_KINDS[kind].title,
    order: 0,
    kind,
    solo: false,
    parent: null,
    aimOn: null,
    track: null,
    parts: [],
    ...defaultsOf(LIGHT),
    ...LAMP_KINDS[kind].begin,
    ...over,
  };
}

/** A track about what a light is aimed at. */
export const newTrack = (over: Partial<NonNullable<Light['track']>> = {}): NonNullable<Light['track']> => ({
  ...defaultsOf(TRACK),
  ...over,
});

export function newCamera(over: Partial<Camera> = {}): Camera {
  return {
    id: newId(),
    name: 'Camera',
    order: 0,
    parent: null,
    ...defaultsOf(CAMERA),
    focusOn: null,
    aimOn: null,
    ...over,
  };
}

export function newShot(over: Partial<Shot> = {}): Shot {
  return {
    id: newId(),
    name: 'Shot',
    order: 0,
    ...defaultsOf(SHOT),
    colourway: null,
    camera: null,
    picture: null,
    render: null,
    look: null,
    range: null,
    changes: {},
    tracks: {},
    moves: {},
    markers: {},
    framed: [],
    ...over,
  };
}

export function newClip(source: ClipSource, over: Partial<Clip> = {}): Clip {
  return { id: newId(), order: 0, source, ...defaultsOf(CLIP), look: null, ...over };
}

export function newTitle(over: Partial<Title> = {}): Title {
  return {
    id: newId(),
    name: 'Title',
    order: 0,
    words: 'Title',
    font: 'hanken-bold',
    picture: null,
    ...defaultsOf(TITLE),
    ...over,
  };
}

export function newSound(over: Pick<Sound, 'asset' | 'name'> & Partial<Sound>): Sound {
  return { id: newId(), order: 0, ...defaultsOf(SOUND), ...over };
}

const clearAir = (): StudioSet['air'] => defaultsOf(AIR);

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
    settings: defaultsOf(SETTINGS),
    picture: defaultsOf(PICTURE),
    render: { ...defaultsOf(RENDER), layers: ['motion', 'lights'] },
    presets: {},
    assets: {},
    nodes: {},
    finishes: {},
    colourways: {},
    colourway: null,
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
      ready: null,
    },
    look: defaultLook(),
    shots: { [shot.id]: shot },
    takeLooks: {},
    takeNotes: {},
    looks: {},
    reel: { ...defaultsOf(REEL), picture: null, clips: {}, titles: {}, sounds: {}, tracks: {} },
  };
}
