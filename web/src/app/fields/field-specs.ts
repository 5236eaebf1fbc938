import {
  type Look,
  inOrder,
  LIMITS,
  type Asset,
  type Copies,
  type Finish,
  type Move,
  type ProjectDocument,
  type SetPiece,
  type Table,
  type Vector3,
} from '@zippy/core/document';
import { TONES } from '@zippy/core/develop';
import type { Take } from '@zippy/core/wire';
import { SET_PIECES } from '@zippy/core/geometry';
import { MOVE, MOVE_KINDS, resizeShot } from '@zippy/core/motion';
import { setPivot } from '@zippy/core/scene';
import { moveView } from '../kinds/moves';
import { pieceView } from '../kinds/set-pieces';
import type { Selected } from '../store/view/view.state';
import { choice, field, fieldOf, type FieldGroup, type FieldSpec } from '../kinds/field';
import { hangsOn, lightFields, nodeOptions, staysAimed, UNITS } from './light-fields';
import { motionStretches, setMotionStretches } from './motion-stretches';
import { ownPictureFields } from './picture-size';
import { clipFields, soundFields, titleFields } from './reel-fields';

/** Fields of whatever is selected, grouped as the card shows them. @param takes that clips may show */
export function fieldGroups(document: ProjectDocument, selected: Selected, takes: readonly Take[] = []): FieldGroup[] {
  const { kind, id } = selected;
  switch (kind) {
    case 'node': {
      const at = `nodes/${id}`;
      const node = document.nodes[id];
      return [
        {
          title: 'Place',
          fields: [
            field(`${at}/position`, 'Position'),
            field(`${at}/turn`, 'Turn'),
            field(`${at}/scale`, 'Scale'),
            field(`${at}/visible`, 'Shown'),
          ],
        },
        {
          title: 'Seen',
          fields: [
            field(`${at}/visibleToCamera`, 'By the camera'),
            field(`${at}/visibleInMirrors`, 'In mirrors', {
              hint: 'And by light that goes on from other surfaces',
            }),
            field(`${at}/castsShadows`, 'Throws shadow'),
            choice(`${at}/ofPlate`, 'Of the plate', {
              no: 'No',
              hides: 'Hides what is behind it',
              catches: 'Hides, catches shadows',
            }),
          ],
        },
        ...pieceFields(`${at}/mesh/piece`, node?.mesh && 'piece' in node.mesh ? node.mesh.piece : null),
        ...(node?.mesh
          ? [
              {
                title: 'Finish',
                fields: [
                  {
                    path: `${at}/finish`,
                    label: 'Finish',
                    kind: 'choice' as const,
                    options: [
                      { value: '', label: 'No finish yet' },
                      ...Object.values(document.finishes).map((each) => ({ value: each.id, label: each.name })),
                    ],
                  },
                  field(`${at}/glow`, 'Glow'),
                ],
              },
            ]
          : []),
      ];
    }
    case 'finish':
      return finishFields(`finishes/${id}`, document.finishes[id]);
    case 'light':
      return lightFields(document, id);
    case 'camera': {
      const at = `cameras/${id}`;
      return [
        {
          title: 'Lens',
          fields: [
            choice(`${at}/projection`, 'Projection', { perspective: 'Perspective', orthographic: 'Parallel' }),
            ...(document.cameras[id]?.projection === 'orthographic'
              ? [field(`${at}/orthographicWidth`, 'Picture width')]
              : [field(`${at}/focalLength`, 'Focal length')]),
            sensor(document, id),
            field(`${at}/sensorWidth`, 'Sensor width'),
          ],
        },
        {
          title: 'Sharpness',
          fields: [
            field(`${at}/fStop`, 'f-stop'),
            followed(document, id),
            ...(document.cameras[id]?.focusOn ? [] : [field(`${at}/focusDistance`, 'Sharp at')]),
            field(`${at}/blades`, 'Blades'),
            field(`${at}/bladeTurn`, 'Blades turned'),
            field(`${at}/shutterAngle`, 'Shutter'),
          ],
        },
        {
          title: 'Place',
          fields: [
            field(`${at}/position`, 'Position'),
            ...(document.cameras[id]?.aimOn ? [] : [field(`${at}/target`, 'Looks at')]),
            staysAimed(document, 'cameras', id),
            field(`${at}/roll`, 'Roll'),
            hangsOn(document, 'cameras', id),
            field(`${at}/locked`, 'Locked'),
          ],
        },
      ];
    }
    case 'shot':
      return [
        {
          title: 'Shot',
          fields: [
            {
              ...field(`shots/${id}/length`, 'Length'),
              write: (draft: ProjectDocument, value: unknown) =>
                resizeShot(draft.shots[id]!, Number(value), motionStretches()),
            },
            {
              path: `shots/${id}/length`,
              label: 'Motion then',
              kind: 'choice',
              still: true,
              hint: 'What becomes of keys and moves when the length changes; remembered in this browser',
              options: [
                { value: 'stays', label: 'Keeps its frames' },
                { value: 'stretches', label: 'Stretches along' },
              ],
              read: () => (motionStretches() ? 'stretches' : 'stays'),
              write: (_draft: ProjectDocument, value: unknown) => setMotionStretches(value === 'stretches'),
            },
            field(`shots/${id}/included`, 'In the film'),
            {
              path: `shots/${id}/camera`,
              label: 'Camera',
              kind: 'choice',
              options: inOrder(document.cameras).map((each) => ({ value: each.id, label: each.name })),
            },
            {
              path: `shots/${id}/colourway`,
              label: 'Colourway',
              kind: 'choice',
              still: true,
              options: [
                { value: '', label: 'That of the project' },
                ...Object.entries(document.colourways).map(([value, { name }]) => ({ value, label: name })),
              ],
              write: (draft: ProjectDocument, value: unknown) => {
                draft.shots[id]!.colourway = value === '' || value === null ? null : String(value);
              },
            },
            ...ownPictureFields(document, id),
          ],
        },
      ];
    case 'move':
      return moveFields(document, id);
    case 'clip': {
      const look = document.reel.clips[id]?.look;
      return [...clipFields(document, id, takes), ...(look ? lookFields(document, `reel/clips/${id}/look`) : [])];
    }
    case 'title':
      return titleFields(document, id);
    case 'sound':
      return soundFields(document, id);
    case 'take':
      // A take that was shown may have its look taken back.
      return document.takeLooks[id] ? lookFields(document, `takeLooks/${id}`) : [];
  }
}

/** @param finish where it is known, what does nothing in it is left out, and what hides that says so */
export function finishFields(at: string, finish?: Pick<Finish, 'thinWalled'>): FieldGroup[] {
  const index = (path: string): FieldSpec => field(`${at}/${path}`, 'Refraction');
  const spread = (path: string): FieldSpec => field(`${at}/${path}`, 'Forward');
  return [
    {
      title: 'Base',
      fields: [
        field(`${at}/baseColor`, 'Colour'),
        field(`${at}/baseWeight`, 'Amount'),
        field(`${at}/baseMetalness`, 'Metalness'),
        field(`${at}/baseDiffuseRoughness`, 'Chalkiness'),
      ],
    },
    {
      title: 'Surface',
      fields: [
        field(`${at}/specularRoughness`, 'Roughness'),
        field(`${at}/specularWeight`, 'Shine'),
        field(`${at}/specularColor`, 'Shine colour'),
        index('specularIor'),
        field(`${at}/specularRoughnessAnisotropy`, 'Brushed'),
        field(`${at}/specularRotation`, 'Brushed along'),
        field(`${at}/geometryOpacity`, 'Opacity'),
      ],
    },
    {
      title: 'Coat',
      fields: [
        field(`${at}/coatWeight`, 'Amount'),
        field(`${at}/coatRoughness`, 'Roughness'),
        field(`${at}/coatRoughnessAnisotropy`, 'Brushed'),
        index('coatIor'),
        field(`${at}/coatColor`, 'Colour'),
        field(`${at}/coatDarkening`, 'Darkening'),
      ],
    },
    {
      title: 'Fuzz',
      fields: [
        field(`${at}/fuzzWeight`, 'Amount'),
        field(`${at}/fuzzRoughness`, 'Roughness'),
        field(`${at}/fuzzColor`, 'Colour'),
      ],
    },
    {
      title: 'Thin film',
      fields: [
        field(`${at}/thinFilmWeight`, 'Amount'),
        field(`${at}/thinFilmThickness`, 'Thickness'),
        index('thinFilmIor'),
      ],
    },
    {
      title: 'Transmission',
      fields: [
        field(`${at}/transmissionWeight`, 'Amount'),
        field(`${at}/transmissionColor`, 'Colour'),
        ...(finish?.thinWalled
          ? []
          : [
              field(`${at}/transmissionDepth`, 'Colour depth'),
              field(`${at}/transmissionScatter`, 'Cloudiness'),
              spread('transmissionScatterAnisotropy'),
              field(`${at}/transmissionDispersionScale`, 'Rainbow'),
              field(`${at}/transmissionDispersionAbbeNumber`, 'Abbe number'),
            ]),
        field(`${at}/thinWalled`, 'Thin sheet', {
          hint: 'A sheet has no inside: while this is on, colour depth, cloudiness and rainbow are hidden.',
        }),
      ],
    },
    {
      title: 'Below the surface',
      fields: [
        field(`${at}/subsurfaceWeight`, 'Amount'),
        field(`${at}/subsurfaceColor`, 'Colour'),
        field(`${at}/subsurfaceRadius`, 'Depth'),
        field(`${at}/subsurfaceRadiusScale`, 'Depth by colour'),
        spread('subsurfaceScatterAnisotropy'),
      ],
    },
    {
      title: 'Emission',
      fields: [
        field(`${at}/emissionPower`, 'Power'),
        choice(`${at}/emissionUnit`, 'Unit', UNITS, ['lumen', 'watt', 'nit']),
        field(`${at}/emissionKelvin`, 'Colour temp.'),
        field(`${at}/emissionColor`, 'Tint'),
        field(`${at}/emissionTwoSided`, 'Both sides'),
        field(`${at}/emissionVisibleToCamera`, 'In picture'),
      ],
    },
  ];
}

/** Widths of sensors and film gates by the names that the trade has for them, millimetres. */
const SENSORS: [string, number][] = [
  ['Large format 4 × 5 in', 121],
  ['65 mm film', 52.5],
  ['Medium format', 43.8],
  ['Full frame', 36],
  ['Super 35', 24.9],
  ['APS-C', 23.5],
  ['Four thirds', 17.3],
  ['1 inch', 13.2],
  ['16 mm film', 10.3],
  ['Telephone', 9.8],
];

/** A camera's sensor by its name. */
function sensor(document: ProjectDocument, id: string): FieldSpec {
  const at = `cameras/${id}/sensorWidth`;
  const width = document.cameras[id]?.sensorWidth ?? 0;
  const known = SENSORS.find(([, own]) => Math.abs(own - width) < 0.05);
  return {
    path: at,
    label: 'Sensor',
    kind: 'choice',
    still: true,
    options: [
      ...SENSORS.map(([name, own]) => ({ value: name, label: `${name}, ${own} mm` })),
      ...(known ? [] : [{ value: 'own', label: 'One of its own' }]),
    ],
    read: () => known?.[0] ?? 'own',
    write: (draft, value) => {
      const chosen = SENSORS.find(([name]) => name === value);
      if (chosen) draft.cameras[id]!.sensorWidth = chosen[1];
    },
  };
}

/** What a camera's focus follows: the turning point of a node, until another point of it is clicked. */
const followed = (document: ProjectDocument, id: string): FieldSpec => ({
  path: `cameras/${id}/focusOn/node`,
  label: 'Follows',
  kind: 'choice',
  options: nodeOptions(document, 'Nothing'),
  write: (draft, value) => {
    const node = draft.nodes[String(value)];
    draft.cameras[id]!.focusOn = node ? { node: node.id, point: [...node.pivot] } : null;
  },
});

/** Dimensions of a set piece. */
function pieceFields(at: string, piece: SetPiece | null): FieldGroup[] {
  if (!piece) return [];
  const table: Table = SET_PIECES[piece.kind].properties;
  const own = (key: string, label: string): FieldSpec => fieldOf(table[key]!, `${at}/${key}`, label);
  return [{ title: SET_PIECES[piece.kind].title, fields: pieceView(piece).fields(own, piece) }];
}

/** Where a node turns, and about what. The node stays where it is when these change. */
export function pivotFields(id: string, document: ProjectDocument): FieldSpec[] {
  const at = `nodes/${id}`;
  return [
    {
      ...field(`${at}/pivot`, 'Point'),
      write: (draft, value) => setPivot(draft, id, value as Vector3),
    },
    {
      ...field(`${at}/axis`, 'Axis'),
      write: (draft, value) => {
        if ((value as Vector3).some((v) => v !== 0)) setPivot(draft, id, document.nodes[id]!.pivot, value as Vector3);
      },
    },
  ];
}

/** Rows of a grid with the longest made as short as the limit of copies wants. */
function withinCopies(counts: Vector3): Vector3 {
  const longest = counts.indexOf(Math.max(...counts));
  const others = counts.reduce((product, count, k) => (k === longest ? product : product * count), 1);
  const most = Math.max(1, Math.floor(LIMITS.copies / others));
  const within = counts.map((count, k) => (k === longest ? Math.min(count, most) : count)) as Vector3;
  // Two long rows take another look.
  return within[0] * within[1] * within[2] > LIMITS.copies ? withinCopies(within) : within;
}

/** Copies of a node. */
const DRESSED: Record<Copies['dressed'], string> = {
  same: 'All the same',
  alternate: 'Finishes in turn',
  random: 'Finishes at random',
  blend: 'From one to the other',
  colourways: 'A colourway each',
};

export function copyFields(id: string, copies: Copies): FieldSpec[] {
  const at = `nodes/${id}/copies`;
  const count = field(`${at}/count`, 'Count');
  const spacing = field(`${at}/spacing`, 'Spacing');
  const regular: Record<Copies['kind'], FieldSpec[]> = {
    line: [count, spacing],
    grid: [
      {
        ...field(`${at}/count`, 'Count', { kind: 'vector' }),
        path: `${at}/counts`,
        write: (draft, value) => void (draft.nodes[id]!.copies!.counts = withinCopies(value as Vector3)),
      },
      spacing,
    ],
    ring: [
      count,
      field(`${at}/radius`, 'Radius'),
      field(`${at}/angle`, 'Over'),
      field(`${at}/axis`, 'Axis'),
      field(`${at}/facing`, 'Turn with it'),
    ],
  };
  return [
    ...regular[copies.kind],
    choice(`${at}/dressed`, 'They wear', DRESSED),
    field(`${at}/varyTurn`, 'Turn ±'),
    field(`${at}/varyOffset`, 'Offset ±'),
    field(`${at}/varyScale`, 'Size ±'),
    field(`${at}/seed`, 'Seed'),
  ];
}

const TONE_NAMES = Object.fromEntries(Object.entries(TONES).map(([name, { title }]) => [name, title])) as Record<
  Look['tone'],
  string
>;

export function lookFields(document: ProjectDocument, at: string): FieldGroup[] {
  const tables = Object.values(document.assets).filter((each) => each.kind === 'lookup');
  return [
    {
      title: 'Expose',
      fields: [
        field(`${at}/exposure`, 'Exposure'),
        field(`${at}/balanceKelvin`, 'White is'),
        field(`${at}/balanceTint`, 'Magenta'),
        choice(`${at}/tone`, 'Tone curve', TONE_NAMES),
      ],
    },
    {
      title: 'Clean',
      fields: [field(`${at}/denoise`, 'Denoise'), field(`${at}/specks`, 'Remove specks')],
    },
    {
      title: 'Contrast and colour',
      fields: [
        field(`${at}/contrast`, 'Contrast'),
        field(`${at}/contrastPivot`, 'About'),
        field(`${at}/saturation`, 'Saturation'),
        { path: `${at}/curves`, label: 'Curves', kind: 'curves', still: true },
        {
          path: `${at}/lookup`,
          label: 'Look-up table',
          kind: 'choice',
          options: [{ value: '', label: 'None' }, ...tables.map(({ hash, name }) => ({ value: hash, label: name }))],
        },
        field(`${at}/lookupAmount`, 'Table amount'),
      ],
    },
    {
      title: 'Lens',
      fields: [
        field(`${at}/bloomAmount`, 'Bloom'),
        field(`${at}/bloomRadius`, 'Bloom radius'),
        field(`${at}/bloomThreshold`, 'Bloom from'),
        field(`${at}/zoomBlur`, 'Zoom blur'),
        field(`${at}/fringing`, 'Fringing'),
        field(`${at}/vignette`, 'Dark corners'),
        field(`${at}/vignetteSize`, 'Reaching in'),
      ],
    },
    {
      title: 'Film',
      fields: [
        field(`${at}/sharpen`, 'Sharpen'),
        field(`${at}/grain`, 'Grain'),
        field(`${at}/grainSize`, 'Grain size'),
      ],
    },
  ];
}

export const setFields = (document: ProjectDocument): FieldGroup[] => [
  {
    title: 'Floor',
    fields: [
      {
        path: 'set/floor/kind',
        label: 'Kind',
        kind: 'choice',
        options: [
          { value: 'sweep', label: 'Curved sweep' },
          { value: 'floor', label: 'Flat floor' },
          { value: 'none', label: 'None' },
        ],
      },
      field('set/floor/color', 'Colour'),
      field('set/floor/roughness', 'Roughness'),
      field('set/floor/size', 'Size'),
      field('set/floor/depth', 'Curve behind'),
      field('set/floor/turn', 'Turn'),
      field('set/floor/catches', 'Only catches', {
        hint: 'Shows what is seen behind, with shadows and reflections on it',
      }),
    ],
  },
  {
    title: 'Surroundings',
    fields: [
      choice('set/surroundings/kind', 'Lit by', {
        picture: 'Picture',
        color: 'Plain colour',
        gradient: 'Gradient',
        sky: 'Open sky',
      }),
      ...surroundingsFields(document),
      field('set/surroundings/turn', 'Turn'),
      field('set/surroundings/tilt', 'Tilt'),
      field('set/surroundings/brightness', 'Brightness'),
      field('set/surroundings/tint', 'Tint'),
      field('set/surroundings/contrast', 'Contrast'),
      field('set/surroundings/saturation', 'Saturation'),
      field('set/surroundings/blur', 'Blur'),
    ],
  },
  {
    title: 'Air',
    fields: [
      field('set/air/density', 'Fog'),
      field('set/air/color', 'Colour'),
      field('set/air/anisotropy', 'Forward'),
      field('set/air/reach', 'Reaches'),
    ],
  },
  {
    title: 'Seen behind',
    fields: [
      choice('set/behind/kind', 'Shows', {
        surroundings: 'Surroundings',
        color: 'Colour',
        picture: 'Another picture',
        plate: 'Plate (fills frame)',
        transparent: 'Nothing (alpha)',
      }),
      ...behindFields(document),
      field('set/behind/shade', 'Shadows on it', { hint: 'On a floor and on parts that catch shadows' }),
    ],
  },
];

function surroundingsFields(document: ProjectDocument): FieldSpec[] {
  const at = 'set/surroundings';
  const { kind, picture } = document.set.surroundings;
  switch (kind) {
    case 'picture':
      return [
        assetChoice(document, `${at}/picture`, 'Picture', picture, 'surroundings'),
        field(`${at}/mirrored`, 'Mirrored'),
      ];
    case 'color':
      return [field(`${at}/color`, 'Colour')];
    case 'gradient':
      return [
        field(`${at}/gradient/top`, 'Overhead'),
        field(`${at}/gradient/horizon`, 'Horizon'),
        field(`${at}/gradient/bottom`, 'Below'),
      ];
    case 'sky':
      return [
        field(`${at}/sky/elevation`, 'Sun height'),
        field(`${at}/sky/turbidity`, 'Haze'),
        field(`${at}/sky/sun`, 'Sun shines'),
      ];
  }
}

function behindFields(document: ProjectDocument): FieldSpec[] {
  const at = 'set/behind';
  const brightness = field(`${at}/brightness`, 'Brightness');
  const { kind, picture, plate } = document.set.behind;
  switch (kind) {
    case 'color':
      return [field(`${at}/color`, 'Colour')];
    case 'picture':
      return [
        assetChoice(document, `${at}/picture`, 'Picture', picture, 'surroundings'),
        field(`${at}/mirrored`, 'Mirrored'),
        brightness,
        field(`${at}/turn`, 'Turn'),
      ];
    case 'plate':
      return [
        assetChoice(document, `${at}/plate`, 'Plate', plate, 'picture', 'footage'),
        brightness,
        ...plateFields(document, plate),
      ];
    default:
      return [];
  }
}

/** Of a plate that was filmed: when it runs. */
function plateFields({ assets }: ProjectDocument, plate: string | null): FieldSpec[] {
  const at = 'set/behind';
  if (plate === null || !assets[plate]?.footage) return [];
  return [
    field(`${at}/plateStart`, 'From frame'),
    field(`${at}/plateFrom`, 'Begins at', { exact: true }),
    field(`${at}/plateSpeed`, 'Speed'),
    choice(`${at}/plateAfter`, 'At its end', {
      hold: 'Stands still',
      again: 'Begins again',
      toAndFro: 'Runs back',
      gone: 'Is gone',
    }),
  ];
}

/** One of the project's pictures; none only as long as none was chosen. */
const assetChoice = (
  document: ProjectDocument,
  path: string,
  label: string,
  chosen: string | null,
  ...kinds: Asset['kind'][]
): FieldSpec => ({
  path,
  label,
  kind: 'choice',
  options: [
    ...(chosen === null ? [{ value: '', label: 'None yet' }] : []),
    ...Object.values(document.assets)
      .filter((each) => kinds.includes(each.kind))
      .map((each) => ({ value: each.id, label: each.name })),
  ],
});

function moveFields(document: ProjectDocument, id: string): FieldGroup[] {
  const shot = Object.values(document.shots).find((each) => id in each.moves);
  const move: Move | undefined = shot?.moves[id];
  if (!shot || !move) return [];
  const at = `shots/${shot.id}/moves/${id}`;
  const table: Table = { ...MOVE, ...MOVE_KINDS[move.kind].properties };
  const own = (key: string, label: string): FieldSpec => fieldOf(table[key]!, `${at}/${key}`, label);
  return [
    {
      title: move.name,
      fields: moveView(move).fields({ document, at, own, write: (change) => writeMove(shot.id, id, change) }, move),
    },
    {
      title: 'Time',
      fields: [
        own('start', 'From frame'),
        own('length', 'Length'),
        own('repeat', 'Repeat'),
        own('mirrored', 'To and fro'),
        own('weight', 'Weight'),
        ...(document.nodes[move.target.split('/')[1] ?? '']?.copies
          ? [
              {
                ...own('perCopy', 'Copy by copy'),
                hint: 'Frames by which each copy is later than the one before: a wave',
              },
            ]
          : []),
        ...('unpaced' in MOVE_KINDS[move.kind]
          ? []
          : [{ path: `${at}/pace`, label: 'Pace', kind: 'pace' as const, still: true }]),
      ],
    },
  ];
}

/** Sets a field of a move that is more than one property of it. */
const writeMove =
  (
    shot: string,
    id: string,
    change: (move: Move, value: unknown, draft: ProjectDocument) => void,
  ): FieldSpec['write'] =>
  (draft, value) => {
    const move = draft.shots[shot]?.moves[id];
    if (move) change(move, value, draft);
  };
