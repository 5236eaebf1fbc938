// Who may import whom: the rooms of docs/architecture and the subjects of core, as data.

/** Subjects of core, each with those that it may use. Kinds are the lowest: a kind knows properties and shapes, no document. */
const subjects = {
  document: ['geometry/setPieces', 'motion/moves', 'optics/lamps', 'optics/maps'],
  geometry: ['document/properties', 'geometry/setPieces'],
  optics: ['document', 'geometry', 'motion/moves', 'optics/lamps', 'optics/maps'],
  scene: ['document', 'geometry', 'motion/moves', 'optics/lamps', 'optics/maps'],
  motion: ['document', 'geometry', 'scene', 'motion/moves'],
  sets: ['document', 'geometry', 'optics', 'scene'],
  shelf: ['document', 'geometry', 'optics', 'motion'],
  checks: ['document', 'geometry', 'scene', 'motion', 'reel'],
  develop: ['document', 'optics'],
  trace: ['document', 'geometry', 'scene', 'motion', 'optics', 'develop'],
  solve: ['document', 'geometry', 'scene'],
  intake: ['document', 'geometry', 'optics', 'scene', 'motion'],
  reel: ['document', 'motion', 'optics', 'reel/changes', 'reel/formats'],
  wire: ['develop', 'document', 'geometry', 'intake', 'trace', 'reel'],
};
const kinds = ['geometry/setPieces', 'motion/moves', 'optics/lamps', 'optics/maps', 'reel/changes', 'reel/formats'];
const below = {
  'geometry/setPieces': ['geometry/sweep', 'geometry/transform'],
  'motion/moves': ['geometry'],
  'optics/lamps': ['geometry'],
};

/** Folders of the page from the lowest to the highest: each uses those before it, and its own. */
const page = [
  'api',
  'ui',
  'meshes',
  'kinds',
  'store',
  'tasks',
  'fields',
  'commands',
  'menu',
  ['picture', 'strip', 'card', 'desks'],
  'shell',
];

const tests = '\\.spec\\.ts$|/testing/';
const inKinds = `^core/(${kinds.join('|')})/`;
const rooms = { kernel: [], core: ['kernel'], server: ['core', 'kernel'], web: ['core', 'kernel'] };

export default {
  forbidden: [
    {
      name: 'no-circles',
      severity: 'error',
      from: { path: '^(kernel|core|server)/' },
      to: { circular: true },
    },
    {
      name: 'no-circles-of-the-page',
      severity: 'error',
      comment: 'Desks are loaded when they are opened, by a list that what they use knows; that is no circle.',
      from: { path: '^web/' },
      to: { circular: true, viaOnly: { dependencyTypesNot: ['dynamic-import', 'type-only'] } },
    },
    ...Object.entries(rooms).map(([room, uses]) => ({
      name: `room-${room}`,
      severity: 'error',
      comment: 'web and server use core, core uses the kernel, never the other way round.',
      from: { path: `^${room}/`, pathNot: tests },
      to: { path: '^(kernel|core|server|web)/', pathNot: [room, ...uses].map((each) => `^${each}/`) },
    })),
    ...Object.entries(subjects).map(([subject, uses]) => ({
      name: `core-${subject}`,
      severity: 'error',
      comment: 'A subject uses those below it only, and enters them through their index.',
      from: { path: `^core/${subject}/`, pathNot: `${tests}|${inKinds}|^core/document/properties/` },
      to: {
        path: '^core/',
        pathNot: [`^core/${subject}/`, ...uses.map((each) => `^core/${each}/index\\.ts$`)],
      },
    })),
    ...kinds.map((kind) => ({
      name: `kinds-${kind.replace('/', '-')}`,
      severity: 'error',
      comment: 'A kind knows properties and what is below it, no document.',
      from: { path: `^core/${kind}/`, pathNot: tests },
      to: {
        path: '^core/',
        pathNot: [
          `^core/${kind}/`,
          '^core/document/properties/',
          ...(below[kind] ?? []).map((each) => `^core/${each}(/index)?\\.ts$`),
        ],
      },
    })),
    ...page.flatMap((folders, k) =>
      [folders].flat().map((folder) => ({
        name: `page-${folder}`,
        severity: 'error',
        comment: 'The page is built upwards: shell, areas, commands, tasks, store, widgets.',
        from: { path: `^web/src/app/${folder}/`, pathNot: tests },
        to: {
          path: '^web/src/app/',
          // The list of desks loads each when it is opened.
          pathNot: [
            ...[folder, ...page.slice(0, k).flat()].map((each) => `^web/src/app/${each}/`),
            '^web/src/app/desks/registry\\.ts$',
          ],
          dependencyTypesNot: ['type-only'],
        },
      })),
    ),
    {
      name: 'properties-are-lowest',
      severity: 'error',
      comment: 'But for what sources of maps tell of their own: they are properties that lie below others.',
      from: { path: '^core/document/properties/', pathNot: tests },
      to: { path: '^core/', pathNot: '^core/(document/properties|optics/maps)/' },
    },
    {
      name: 'core-knows-no-interface',
      severity: 'error',
      from: { path: '^(core|kernel)/' },
      to: { path: 'node_modules/(@angular|@ngrx|express|typeorm)' },
    },
    {
      name: 'server-knows-no-page',
      severity: 'error',
      from: { path: '^server/' },
      to: { path: 'node_modules/(@angular|@ngrx)' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(dist|build|\\.angular)/|^core/node_modules' },
    tsConfig: { fileName: 'tsconfig.base.json' },
    tsPreCompilationDeps: true,
    combinedDependencies: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'default'],
      extensions: ['.ts', '.mjs', '.js', '.json'],
    },
  },
};
