import { z } from 'zod';

/** Highest document shape this program writes. See migrations.ts. */
export const SCHEMA_VERSION = 7;

export const LIMITS = {
  parts: 20_000,
  /** Copies of one node. */
  copies: 10_000,
  shots: 500,
  framesPerShot: 100_000,
  keysPerTrack: 10_000,
  nameLength: 200,
  coordinate: 1e7,
} as const;

const id = z.string().regex(/^[A-Za-z0-9_-]{1,40}$/);
const name = z.string().min(1).max(LIMITS.nameLength);
const finite = z.number().min(-1e9).max(1e9);
const unit = z.number().min(0).max(1);
const coordinate = z.number().min(-LIMITS.coordinate).max(LIMITS.coordinate);
const vector = z.tuple([coordinate, coordinate, coordinate]);
const angles = z.tuple([finite, finite, finite]);
/** Linear Rec. 709, not bounded above: the colour of a light may exceed one. */
const color = z.tuple([z.number().min(0).max(1000), z.number().min(0).max(1000), z.number().min(0).max(1000)]);
const hash = z.string().regex(/^[0-9a-f]{64}$/);
const frame = z.number().min(-1e6).max(1e6);
const kelvin = z.number().min(1000).max(20_000);

/** Units of length a file may be in. */
export const UNIT_NAMES = ['mm', 'cm', 'm', 'inch', 'foot'] as const;

/** Mends of imported meshes that can be left out. What is missing, infinite or without area cannot stay. */
export const MENDS = ['duplicates', 'orientation', 'weld', 'normals'] as const;

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

export const assetSchema = z.object({
  id,
  name,
  kind: z.enum(['model', 'surroundings', 'picture', 'lookup']),
  /** Content hash of the normalised file: GLB for a model, EXR or HDR for surroundings, PNG for a picture, .cube for a look-up table. */
  hash,
  /** Content hash of the file as it was brought in. */
  sourceHash: hash,
  sourceName: name,
  /** Files that came along with the source: materials, buffers, pictures. */
  companions: z.array(z.object({ name, hash })).max(2000),
  /** Null for what is no model, and for models of versions that kept none. */
  recipe: recipeSchema.nullable(),
  /** How often something was found, by the number of the mesh. */
  found: z.partialRecord(z.enum(FINDINGS), z.record(z.string().regex(/^\d{1,6}$/), z.number().int().min(1))),
});

/** Affine map as three rows of four. */
const transform = z.tuple([
  finite, finite, finite, finite, finite, finite, finite, finite, finite, finite, finite, finite,
]); // prettier-ignore

const size = z.number().min(0.01).max(1e6);
const bevel = z.number().min(0).max(1e6);

/** Simple bodies to build a set of, in millimetres; each stands on the floor, over its origin. See geometry/setPieces.ts. */
export const setPieceSchema = z.discriminatedUnion('kind', [
  /** A sheet that lies flat. */
  z.object({ kind: z.literal('plane'), width: size, depth: size }),
  z.object({ kind: z.literal('box'), width: size, height: size, depth: size, bevel }),
  z.object({ kind: z.literal('cylinder'), radius: size, height: size, bevel }),
  z.object({ kind: z.literal('sphere'), radius: size }),
  /** A round sheet that lies flat, with a hole where its inner radius is above zero. */
  z.object({ kind: z.literal('disc'), radius: size, hole: bevel }),
  z.object({ kind: z.literal('tube'), radius: size, wall: size, height: size }),
  /** Four bars round an opening, upright; of rectangular section, or of round section as wide as `bar`. */
  z.object({
    kind: z.literal('frame'),
    width: size,
    height: size,
    bar: size,
    depth: size,
    section: z.enum(['rectangular', 'round']),
  }),
  /** A floor that curves up into a wall. */
  z.object({ kind: z.literal('sweep'), width: size, depth: size, height: size, radius: size }),
]);

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
export const meshRefSchema = z.union([z.object({ ...meshOfFile, joined }), z.object({ ...meshOfPiece, joined })]);

const count = z.number().int().min(1).max(LIMITS.copies);

/** Copies of a node with all below it; all show the same meshes. See motion/copies.ts. */
export const copiesSchema = z
  .object({
    kind: z.enum(['line', 'grid', 'ring']),
    /** How many in a line or ring. */
    count,
    /** How many in a grid along x, y and z. */
    counts: z.tuple([count, count, count]),
    /** Millimetres from one to the next of a line, and between the rows of a grid, along the axes of what the node hangs under. */
    spacing: vector,
    /** Of a ring round the node's turning point, millimetres. */
    radius: z.number().min(0).max(LIMITS.coordinate),
    /** About which the ring runs, in the space of what the node hangs under. */
    axis: vector,
    /** Radians over which the copies of a ring are spread; a whole turn closes it. */
    angle: finite,
    /** Copies of a ring turn with it. */
    facing: z.boolean(),
    seed: z.number().int().min(0).max(1e9),
    /** The most by which copies differ at random either way: radians about x, y and z, millimetres, and part of their size. */
    varyTurn: angles,
    varyOffset: vector,
    varyScale: z.number().min(0).max(0.99),
  })
  .refine(({ counts: [x, y, z] }) => x * y * z <= LIMITS.copies, {
    message: `A grid holds at most ${LIMITS.copies} copies.`,
    path: ['counts'],
  });

export const nodeSchema = z.object({
  id,
  name,
  parent: id.nullable(),
  order: finite,
  /** A helper is nothing to see: something to hang things on and to turn them about. */
  kind: z.enum(['part', 'group', 'helper']),
  position: vector,
  /** Radians about Y, X and Z, applied in the order Z, X, Y (yaw outermost); stored as [x, y, z]. */
  turn: angles,
  scale: z.tuple([finite, finite, finite]),
  /** Point in the node's own space about which turn and scale act. */
  pivot: vector,
  /** Direction in the node's own space about which new moves turn it: that of a shaft or hinge. */
  axis: vector,
  visible: z.boolean(),
  mesh: meshRefSchema.nullable(),
  finish: id.nullable(),
  /** Multiplies the emission of the finish on this part alone. */
  glow: z.number().min(0).max(1000),
  copies: copiesSchema.nullable(),
  /** What the node was in the file it came from: the names from the root down to it, and its place in the file's own space. */
  origin: z.object({ path: z.string().max(10_000), place: transform }).nullable(),
});

/** What a picture can drive: parameters of a finish at the surface, by their names there, and the direction of the surface. */
export const MAP_SLOTS = [
  'baseColor',
  'baseMetalness',
  'baseDiffuseRoughness',
  'specularWeight',
  'specularColor',
  'specularRoughness',
  'specularRoughnessAnisotropy',
  'specularRotation',
  'transmissionWeight',
  'transmissionColor',
  'subsurfaceWeight',
  'subsurfaceColor',
  'coatWeight',
  'coatColor',
  'coatRoughness',
  'coatRoughnessAnisotropy',
  'fuzzWeight',
  'fuzzColor',
  'fuzzRoughness',
  'thinFilmWeight',
  'thinFilmThickness',
  'geometryOpacity',
  'emissionColor',
  'normal',
] as const;

/** How a picture drives one parameter: the parameter is multiplied by it. */
export const mapSchema = z.object({
  /** Asset id. */
  picture: id,
  /** Colours are coded for a display; roughness, normals and the like are plain numbers. */
  coding: z.enum(['srgb', 'linear']),
  /** Which part of the picture drives a single number. */
  channel: z.enum(['red', 'green', 'blue', 'alpha']),
  /** 0 leaves the parameter as it is, 1 multiplies it by the picture; of a normal map, how steep it is. */
  strength: z.number().min(0).max(10),
  /** How often the picture comes in one unit of the surface's coordinates; negative values mirror it. */
  repeatU: finite,
  repeatV: finite,
  /** Radians, counter-clockwise, about the coordinates' origin. */
  turn: finite,
  /** In pictures, after repeating and turning. */
  offsetU: finite,
  offsetV: finite,
});

/** Parameter names follow the OpenPBR Surface specification 1.1, in camel case. */
export const finishSchema = z.object({
  id,
  name,
  baseWeight: unit,
  baseColor: color,
  baseMetalness: unit,
  baseDiffuseRoughness: unit,
  specularWeight: unit,
  specularColor: color,
  specularRoughness: unit,
  specularRoughnessAnisotropy: unit,
  /** Radians by which the grain is turned from the tangent; OpenPBR gives the tangent itself. */
  specularRotation: finite,
  specularIor: z.number().min(1).max(4),
  transmissionWeight: unit,
  transmissionColor: color,
  /** Millimetres after which white light has taken the transmission colour; 0 tints at the surface. */
  transmissionDepth: z.number().min(0).max(1e6),
  transmissionScatter: color,
  transmissionScatterAnisotropy: z.number().min(-0.99).max(0.99),
  transmissionDispersionScale: unit,
  transmissionDispersionAbbeNumber: z.number().min(5).max(200),
  subsurfaceWeight: unit,
  subsurfaceColor: color,
  /** Millimetres that light goes below the surface between two turns, times the scale of each channel. */
  subsurfaceRadius: z.number().min(0.001).max(1e5),
  subsurfaceRadiusScale: color,
  subsurfaceScatterAnisotropy: z.number().min(-0.99).max(0.99),
  /** A sheet without inside: light goes straight on instead of being bent. */
  thinWalled: z.boolean(),
  coatWeight: unit,
  coatColor: color,
  coatRoughness: unit,
  coatRoughnessAnisotropy: unit,
  coatIor: z.number().min(1).max(4),
  coatDarkening: unit,
  fuzzWeight: unit,
  fuzzColor: color,
  fuzzRoughness: unit,
  thinFilmWeight: unit,
  /** Micrometres. */
  thinFilmThickness: z.number().min(0).max(20),
  thinFilmIor: z.number().min(1).max(4),
  /** 0 is not there at all; between, light passes by chance. */
  geometryOpacity: unit,
  /** What one part that wears the finish sends out, in its unit. */
  emissionPower: z.number().min(0).max(1e9),
  emissionUnit: z.enum(['lumen', 'watt', 'nit']),
  emissionKelvin: kelvin,
  emissionColor: color,
  emissionTwoSided: z.boolean(),
  emissionVisibleToCamera: z.boolean(),
  maps: z.partialRecord(z.enum(MAP_SLOTS), mapSchema),
});

export const lightSchema = z.object({
  id,
  name,
  order: finite,
  kind: z.enum(['panel', 'disc', 'tube', 'bulb', 'spot', 'sun']),
  on: z.boolean(),
  solo: z.boolean(),
  /** Node that carries the light: its position and target are in that node's space. Null is the world. */
  parent: id.nullable(),
  position: vector,
  /** Point the light is aimed at; of a sun, only the direction counts. */
  target: vector,
  /** Lumens, watts of visible radiation, nits, candela along its axis; of a sun, lux on what faces it. */
  power: z.number().min(0).max(1e9),
  unit: z.enum(['lumen', 'watt', 'nit', 'candela', 'lux']),
  kelvin,
  tint: color,
  /** Panel: width and height in millimetres. Tube: its length is the width. */
  width: z.number().min(0.1).max(1e6),
  height: z.number().min(0.1).max(1e6),
  /** Disc, tube, bulb and spot: radius in millimetres. */
  radius: z.number().min(0.1).max(1e6),
  /** Panel and disc: how much darker the corners are than the middle. */
  gradient: unit,
  /** Spot: full angle of its cone in radians, and the part of it that fades. */
  coneAngle: z.number().min(0.01).max(3.1),
  penumbra: unit,
  /** Spot: radians from the axis at which a grid lets nothing through; 0 without a grid. */
  gridAngle: z.number().min(0).max(1.5),
  /** Sun: full angle in radians under which it is seen. */
  angularSize: z.number().min(0.0005).max(1),
  visibleToCamera: z.boolean(),
  castsShadows: z.boolean(),
  /** Lights of one group share a light layer; without a name each has its own. */
  group: z.string().max(LIMITS.nameLength),
});

export const cameraSchema = z.object({
  id,
  name,
  order: finite,
  /** Node that carries the camera: its position, target and roll are in that node's space. Null is the world. */
  parent: id.nullable(),
  position: vector,
  target: vector,
  roll: finite,
  /** Millimetres. */
  focalLength: z.number().min(4).max(2000),
  sensorWidth: z.number().min(4).max(100),
  projection: z.enum(['perspective', 'orthographic']),
  /** Millimetres across the picture where the projection is orthographic. */
  orthographicWidth: z.number().min(0.1).max(1e6),
  /** Blades of the aperture; below 3 it is round. */
  blades: z.number().int().min(0).max(16),
  /** Radians by which the aperture is turned. */
  bladeTurn: finite,
  /** Radians of the shutter's turn in which it is open: a whole turn is the whole frame, 0 no motion blur. */
  shutterAngle: z
    .number()
    .min(0)
    .max(2 * Math.PI),
  /** 0 is a pinhole: everything sharp. */
  fStop: z.number().min(0).max(128),
  /** Millimetres from the camera along its axis. */
  focusDistance: z.number().min(1).max(1e7),
  /** What stays sharp wherever it and the camera go, instead: a point in the space of a node. */
  focusOn: z.object({ node: id, point: vector }).nullable(),
  locked: z.boolean(),
});

export const setSchema = z.object({
  floor: z.object({
    kind: z.enum(['none', 'floor', 'sweep']),
    color,
    roughness: unit,
    /** Millimetres: edge of the floor, and height of a sweep's wall. */
    size: z.number().min(10).max(1e6),
    /** Millimetres behind the origin at which the sweep begins to curve up. */
    depth: z.number().min(0).max(1e6),
    /** Radians about the vertical. */
    turn: finite,
  }),
  surroundings: z.object({
    kind: z.enum(['color', 'gradient', 'picture', 'sky']),
    /** Asset id of the picture. */
    picture: id.nullable(),
    /** The picture has its left and right changed about. */
    mirrored: z.boolean(),
    color,
    /** Colours straight up, at the horizon and straight down. */
    gradient: z.object({ top: color, horizon: color, bottom: color }),
    turn: finite,
    /** Radians by which what is overhead leans to the front, before it is turned. */
    tilt: finite,
    brightness: z.number().min(0).max(1000),
    tint: color,
    /** Powers of luminance about its mean: 1 leaves it. */
    contrast: z.number().min(0).max(4),
    saturation: z.number().min(0).max(4),
    /** Radians: standard deviation of the directions that are blended. */
    blur: z
      .number()
      .min(0)
      .max(Math.PI / 2),
    sky: z.object({
      /** Radians of the sun above the horizon. */
      elevation: z
        .number()
        .min(0)
        .max(Math.PI / 2),
      /** Haze: 2 is very clear, 10 thick. */
      turbidity: z.number().min(1.7).max(10),
      /** Whether the sun itself shines too. */
      sun: z.boolean(),
    }),
  }),
  air: z.object({
    /** Part of the light that a metre of air takes out of a ray, as the exponent: 0 is clear. */
    density: z.number().min(0).max(1000),
    /** Part of that which goes on in another direction. */
    color,
    /** -1 backwards, 0 everywhere alike, 1 straight on. */
    anisotropy: z.number().min(-0.95).max(0.95),
    /** Millimetres of it that a ray passes at most. */
    reach: z.number().min(1).max(1e6),
  }),
  /** What the camera sees where nothing stands; it lights nothing. */
  behind: z.object({
    kind: z.enum(['surroundings', 'color', 'picture', 'plate', 'transparent']),
    color,
    /** Asset id of a surroundings picture all around, and of a picture that fills the frame. */
    picture: id.nullable(),
    /** The picture all around has its left and right changed about. */
    mirrored: z.boolean(),
    plate: id.nullable(),
    /** Of either. */
    brightness: z.number().min(0).max(1000),
    /** Of a picture all around, radians. */
    turn: finite,
  }),
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
  /** Stops. At 0, a luminance of 683 nits becomes full white before the tone curve. */
  exposure: z.number().min(-20).max(20),
  /** Light of this colour becomes white; 6500 leaves it as it is. */
  balanceKelvin: kelvin,
  /** From green, -1, to magenta, 1. */
  balanceTint: z.number().min(-1).max(1),
  tone: z.enum(['neutral', 'soft', 'strong']),
  /** Powers of display values about the pivot: 1 leaves them. */
  contrast: z.number().min(0.1).max(4),
  /** The linear display value that contrast leaves as it is. */
  contrastPivot: z.number().min(0.01).max(1),
  saturation: z.number().min(0).max(4),
  curves: z.object({ all: curvePoints, red: curvePoints, green: curvePoints, blue: curvePoints }),
  /** Content hash of a .cube look-up table. */
  lookup: hash.nullable(),
  lookupAmount: unit,
  /** How much of the noise is filtered out. */
  denoise: unit,
  /** How far bright specks, pixels that few samples carry, are weighed down. */
  specks: unit,
  bloomAmount: unit,
  /** Part of the picture's height. */
  bloomRadius: z.number().min(0.001).max(0.5),
  bloomThreshold: z.number().min(0).max(100),
  zoomBlur: unit,
  fringing: unit,
  vignette: unit,
  /** Part of the way from the corners to the middle that is darkened. */
  vignetteSize: z.number().min(0.05).max(1),
  sharpen: z.number().min(0).max(3),
  grain: unit,
  /** Part of the picture's height. */
  grainSize: z.number().min(0.0002).max(0.02),
});

export const paceSchema = z.union([
  z.enum(['linear', 'ease', 'ease-in', 'ease-out', 'held']),
  /** Cubic Bézier handles (x1, y1, x2, y2) of a curve from (0, 0) to (1, 1). */
  z.object({ curve: z.tuple([unit, finite, unit, finite]) }),
]);

export const valueSchema = z.union([finite, z.boolean(), z.tuple([finite, finite, finite])]);

export const keySchema = z.object({
  frame,
  value: valueSchema,
  /** How the value travels from this key to the next one. */
  pace: paceSchema,
});

/** Slash-separated way from the document's root to a property, such as `lights/KEY/power`. */
export const pathSchema = z.string().regex(/^[A-Za-z0-9_-]+(\/[A-Za-z0-9_-]+){1,4}$/);

const moveBase = {
  id,
  name,
  start: frame,
  /** Frames of one run. */
  length: z.number().min(1).max(LIMITS.framesPerShot),
  /** How many runs follow one another. */
  repeat: z.number().int().min(1).max(100_000),
  /** Every run goes there and back. */
  mirrored: z.boolean(),
  pace: paceSchema,
};

export const moveSchema = z.discriminatedUnion('kind', [
  z.object({
    ...moveBase,
    kind: z.literal('turntable'),
    target: pathSchema,
    axis: vector,
    turns: finite,
    direction: z.union([z.literal(1), z.literal(-1)]),
    /** Radians at the first frame. */
    startAngle: finite,
  }),
  z.object({
    ...moveBase,
    kind: z.literal('orbit'),
    target: pathSchema,
    axis: vector,
    /** Radians from the first to the last frame. */
    angle: finite,
    /** World point to orbit; null takes what the camera or light looks at. */
    center: vector.nullable(),
  }),
  z.object({
    ...moveBase,
    kind: z.literal('travel'),
    target: pathSchema,
    /** Offsets in millimetres added to the resting place. */
    from: vector,
    to: vector,
    /** Cameras and lights: the point looked at travels along. */
    carryTarget: z.boolean(),
  }),
  z.object({ ...moveBase, kind: z.literal('ramp'), target: pathSchema, from: valueSchema, to: valueSchema }),
  z.object({
    ...moveBase,
    kind: z.literal('blink'),
    target: pathSchema,
    low: finite,
    high: finite,
    /** Blinks in one run. */
    count: z.number().int().min(1).max(10_000),
    /** Part of each blink that is on. */
    duty: unit,
    /** 0 switches hard, 1 swells like a breath. */
    softness: unit,
  }),
]);

export const shotSchema = z.object({
  id,
  name,
  order: finite,
  /** Frames; the first frame is 1. */
  length: z.number().int().min(1).max(LIMITS.framesPerShot),
  camera: id.nullable(),
  /** Changes laid over the resting state while this shot is shown. */
  changes: z.record(pathSchema, valueSchema),
  tracks: z.record(pathSchema, z.array(keySchema).max(LIMITS.keysPerTrack)),
  moves: z.record(id, moveSchema),
});

export const clipSchema = z.object({
  id,
  order: finite,
  take: id,
  /** First and last frame of the take that are used. */
  from: z.number().int().min(1),
  to: z.number().int().min(1),
  /** 0.5 plays at half speed. */
  speed: z.number().min(0.05).max(20),
  loop: z.number().int().min(1).max(1000),
  reverse: z.boolean(),
});

export const documentSchema = z.object({
  schemaVersion: z.literal(SCHEMA_VERSION),
  name,
  frameRate: z.object({
    numerator: z.number().int().min(1).max(240_000),
    denominator: z.number().int().min(1).max(1001),
  }),
  assets: z.record(id, assetSchema),
  nodes: z.record(id, nodeSchema),
  finishes: z.record(id, finishSchema),
  lights: z.record(id, lightSchema),
  cameras: z.record(id, cameraSchema),
  set: setSchema,
  look: lookSchema,
  shots: z.record(id, shotSchema),
  /** Looks of single takes, by take id; a take without one wears the project's look. */
  takeLooks: z.record(id, lookSchema),
  reel: z.object({ clips: z.record(id, clipSchema) }),
});

export type Asset = z.infer<typeof assetSchema>;
export type Recipe = z.infer<typeof recipeSchema>;
export type SetPiece = z.infer<typeof setPieceSchema>;
export type Copies = z.infer<typeof copiesSchema>;
export type MeshRef = z.infer<typeof meshRefSchema>;
export type Mend = (typeof MENDS)[number];
export type Finding = (typeof FINDINGS)[number];
export type SceneNode = z.infer<typeof nodeSchema>;
export type Finish = z.infer<typeof finishSchema>;
export type MapSlot = (typeof MAP_SLOTS)[number];
export type FinishMap = z.infer<typeof mapSchema>;
export type Light = z.infer<typeof lightSchema>;
export type Camera = z.infer<typeof cameraSchema>;
export type StudioSet = z.infer<typeof setSchema>;
export type Look = z.infer<typeof lookSchema>;
export type Pace = z.infer<typeof paceSchema>;
export type Value = z.infer<typeof valueSchema>;
export type Key = z.infer<typeof keySchema>;
export type Move = z.infer<typeof moveSchema>;
export type MoveKind = Move['kind'];
export type Shot = z.infer<typeof shotSchema>;
export type Clip = z.infer<typeof clipSchema>;
export type ProjectDocument = z.infer<typeof documentSchema>;
export type Vector3 = [number, number, number];
