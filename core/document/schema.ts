import * as z from 'zod';
import { setPieceSchema } from '../geometry/setPieces';
import { moveSchema } from '../motion/moves';
import { LAMP_KIND_NAMES } from '../optics/lamps';
import { mapSourceSchema } from '../optics/maps';
import {
  AIR,
  BEHIND,
  CAMERA,
  CLIP,
  COPIES,
  FINISH,
  FLOOR,
  LABEL,
  GRADIENT,
  LAYERS,
  LIGHT,
  LOOK,
  MAP,
  NODE,
  PICTURE,
  REEL,
  RENDER,
  SETTINGS,
  shapeOf,
  SHOT,
  SKY,
  SOUND,
  SURROUNDINGS,
  TITLE,
  TRACK,
  type MappedIn,
} from './properties';
import { idSchema, nameSchema, pathSchema } from './properties/ids';
import { LIMITS } from './properties/limits';
import { paceSchema } from './properties/pace';
import { valueSchema } from './properties/value';

/** Highest document shape this program writes. See migrations.ts. */
export const SCHEMA_VERSION = 15;

const id = idSchema;
const name = nameSchema;
const finite = z.number().min(-1e9).max(1e9);
const unit = z.number().min(0).max(1);
const coordinate = z.number().min(-LIMITS.coordinate).max(LIMITS.coordinate);
const vector = z.tuple([coordinate, coordinate, coordinate]);
/** Linear Rec. 709, not bounded above: the colour of a light may exceed one. */
const color = z.tuple([z.number().min(0).max(1000), z.number().min(0).max(1000), z.number().min(0).max(1000)]);
const hash = z.string().regex(/^[0-9a-f]{64}$/);
const frame = z.number().min(-1e6).max(1e6);

/** Units of length a file may be in. */
const UNIT_NAMES = ['mm', 'cm', 'm', 'inch', 'foot'] as const;

/** Mends of imported meshes that can be left out. What is missing, infinite or without area cannot stay. */
const MENDS = ['duplicates', 'orientation', 'weld', 'normals'] as const;

/** What a mesh may be found to have; see intake/mend.ts for what each counts. */
export const FINDINGS = [
  'range',
  'infinite',
  'flat',
  'duplicates',
  'mixed',
  'inverted',
  'unwelded',
  'normals',
  'open',
] as const;

/** How a model's normalised file was made from its source, so that it can be made again with other choices. */
export const recipeSchema = z.object({
  unit: z.enum(UNIT_NAMES),
  /** Multiplies sizes besides the unit, where the true length of something was typed. */
  scale: z.number().min(1e-9).max(1e9),
  up: z.enum(['x', 'y', 'z']),
  /** Quarter turns about the vertical, counter-clockwise from above. */
  front: z.number().int().min(0).max(3),
  /** Largest distance of triangles from the surface of a solid, millimetres. */
  chord: z.number().min(0.0001).max(100),
  /** Largest angle between neighbouring triangles of a solid, radians. */
  angle: z.number().min(0.01).max(1.6),
  /** Angle between neighbouring triangles from which an edge is sharp where the file brings no normals, radians. */
  crease: z.number().min(0).max(Math.PI),
  merge: z.enum(['parts', 'finish', 'all']),
  /** Numbers of the meshes for which a mend is left out. */
  leave: z.partialRecord(z.enum(MENDS), z.array(z.number().int().min(0)).max(LIMITS.parts)),
});

/** A moving picture as it is kept: frame by frame. */
export const footageSchema = z
  .object({
    /** Content hashes of its frames, all of one size. */
    frames: z.array(hash).min(1).max(LIMITS.footageFrames),
    /** Frames a second. */
    rate: z.number().min(0.01).max(1000),
    /** Of its frames in pixels; null where an earlier version did not say. */
    size: z.object({ width: z.number().int().min(1), height: z.number().int().min(1) }).nullable(),
    /** Mean light of each frame, from 0 to 1. */
    brightness: z.array(unit).max(LIMITS.footageFrames),
  })
  .refine(({ frames, brightness }) => frames.length === brightness.length, {
    message: 'Every frame of footage has its brightness.',
  });

/** A sound as it is kept. */
export const soundFileSchema = z.object({
  seconds: z.number().min(0).max(86_400),
  /** Content hash of how loud it is: a byte for each fiftieth of a second, from silence to full. */
  loudness: hash,
});

const assetSchema = z.object({
  id,
  name,
  kind: z.enum(['model', 'surroundings', 'picture', 'lookup', 'footage', 'sound', 'font']),
  /** Content hash of the normalised file: GLB for a model, EXR or HDR for surroundings, PNG for a picture and for the first of footage, .cube for a look-up table, FLAC for a sound. */
  hash,
  /** Of a picture with more than eight bits: that of a PNG whose samples are half floats, which the tracer reads instead. */
  deep: hash.nullable(),
  /** Content hash of the file as it was brought in. */
  sourceHash: hash,
  sourceName: name,
  /** Files that came along with the source: materials, buffers, pictures. */
  companions: z.array(z.object({ name, hash })).max(2000),
  /** Null for what is no model, and for models of versions that kept none. */
  recipe: recipeSchema.nullable(),
  footage: footageSchema.nullable(),
  sound: soundFileSchema.nullable(),
  /** How often something was found, by the number of the mesh. */
  found: z.partialRecord(z.enum(FINDINGS), z.record(z.string().regex(/^\d{1,6}$/), z.number().int().min(1))),
});

/** Affine map as three rows of four. */
const transform = z.tuple([
  finite, finite, finite, finite, finite, finite, finite, finite, finite, finite, finite, finite,
]); // prettier-ignore

const faces = z.array(z.number().int().min(0)).min(1).max(100_000).optional();
/** Numbers of the faces that are meant; all where they are missing. */
const meshOfFile = { asset: hash, index: z.number().int().min(0), faces };
const meshOfPiece = { piece: setPieceSchema, faces };
const joined = z
  .array(z.union([z.object({ ...meshOfFile, transform }), z.object({ ...meshOfPiece, transform })]))
  .min(1)
  .max(LIMITS.parts)
  .optional();

/** A mesh of a model's file or a set piece, some faces of one, or several joined to one part. */
const meshRefSchema = z.union([z.object({ ...meshOfFile, joined }), z.object({ ...meshOfPiece, joined })]);

const count = z.number().int().min(1).max(LIMITS.copies);

/** Copies of a node with all below it; all show the same meshes. See motion/copies.ts. */
const copiesSchema = z
  .object({
    ...shapeOf(COPIES),
    /** How many in a grid along x, y and z. */
    counts: z.tuple([count, count, count]),
    /** Finishes between which a rule chooses: in place of the first of them, wherever that is worn. */
    wears: z.array(id).max(LIMITS.finishesOfCopies),
  })
  .refine(({ counts: [x, y, z] }) => x * y * z <= LIMITS.copies, {
    message: `A grid holds at most ${LIMITS.copies} copies.`,
    path: ['counts'],
  });

const labelSchema = z.object({
  name,
  order: finite,
  /** Asset id. */
  picture: id,
  /** What it is made of; null is ink on what the part wears. */
  finish: id.nullable(),
  ...shapeOf(LABEL),
});

export const nodeSchema = z.object({
  id,
  name,
  parent: id.nullable(),
  order: finite,
  /** A helper is nothing to see: something to hang things on and to turn them about. */
  kind: z.enum(['part', 'group', 'helper']),
  ...shapeOf(NODE),
  mesh: meshRefSchema.nullable(),
  finish: id.nullable(),
  copies: copiesSchema.nullable(),
  /** By ids of their own. */
  labels: z.record(id, labelSchema).refine((labels) => Object.keys(labels).length <= LIMITS.labelsPerPart, {
    message: `A part bears at most ${LIMITS.labelsPerPart} labels.`,
  }),
  /** What the node was in the file it came from: the names from the root down to it, and its place in the file's own space. */
  origin: z.object({ path: z.string().max(10_000), place: transform }).nullable(),
});

/**
 * What maps can drive: parameters of a finish at the surface, by their names there, its direction by a picture of normals, and its
 * height.
 */
export type MapSlot = MappedIn<typeof FINISH> | 'normal' | 'height';
export const MAP_SLOTS: readonly MapSlot[] = [
  ...(Object.keys(FINISH) as (keyof typeof FINISH)[]).filter(
    (name): name is MappedIn<typeof FINISH> => FINISH[name].mapped,
  ),
  'normal',
  'height',
];

/** Colours from dark to bright. */
const shadesSchema = z
  .array(z.object({ at: z.number().min(0).max(1), color }))
  .min(2)
  .max(LIMITS.shadesOfMap)
  .refine((stops) => stops.every(({ at }, k) => k === 0 || at >= stops[k - 1]!.at), {
    message: 'The shades of a map must stand one behind the other.',
  });

/** One layer of what drives a parameter of a finish; layers of one parameter lie over each other by their order. */
export const mapSchema = z.object({
  slot: z.enum(MAP_SLOTS),
  order: finite,
  source: mapSourceSchema,
  ...shapeOf(MAP),
  /** Colours that its values become; null leaves them as they are. */
  shades: shadesSchema.nullable(),
});

export const finishSchema = z.object({
  id,
  name,
  ...shapeOf(FINISH),
  /** By ids of their own. */
  maps: z.record(id, mapSchema).refine((maps) => Object.keys(maps).length <= LIMITS.mapsPerFinish, {
    message: `A finish wears at most ${LIMITS.mapsPerFinish} layers of maps.`,
  }),
});

/** What parts wear instead in a variant of the product. */
const colourwaySchema = z.object({
  name,
  order: finite,
  /** Finishes by what wears them: ids of parts, or of finishes, which are then replaced wherever they are worn. Parts count first. */
  wears: z.record(id, id),
});

export const lightSchema = z.object({
  id,
  name,
  order: finite,
  kind: z.enum(LAMP_KIND_NAMES),
  /** All others are off. */
  solo: z.boolean(),
  /** Node that carries the light: its position and target are in that node's space. Null is the world. */
  parent: id.nullable(),
  ...shapeOf(LIGHT),
  /** What it stays aimed at wherever it and that go, instead of its target: a point in the space of a node. */
  aimOn: z.object({ node: id, point: vector }).nullable(),
  track: z.object(shapeOf(TRACK)).nullable(),
  /** Nodes, with all below them, that it lights alone or leaves out, as `reaches` says. */
  parts: z.array(id).max(LIMITS.parts),
});

export const cameraSchema = z.object({
  id,
  name,
  order: finite,
  /** Node that carries the camera: its position, target and roll are in that node's space. Null is the world. */
  parent: id.nullable(),
  ...shapeOf(CAMERA),
  /** What stays sharp wherever it and the camera go, instead: a point in the space of a node. */
  focusOn: z.object({ node: id, point: vector }).nullable(),
  /** What it goes on looking at wherever it and that go, instead of its target. */
  aimOn: z.object({ node: id, point: vector }).nullable(),
});

const setSchema = z.object({
  floor: z.object(shapeOf(FLOOR)),
  surroundings: z.object({
    ...shapeOf(SURROUNDINGS),
    /** Asset id of the picture. */
    picture: id.nullable(),
    gradient: z.object(shapeOf(GRADIENT)),
    sky: z.object(shapeOf(SKY)),
  }),
  air: z.object(shapeOf(AIR)),
  behind: z.object({
    ...shapeOf(BEHIND),
    /** Asset id of a surroundings picture all around, and of a picture that fills the frame. */
    picture: id.nullable(),
    plate: id.nullable(),
  }),
  /** The ready set that it was made by, and what that brought along: the next one takes its place. */
  ready: z
    .object({ name, lights: z.array(id).max(100), nodes: z.array(id).max(100), finishes: z.array(id).max(100) })
    .nullable(),
});

/** A curve of coded display values through points, from dark to bright. */
const curvePoints = z
  .array(z.tuple([unit, unit]))
  .min(2)
  .max(16)
  .refine((points) => points.every(([x], k) => k === 0 || x > points[k - 1]![0]), {
    message: 'The points of a curve must stand one behind the other.',
  });

const lightBalance = z.record(z.string().min(1).max(100), z.object({ power: z.number().min(0).max(100), tint: color }));

export const lookSchema = z.object({
  /** What light layers are multiplied by, by their names in the frames; those that are not named stay. */
  lights: lightBalance,
  /** What of that the lights themselves have been given already. */
  lightsWritten: lightBalance,
  ...shapeOf(LOOK),
  curves: z.object({ all: curvePoints, red: curvePoints, green: curvePoints, blue: curvePoints }),
  /** Content hash of a .cube look-up table. */
  lookup: hash.nullable(),
});

export const keySchema = z.object({
  frame,
  value: valueSchema,
  /** How the value travels from this key to the next one. */
  pace: paceSchema,
});

const pictureSchema = z.object(shapeOf(PICTURE));

const renderSchema = z.object({
  ...shapeOf(RENDER),
  /** Layers that are kept besides colour, alpha, depth, normal and albedo. */
  layers: z.array(z.enum(LAYERS)).max(LAYERS.length),
});

const shotFrame = z.number().int().min(1).max(LIMITS.framesPerShot);

const shotSchema = z.object({
  id,
  name,
  order: finite,
  ...shapeOf(SHOT),
  camera: id.nullable(),
  /** Variant of the product in this shot; null is the one of the project. */
  colourway: id.nullable(),
  /** Its own size of the picture, and its own way of rendering; null is that of the project. */
  picture: pictureSchema.nullable(),
  render: renderSchema.nullable(),
  /** Its own look; null is that of the project. */
  look: lookSchema.nullable(),
  /** First and last frame that are rendered; null is all of them. */
  range: z.tuple([shotFrame, shotFrame]).nullable(),
  /** Changes laid over the resting state while this shot is shown. */
  changes: z.record(pathSchema, valueSchema),
  tracks: z.record(pathSchema, z.array(keySchema).max(LIMITS.keysPerTrack)),
  moves: z.record(id, moveSchema),
  /** Parts that have to stay in the picture, by their ids; of none the whole product. */
  framed: z.array(id).max(LIMITS.exploded),
  /** Frames that the user has marked, with what for. */
  markers: z.record(id, z.object({ id, frame: shotFrame, note: name })),
});

/** What a clip shows. */
const clipSourceSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('take'), take: id }),
  /** The newest take of a shot. */
  z.object({ kind: z.literal('shot'), shot: id }),
  z.object({ kind: z.literal('footage'), asset: id }),
  /** Nothing but its ground. */
  z.object({ kind: z.literal('plain') }),
]);

const clipSchema = z.object({
  id,
  order: finite,
  source: clipSourceSchema,
  ...shapeOf(CLIP),
  /** Its own look; null is that of its take, and none for what was filmed. */
  look: lookSchema.nullable(),
});

const titleSchema = z.object({
  id,
  name,
  order: finite,
  /** What it says, line by line. */
  words: z.string().max(LIMITS.titleLetters),
  /** Name of a font that is shipped, or id of an asset. */
  font: z.string().min(1).max(60),
  /** Asset id of a picture that is shown instead of words. */
  picture: id.nullable(),
  ...shapeOf(TITLE),
});

const soundSchema = z.object({ id, name, order: finite, asset: id, ...shapeOf(SOUND) });

/** At most so many of them, or a sentence. */
const fewer = (most: number, what: string) => ({
  check: (record: object) => Object.keys(record).length <= most,
  params: { message: `The reel holds at most ${most} ${what}.` },
});
const few = { clips: fewer(LIMITS.clips, 'clips'), titles: fewer(LIMITS.overFilm, 'titles'), sounds: fewer(LIMITS.overFilm, 'sounds') }; // prettier-ignore

const reelSchema = z.object({
  ...shapeOf(REEL),
  /** Size of the film's picture; null is that of its first clip. */
  picture: pictureSchema.nullable(),
  clips: z.record(id, clipSchema).refine(few.clips.check, few.clips.params),
  titles: z.record(id, titleSchema).refine(few.titles.check, few.titles.params),
  sounds: z.record(id, soundSchema).refine(few.sounds.check, few.sounds.params),
  /** Keys of its titles, on frames of the film. */
  tracks: z.record(pathSchema, z.array(keySchema).max(LIMITS.keysPerTrack)),
});

export const documentSchema = z.object({
  schemaVersion: z.literal(SCHEMA_VERSION),
  name,
  frameRate: z.object({
    numerator: z.number().int().min(1).max(240_000),
    denominator: z.number().int().min(1).max(1001),
  }),
  settings: z.object(shapeOf(SETTINGS)),
  picture: pictureSchema,
  render: renderSchema,
  /** Ways of rendering that the user keeps under a name. */
  presets: z.record(id, renderSchema.extend({ id, name, order: finite })),
  assets: z.record(id, assetSchema),
  nodes: z.record(id, nodeSchema),
  finishes: z.record(id, finishSchema),
  /** Variants of the product, and the one that is shown; null is as parts are dressed themselves. */
  colourways: z.record(id, colourwaySchema),
  colourway: id.nullable(),
  lights: z.record(id, lightSchema),
  cameras: z.record(id, cameraSchema),
  set: setSchema,
  look: lookSchema,
  shots: z.record(id, shotSchema),
  /** Looks of single takes, by take id; a take without one wears the project's look. */
  takeLooks: z.record(id, lookSchema),
  /** What the user says of takes, by take id. */
  takeNotes: z.record(
    id,
    z.object({ name: z.string().max(LIMITS.nameLength), note: z.string().max(2000), starred: z.boolean() }),
  ),
  /** Looks that the user keeps under a name. */
  looks: z.record(id, lookSchema.extend({ id, name, order: finite })),
  reel: reelSchema,
});

export type Footage = z.infer<typeof footageSchema>;
export type Asset = z.infer<typeof assetSchema>;
export type Recipe = z.infer<typeof recipeSchema>;
export type Copies = z.infer<typeof copiesSchema>;
export type MeshRef = z.infer<typeof meshRefSchema>;
export type Mend = (typeof MENDS)[number];
export type Finding = (typeof FINDINGS)[number];
export type SceneNode = z.infer<typeof nodeSchema>;
export type Finish = z.infer<typeof finishSchema>;
export type FinishMap = z.infer<typeof mapSchema>;
export type Label = z.infer<typeof labelSchema>;
export type Colourway = z.infer<typeof colourwaySchema>;
export type Light = z.infer<typeof lightSchema>;
export type Camera = z.infer<typeof cameraSchema>;
export type StudioSet = z.infer<typeof setSchema>;
export type Look = z.infer<typeof lookSchema>;
export type Key = z.infer<typeof keySchema>;
export type Shot = z.infer<typeof shotSchema>;
export type RenderWay = z.infer<typeof renderSchema>;
export type Clip = z.infer<typeof clipSchema>;
export type ClipSource = z.infer<typeof clipSourceSchema>;
export type Title = z.infer<typeof titleSchema>;
export type Sound = z.infer<typeof soundSchema>;
export type SoundFile = z.infer<typeof soundFileSchema>;
export type Reel = z.infer<typeof reelSchema>;
export type ProjectDocument = z.infer<typeof documentSchema>;
export type Vector3 = [number, number, number];
export type { SetPiece } from '../geometry/setPieces';
export type { Move, MoveKind } from '../motion/moves';
export type { Pace } from './properties/pace';
