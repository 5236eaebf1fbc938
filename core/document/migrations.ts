import { defaultLook, newCamera, newDocument, newFinish, newLight } from './defaults';
import { BEHIND, CLIP, defaultsOf, MAP, REEL, SETTINGS } from './properties';
import { documentSchema, SCHEMA_VERSION, type Light, type ProjectDocument } from './schema';
import { UserProblem } from './problem';
import { referenceFault } from './references';

type Json = Record<string, unknown>;

const each = (record: unknown, change: (entity: Json) => Json): Json =>
  Object.fromEntries(
    Object.entries((record as Record<string, Json>) ?? {}).map(([id, entity]) => [id, change(entity)]),
  );

/** A set whose plate stands still. */
const behindOf = (set: Json): Json => ({ ...set, behind: { ...defaultsOf(BEHIND), ...(set['behind'] as Json) } });

/** Moves that were called otherwise before; names that their user gave stay. Once to and fro took two runs of a move. */
function renamedMove(move: Json): Json {
  const [kind, before, after] =
    move['kind'] === 'glide'
      ? ['travel', 'Glide', 'Travel']
      : move['kind'] === 'fade'
        ? ['ramp', 'Fade', 'Ramp']
        : [move['kind'], '', ''];
  const name = move['name'] === before ? after : move['name'];
  const repeat = Number(move['repeat']);
  const length = Number(move['length']);
  if (move['mirrored'] !== true) return { ...move, kind, name };
  // A single run went there only.
  if (repeat === 1) return { ...move, kind, name, mirrored: false };
  return { ...move, kind, name, length: length * 2, repeat: Math.ceil(repeat / 2) };
}

/** `migrations[n]` turns a document of version n into one of version n + 1. */
const migrations: Record<number, (document: Json) => Json> = {
  // Version 0, before the first release, kept shots in an array and one frame rate number.
  0: (document) => {
    const shots = Array.isArray(document['shots']) ? (document['shots'] as Json[]) : [];
    const rate = typeof document['frameRate'] === 'number' ? document['frameRate'] : 24;
    return {
      ...document,
      schemaVersion: 1,
      frameRate: { numerator: Math.round(rate), denominator: 1 },
      shots: Object.fromEntries(shots.map((shot, order) => [shot['id'], { ...shot, order }])),
    };
  },
  // Version 1 knew fewer parameters of finishes, lights, cameras and sets, and power in lumens only.
  1: (document) => {
    const renamed = (path: string) =>
      path
        .replace(/^(lights\/[^/]+)\/lumens$/, '$1/power')
        .replace(/^(finishes\/[^/]+)\/emissionLumens$/, '$1/emissionPower');
    const renamedKeys = (record: unknown) =>
      Object.fromEntries(Object.entries((record as Json) ?? {}).map(([path, value]) => [renamed(path), value]));
    const set = document['set'] as Record<string, Json>;
    const fresh = newDocument('').set;
    return {
      ...document,
      schemaVersion: 2,
      finishes: each(document['finishes'], ({ emissionLumens, ...finish }) => ({
        ...newFinish(),
        ...finish,
        ...(emissionLumens === undefined ? {} : { emissionPower: emissionLumens }),
      })),
      lights: each(document['lights'], ({ lumens, ...light }) => ({
        ...newLight(light['kind'] as Light['kind']),
        ...light,
        ...(lumens === undefined ? {} : { power: lumens }),
      })),
      cameras: each(document['cameras'], (camera) => ({ ...newCamera(), shutterAngle: 0, ...camera })),
      look: { ...defaultLook(), ...(document['look'] as Json) },
      takeLooks: each(document['takeLooks'], (look) => ({ ...defaultLook(), ...look })),
      set: { ...set, surroundings: { ...fresh.surroundings, ...set?.['surroundings'] }, air: fresh.air },
      shots: each(document['shots'], (shot) => ({
        ...shot,
        changes: renamedKeys(shot['changes']),
        tracks: renamedKeys(shot['tracks']),
        moves: each(shot['moves'], (move) => ({ ...move, target: renamed(String(move['target'])) })),
      })),
    };
  },
  // Version 2 knew no pictures on finishes.
  2: (document) => ({
    ...document,
    schemaVersion: 3,
    finishes: each(document['finishes'], (finish) => ({ ...finish, maps: {} })),
  }),
  // Version 3 kept no record of how a model's file was made.
  3: (document) => ({
    ...document,
    schemaVersion: 4,
    assets: each(document['assets'], (asset) => ({ ...asset, companions: [], recipe: null, found: {} })),
  }),
  // Version 4 knew no copies, axes and origins of nodes, and nothing that carries lights and cameras.
  4: (document) => ({
    ...document,
    schemaVersion: 5,
    nodes: each(document['nodes'], (node) => ({ ...node, axis: [0, 1, 0], copies: null, origin: null })),
    lights: each(document['lights'], (light) => ({ ...light, parent: null })),
    cameras: each(document['cameras'], (camera) => ({ ...camera, parent: null })),
  }),
  // Version 5 knew no gradients, tilts and grades of surroundings, no pictures behind, no focus that follows a part,
  // and looks without white balance, contrast, curves, look-up tables, lens and film.
  5: (document) => {
    const set = document['set'] as Record<string, Json>;
    const fresh = newDocument('').set;
    return {
      ...document,
      schemaVersion: 6,
      cameras: each(document['cameras'], (camera) => ({ ...camera, focusOn: null })),
      look: { ...defaultLook(), ...(document['look'] as Json) },
      takeLooks: each(document['takeLooks'], (look) => ({ ...defaultLook(), ...look })),
      set: {
        ...set,
        surroundings: { ...fresh.surroundings, ...set?.['surroundings'] },
        behind: { ...fresh.behind, ...set?.['behind'] },
      },
    };
  },
  // Version 6 showed surroundings pictures mirrored: where one was placed, it stays as it was seen.
  6: (document) => {
    const set = document['set'] as Record<string, Json> | undefined;
    const placed = (name: string) => ({ ...set?.[name], mirrored: (set?.[name]?.['picture'] ?? null) !== null });
    return {
      ...document,
      schemaVersion: 7,
      set: { ...set, surroundings: placed('surroundings'), behind: placed('behind') },
      shots: each(document['shots'], (shot) => ({ ...shot, moves: each(shot['moves'], renamedMove) })),
    };
  },
  // In version 7 every map was of a picture.
  7: (document) => ({
    ...document,
    schemaVersion: 8,
    finishes: each(document['finishes'], (finish) => ({
      ...finish,
      maps: each(finish['maps'], ({ picture, ...map }) => ({ source: { kind: 'picture', picture }, ...map })),
    })),
  }),
  // Version 8 did not say how large pictures are and how takes are rendered.
  8: (document) => {
    const { settings, picture, render, presets } = newDocument('');
    return {
      ...document,
      schemaVersion: 9,
      ...{ settings, picture, render, presets },
      shots: each(document['shots'], (shot) => ({ ...shot, picture: null, render: null, range: null })),
    };
  },
  // Version 9 knew no ready sets, no colourways, no footage, no labels, copies that were all alike, and one picture on a parameter, laid by the coordinates; it kept the name of its parameter as an id.
  9: (document) => ({
    ...document,
    schemaVersion: 10,
    colourways: {},
    colourway: null,
    set: { ...(document['set'] as Json), ready: null },
    assets: each(document['assets'], (asset) => ({ ...asset, footage: null })),
    shots: each(document['shots'], (shot) => ({ ...shot, colourway: null })),
    nodes: each(document['nodes'], (node) => ({
      ...node,
      labels: {},
      copies: node['copies'] && { ...(node['copies'] as Json), dressed: 'same', wears: [] },
    })),
    finishes: each(document['finishes'], (finish) => ({
      ...finish,
      maps: Object.fromEntries(
        Object.entries((finish['maps'] as Record<string, Json>) ?? {}).map(([slot, map]) => [
          slot,
          { slot, order: 0, ...defaultsOf(MAP), shades: null, ...map },
        ]),
      ),
    })),
  }),
  // Version 10 kept eight bits of every picture, and knew no lights and cameras that stay aimed, no lights that run on tracks or light some parts alone, and no parts that only some rays see.
  10: (document) => ({
    ...document,
    schemaVersion: 11,
    assets: each(document['assets'], (asset) => ({ ...asset, deep: null })),
    cameras: each(document['cameras'], (camera) => ({ ...camera, aimOn: null })),
    lights: each(document['lights'], (light) => ({
      ...light,
      aimOn: null,
      track: null,
      reaches: 'all',
      parts: [],
      softEdge: 0,
      roll: 0,
      spanWidth: 0.7,
      spanHeight: 0.45,
      round: false,
    })),
    nodes: each(document['nodes'], (node) => ({
      ...node,
      visibleToCamera: true,
      visibleInMirrors: true,
      castsShadows: true,
    })),
  }),
  // Version 11 knew no marked frames, no moves that are muted or do their work in part, and turntables about the turning point alone.
  11: (document) => ({
    ...document,
    schemaVersion: 12,
    shots: each(document['shots'], (shot) => ({
      ...shot,
      markers: {},
      framed: [],
      included: true,
      moves: each(shot['moves'], (move) => ({
        ...(move['kind'] === 'turntable' && { center: null }),
        ...(move['kind'] === 'orbit' && { rise: 0, away: 1 }),
        muted: false,
        weight: 1,
        perCopy: 0,
        ...move,
      })),
    })),
  }),
  // Version 12 knew no looks of single shots, did not say what files are called and how large they are on paper, always blurred what moves, rendered every frame, and kept no looks and nothing that was said of takes.
  12: (document) => {
    const way = (render: unknown): Json => ({ motionBlur: true, step: 1, ...(render as Json) });
    return {
      ...document,
      schemaVersion: 13,
      settings: { ...defaultsOf(SETTINGS), ...(document['settings'] as Json) },
      render: way(document['render']),
      presets: each(document['presets'], way),
      shots: each(document['shots'], (shot) => ({
        ...shot,
        render: shot['render'] && way(shot['render']),
        look: null,
      })),
      takeNotes: {},
      looks: {},
    };
  },
  // Version 13 had takes alone on its reel, played forwards or backwards and cut one behind the other, and nothing over or under them.
  13: (document) => {
    const reel = document['reel'] as Json;
    return {
      ...document,
      schemaVersion: 14,
      assets: each(document['assets'], (asset) => ({
        ...asset,
        sound: null,
        footage: asset['footage'] ? { size: null, ...(asset['footage'] as Json) } : null,
      })),
      set: behindOf(document['set'] as Json),
      reel: {
        ...defaultsOf(REEL),
        picture: null,
        titles: {},
        sounds: {},
        tracks: {},
        clips: each(reel['clips'], ({ take, reverse, ...clip }) => ({
          ...defaultsOf(CLIP),
          ...clip,
          source: { kind: 'take', take },
          play: reverse ? 'backwards' : 'forwards',
          look: null,
        })),
      },
    };
  },
  // Before version 15 nothing of the scene belonged to what is seen behind.
  14: (document) => {
    const set = document['set'] as Record<string, Json>;
    return {
      ...document,
      schemaVersion: 15,
      nodes: each(document['nodes'], (node) => ({ ofPlate: 'no', ...node })),
      set: { ...set, floor: { catches: false, ...set['floor'] }, behind: { shade: 1, ...set['behind'] } },
    };
  },
};

/**
 * Reads a document from stored or foreign data, bringing older shapes up to date.
 * @throws UserProblem `document-from-the-future` or `document-broken`.
 */
export function openDocument(data: unknown): ProjectDocument {
  if (typeof data !== 'object' || data === null || Array.isArray(data)) {
    throw new UserProblem(
      'document-broken',
      'This is not a Zippy Reel project: it holds no project data. Choose another file.',
    );
  }
  let document = data as Json;
  const version = document['schemaVersion'];
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 0) {
    throw new UserProblem(
      'document-broken',
      'This project does not say which version wrote it, so it cannot be read safely.',
    );
  }
  if (version > SCHEMA_VERSION) {
    throw new UserProblem(
      'document-from-the-future',
      `This project was saved by a newer Zippy Reel (document version ${version}, this program reads up to ${SCHEMA_VERSION}). Update Zippy Reel to open it; nothing in it was changed.`,
      409,
    );
  }
  try {
    for (let at = version; at < SCHEMA_VERSION; at++) document = migrations[at]!(document);
  } catch {
    // Something in it is nothing where a light, a finish or a shot should be.
    throw new UserProblem(
      'document-broken',
      `This project of document version ${version} is damaged and cannot be brought up to date. Go back to a copy of it.`,
      422,
    );
  }
  return checkDocument(document);
}

/**
 * Validates data of the present shape, including references between its parts.
 * @throws UserProblem `document-broken` naming the first fault.
 */
export function checkDocument(data: unknown): ProjectDocument {
  const result = documentSchema.safeParse(data);
  if (!result.success) {
    const issue = result.error.issues[0]!;
    throw new UserProblem(
      'document-broken',
      `The project has a value that cannot be right at "${issue.path.join(' / ')}": ${issue.message}. The change was not saved.`,
      422,
    );
  }
  const document = result.data;
  const fault = referenceFault(document);
  if (fault) throw new UserProblem('document-broken', fault, 422);
  return document;
}
