import {
  childrenByParent,
  inOrder,
  isColorSlot,
  LIMITS,
  SET_PIECE_NAMES,
  type Asset,
  type Copies,
  type Light,
  type MapSlot,
  type Move,
  type ProjectDocument,
  type SetPiece,
  type Vector3,
} from '@zippy/core/document';
import { carryAimed, resizeShot, setPivot } from '@zippy/core/motion';
import type { Selected } from '../state/studio.state';

/** How one property is shown. */
export interface FieldSpec {
  path: string;
  label: string;
  kind: 'number' | 'vector' | 'color' | 'switch' | 'choice' | 'pace' | 'text' | 'curves';
  unit?: string;
  step?: number;
  min?: number;
  max?: number;
  /** What one shown unit is in the document: radians per degree, for one. */
  scale?: number;
  options?: { value: string; label: string }[];
  /** Cannot move and is the same in every shot. */
  still?: boolean;
  /** Whole numbers only. */
  whole?: boolean;
  /** Sets the value where more than the property itself has to change with it. */
  write?: (draft: ProjectDocument, value: unknown) => void;
}

export interface FieldGroup {
  title: string;
  fields: FieldSpec[];
}

const DEGREE = Math.PI / 180;

const number = (path: string, label: string, over: Partial<FieldSpec> = {}): FieldSpec => ({
  path,
  label,
  kind: 'number',
  ...over,
});
const part = (path: string, label: string): FieldSpec => number(path, label, { min: 0, max: 1, step: 0.01 });
const place = (path: string, label: string): FieldSpec => ({ path, label, kind: 'vector' });
const turn = (path: string, label: string): FieldSpec => ({ path, label, kind: 'vector', scale: DEGREE });
const color = (path: string, label: string): FieldSpec => ({ path, label, kind: 'color' });
const toggle = (path: string, label: string, still = false): FieldSpec => ({ path, label, kind: 'switch', still });
const kelvin = (path: string): FieldSpec =>
  number(path, 'Colour temp.', { unit: 'K', min: 1000, max: 20000, step: 50 });
const UNITS = { lumen: 'lumen', watt: 'watt', nit: 'nit', candela: 'candela', lux: 'lux' };
const choice = <T extends string>(
  path: string,
  label: string,
  names: Record<T, string>,
  values = Object.keys(names) as T[],
): FieldSpec => ({
  path,
  label,
  kind: 'choice',
  options: values.map((value) => ({ value, label: names[value] })),
});

/** Fields of whatever is selected, grouped as the card shows them. */
export function fieldGroups(document: ProjectDocument, selected: Selected): FieldGroup[] {
  const { kind, id } = selected;
  switch (kind) {
    case 'node': {
      const at = `nodes/${id}`;
      const node = document.nodes[id];
      return [
        {
          title: 'Place',
          fields: [
            place(`${at}/position`, 'Position'),
            turn(`${at}/turn`, 'Turn'),
            { path: `${at}/scale`, label: 'Scale', kind: 'vector', step: 0.01 },
            toggle(`${at}/visible`, 'Shown'),
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
                  number(`${at}/glow`, 'Glow', { unit: '×', min: 0, step: 0.05 }),
                ],
              },
            ]
          : []),
      ];
    }
    case 'finish':
      return finishFields(`finishes/${id}`);
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
              ? [number(`${at}/orthographicWidth`, 'Picture width', { unit: 'mm', min: 0.1, step: 5 })]
              : [number(`${at}/focalLength`, 'Focal length', { unit: 'mm', min: 4, max: 2000 })]),
            number(`${at}/sensorWidth`, 'Sensor width', { unit: 'mm', min: 4, max: 100, step: 0.5 }),
          ],
        },
        {
          title: 'Sharpness',
          fields: [
            number(`${at}/fStop`, 'f-stop', { unit: 'f/', min: 0, max: 128, step: 0.1 }),
            followed(document, id),
            ...(document.cameras[id]?.focusOn
              ? []
              : [number(`${at}/focusDistance`, 'Sharp at', { unit: 'mm', min: 1, step: 1 })]),
            number(`${at}/blades`, 'Blades', { min: 0, max: 16, step: 1, still: true }),
            number(`${at}/bladeTurn`, 'Blades turned', { unit: '°', scale: DEGREE, still: true }),
            number(`${at}/shutterAngle`, 'Shutter', { unit: '°', scale: DEGREE, min: 0, max: 360, step: 5 }),
          ],
        },
        {
          title: 'Place',
          fields: [
            place(`${at}/position`, 'Position'),
            place(`${at}/target`, 'Looks at'),
            number(`${at}/roll`, 'Roll', { unit: '°', scale: DEGREE }),
            hangsOn(document, 'cameras', id),
            toggle(`${at}/locked`, 'Locked', true),
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
              ...number(`shots/${id}/length`, 'Length', { unit: 'frames', min: 1, max: 100000, still: true }),
              whole: true,
              write: (draft: ProjectDocument, value: unknown) => resizeShot(draft.shots[id]!, Number(value)),
            },
            {
              path: `shots/${id}/camera`,
              label: 'Camera',
              kind: 'choice',
              options: inOrder(document.cameras).map((each) => ({ value: each.id, label: each.name })),
            },
          ],
        },
      ];
    case 'move':
      return moveFields(document, id);
    case 'clip': {
      const at = `reel/clips/${id}`;
      return [
        {
          title: 'On the reel',
          fields: [
            number(`${at}/from`, 'From frame', { min: 1, still: true }),
            number(`${at}/to`, 'To frame', { min: 1, still: true }),
            number(`${at}/speed`, 'Speed', { unit: '×', min: 0.05, max: 20, step: 0.05, still: true }),
            number(`${at}/loop`, 'Times', { min: 1, max: 1000, still: true }),
            toggle(`${at}/reverse`, 'Backwards', true),
          ],
        },
      ];
    }
    case 'take':
      return lookFields(document, `takeLooks/${id}`);
  }
}

export function finishFields(at: string): FieldGroup[] {
  const index = (path: string): FieldSpec => number(`${at}/${path}`, 'Refraction', { min: 1, max: 4, step: 0.01 });
  const spread = (path: string): FieldSpec => number(`${at}/${path}`, 'Forward', { min: -0.99, max: 0.99, step: 0.01 });
  return [
    {
      title: 'Base',
      fields: [
        color(`${at}/baseColor`, 'Colour'),
        part(`${at}/baseWeight`, 'Amount'),
        part(`${at}/baseMetalness`, 'Metalness'),
        part(`${at}/baseDiffuseRoughness`, 'Chalkiness'),
      ],
    },
    {
      title: 'Surface',
      fields: [
        part(`${at}/specularRoughness`, 'Roughness'),
        part(`${at}/specularWeight`, 'Shine'),
        color(`${at}/specularColor`, 'Shine colour'),
        index('specularIor'),
        part(`${at}/specularRoughnessAnisotropy`, 'Brushed'),
        number(`${at}/specularRotation`, 'Brushed along', { unit: '°', scale: DEGREE }),
        part(`${at}/geometryOpacity`, 'Opacity'),
      ],
    },
    {
      title: 'Coat',
      fields: [
        part(`${at}/coatWeight`, 'Amount'),
        part(`${at}/coatRoughness`, 'Roughness'),
        part(`${at}/coatRoughnessAnisotropy`, 'Brushed'),
        index('coatIor'),
        color(`${at}/coatColor`, 'Colour'),
        part(`${at}/coatDarkening`, 'Darkening'),
      ],
    },
    {
      title: 'Fuzz',
      fields: [
        part(`${at}/fuzzWeight`, 'Amount'),
        part(`${at}/fuzzRoughness`, 'Roughness'),
        color(`${at}/fuzzColor`, 'Colour'),
      ],
    },
    {
      title: 'Thin film',
      fields: [
        part(`${at}/thinFilmWeight`, 'Amount'),
        number(`${at}/thinFilmThickness`, 'Thickness', { unit: 'µm', min: 0, max: 20, step: 0.01 }),
        index('thinFilmIor'),
      ],
    },
    {
      title: 'Transmission',
      fields: [
        part(`${at}/transmissionWeight`, 'Amount'),
        color(`${at}/transmissionColor`, 'Colour'),
        number(`${at}/transmissionDepth`, 'Colour depth', { unit: 'mm', min: 0, step: 0.5 }),
        color(`${at}/transmissionScatter`, 'Cloudiness'),
        spread('transmissionScatterAnisotropy'),
        part(`${at}/transmissionDispersionScale`, 'Rainbow'),
        number(`${at}/transmissionDispersionAbbeNumber`, 'Abbe number', { min: 5, max: 200, step: 1 }),
        toggle(`${at}/thinWalled`, 'Thin sheet', true),
      ],
    },
    {
      title: 'Below the surface',
      fields: [
        part(`${at}/subsurfaceWeight`, 'Amount'),
        color(`${at}/subsurfaceColor`, 'Colour'),
        number(`${at}/subsurfaceRadius`, 'Depth', { unit: 'mm', min: 0.001, step: 0.1 }),
        color(`${at}/subsurfaceRadiusScale`, 'Depth by colour'),
        spread('subsurfaceScatterAnisotropy'),
      ],
    },
    {
      title: 'Emission',
      fields: [
        number(`${at}/emissionPower`, 'Power', { min: 0, step: 1 }),
        choice(`${at}/emissionUnit`, 'Unit', UNITS, ['lumen', 'watt', 'nit']),
        kelvin(`${at}/emissionKelvin`),
        color(`${at}/emissionColor`, 'Tint'),
        toggle(`${at}/emissionTwoSided`, 'Both sides', true),
        toggle(`${at}/emissionVisibleToCamera`, 'In picture', true),
      ],
    },
  ];
}

/** What slots of a finish are called; the groups say where they lie on the card. */
export const SLOT_NAMES: Record<MapSlot, string> = {
  baseColor: 'Base colour',
  baseMetalness: 'Metalness',
  baseDiffuseRoughness: 'Chalkiness',
  specularWeight: 'Shine',
  specularColor: 'Shine colour',
  specularRoughness: 'Roughness',
  specularRoughnessAnisotropy: 'Brushed',
  specularRotation: 'Brushed along',
  transmissionWeight: 'Transmission',
  transmissionColor: 'Transmission colour',
  subsurfaceWeight: 'Below the surface',
  subsurfaceColor: 'Colour below the surface',
  coatWeight: 'Coat',
  coatColor: 'Coat colour',
  coatRoughness: 'Coat roughness',
  coatRoughnessAnisotropy: 'Coat brushed',
  fuzzWeight: 'Fuzz',
  fuzzColor: 'Fuzz colour',
  fuzzRoughness: 'Fuzz roughness',
  thinFilmWeight: 'Thin film',
  thinFilmThickness: 'Film thickness',
  geometryOpacity: 'Opacity',
  emissionColor: 'Emission',
  normal: 'Relief (normals)',
};

/** How a picture lies on one slot of a finish. */
export function mapFields(document: ProjectDocument, finish: string, slot: MapSlot): FieldSpec[] {
  const at = `finishes/${finish}/maps/${slot}`;
  const pictures = Object.values(document.assets).filter((each) => each.kind === 'picture');
  const many = (path: string, label: string): FieldSpec => number(`${at}/${path}`, label, { unit: '×', step: 0.1 });
  const offset = (path: string, label: string): FieldSpec => number(`${at}/${path}`, label, { step: 0.01 });
  return [
    choice(`${at}/picture`, 'Picture', Object.fromEntries(pictures.map((each) => [each.id, each.name]))),
    slot === 'normal'
      ? number(`${at}/strength`, 'Strength', { min: 0, max: 10, step: 0.05 })
      : part(`${at}/strength`, 'Strength'),
    ...(isColorSlot(slot) || slot === 'normal'
      ? []
      : [choice(`${at}/channel`, 'Taken from', { red: 'Red', green: 'Green', blue: 'Blue', alpha: 'Opacity' })]),
    choice(`${at}/coding`, 'Holds', { srgb: 'Colours', linear: 'Numbers' }),
    many('repeatU', 'Times across'),
    many('repeatV', 'Times down'),
    number(`${at}/turn`, 'Turned', { unit: '°', scale: DEGREE }),
    offset('offsetU', 'Moved across'),
    offset('offsetV', 'Moved down'),
  ];
}

/** All nodes as the tree shows them, to choose from, behind a choice of none. */
function nodeOptions(document: ProjectDocument, none: string): NonNullable<FieldSpec['options']> {
  const children = childrenByParent(document);
  const options = [{ value: '', label: none }];
  const visit = (parent: string, depth: number) => {
    for (const node of children.get(parent) ?? []) {
      options.push({ value: node.id, label: '\u2003'.repeat(depth) + node.name });
      visit(node.id, depth + 1);
    }
  };
  visit('', 0);
  return options;
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

/** What carries a light or camera; it stays where it is in the world when that changes. */
function hangsOn(document: ProjectDocument, collection: 'lights' | 'cameras', id: string): FieldSpec {
  return {
    path: `${collection}/${id}/parent`,
    label: 'Hangs on',
    kind: 'choice',
    options: nodeOptions(document, 'Nothing'),
    write: (draft, value) => carryAimed(draft, [id], value as string | null),
  };
}

/** Dimensions of a set piece. */
function pieceFields(at: string, piece: SetPiece | null): FieldGroup[] {
  if (!piece) return [];
  const size = (key: string, label: string, min = 0.01): FieldSpec =>
    number(`${at}/${key}`, label, { unit: 'mm', min, max: 1e6, step: 5, still: true });
  const [width, height, depth] = [size('width', 'Width'), size('height', 'Height'), size('depth', 'Depth')];
  const [radius, bevel] = [size('radius', 'Radius'), size('bevel', 'Rounded by', 0)];
  const fields: Record<SetPiece['kind'], FieldSpec[]> = {
    plane: [width, depth],
    box: [width, height, depth, bevel],
    cylinder: [radius, height, bevel],
    sphere: [radius],
    disc: [radius, size('hole', 'Hole', 0)],
    tube: [radius, size('wall', 'Wall'), height],
    frame: [
      width,
      height,
      size('bar', 'Bar'),
      ...(piece.kind === 'frame' && piece.section === 'rectangular' ? [depth] : []),
      choice(`${at}/section`, 'Section', { rectangular: 'Rectangular', round: 'Round' }),
    ],
    sweep: [width, depth, height, size('radius', 'Curve')],
  };
  return [{ title: SET_PIECE_NAMES[piece.kind], fields: fields[piece.kind] }];
}

/** Where a node turns, and about what. The node stays where it is when these change. */
export function pivotFields(id: string, document: ProjectDocument): FieldSpec[] {
  const at = `nodes/${id}`;
  return [
    {
      ...place(`${at}/pivot`, 'Point'),
      still: true,
      write: (draft, value) => setPivot(draft, id, value as Vector3),
    },
    {
      ...place(`${at}/axis`, 'Axis'),
      step: 0.1,
      still: true,
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
export function copyFields(id: string, copies: Copies): FieldSpec[] {
  const at = `nodes/${id}/copies`;
  const count = number(`${at}/count`, 'Count', { min: 1, max: LIMITS.copies, still: true, whole: true });
  const spacing = place(`${at}/spacing`, 'Spacing');
  const regular: Record<Copies['kind'], FieldSpec[]> = {
    line: [count, spacing],
    grid: [
      {
        ...place(`${at}/counts`, 'Count'),
        still: true,
        whole: true,
        min: 1,
        max: LIMITS.copies,
        write: (draft, value) => void (draft.nodes[id]!.copies!.counts = withinCopies(value as Vector3)),
      },
      spacing,
    ],
    ring: [
      count,
      number(`${at}/radius`, 'Radius', { unit: 'mm', min: 0, step: 5 }),
      number(`${at}/angle`, 'Over', { unit: '°', scale: DEGREE, min: -360, max: 360, step: 5 }),
      { ...place(`${at}/axis`, 'Axis'), step: 0.1, still: true },
      toggle(`${at}/facing`, 'Turn with it', true),
    ],
  };
  return [
    ...regular[copies.kind],
    turn(`${at}/varyTurn`, 'Turn ±'),
    place(`${at}/varyOffset`, 'Offset ±'),
    number(`${at}/varyScale`, 'Size ±', { unit: '%', scale: 0.01, min: 0, max: 99, step: 1 }),
    number(`${at}/seed`, 'Seed', { min: 0, max: 1e9, still: true, whole: true }),
  ];
}

function lightFields(document: ProjectDocument, id: string): FieldGroup[] {
  const at = `lights/${id}`;
  const kind = document.lights[id]?.kind ?? 'panel';
  const size = (path: string, label: string): FieldSpec =>
    number(`${at}/${path}`, label, { unit: 'mm', min: 0.1, step: 5 });
  const angle = (path: string, label: string, max: number): FieldSpec =>
    number(`${at}/${path}`, label, { unit: '°', scale: DEGREE, min: 0, max, step: 1 });
  const sizes: Record<Light['kind'], FieldSpec[]> = {
    panel: [size('width', 'Width'), size('height', 'Height'), part(`${at}/gradient`, 'Darker edge')],
    disc: [size('radius', 'Radius'), part(`${at}/gradient`, 'Darker edge')],
    tube: [size('width', 'Length'), size('radius', 'Radius')],
    bulb: [size('radius', 'Radius')],
    spot: [
      size('radius', 'Radius'),
      angle('coneAngle', 'Cone', 177),
      part(`${at}/penumbra`, 'Soft edge'),
      angle('gridAngle', 'Grid', 85),
    ],
    sun: [number(`${at}/angularSize`, 'Seen size', { unit: '°', scale: DEGREE, min: 0.03, max: 57, step: 0.1 })],
  };
  const units: (keyof typeof UNITS)[] = kind === 'sun' ? ['lux'] : ['lumen', 'watt', 'nit', 'candela'];
  return [
    {
      title: 'Light',
      fields: [
        toggle(`${at}/on`, 'On'),
        number(`${at}/power`, 'Power', { min: 0, step: 5 }),
        choice(`${at}/unit`, 'Unit', UNITS, units),
        kelvin(`${at}/kelvin`),
        color(`${at}/tint`, 'Tint'),
        toggle(`${at}/castsShadows`, 'Shadows', true),
        toggle(`${at}/visibleToCamera`, 'In picture', true),
        { path: `${at}/group`, label: 'Light layer', kind: 'text' },
      ],
    },
    {
      title: 'Size and place',
      fields: [
        ...sizes[kind],
        place(`${at}/position`, 'Position'),
        place(`${at}/target`, 'Aimed at'),
        hangsOn(document, 'lights', id),
      ],
    },
  ];
}

export function lookFields(document: ProjectDocument, at: string): FieldGroup[] {
  const still = (spec: FieldSpec): FieldSpec => ({ ...spec, still: true });
  const tables = Object.values(document.assets).filter((each) => each.kind === 'lookup');
  const groups: FieldGroup[] = [
    {
      title: 'Expose',
      fields: [
        number(`${at}/exposure`, 'Exposure', { unit: 'stops', min: -20, max: 20, step: 0.05 }),
        number(`${at}/balanceKelvin`, 'White is', { unit: 'K', min: 1000, max: 20000, step: 50 }),
        number(`${at}/balanceTint`, 'Magenta', { min: -1, max: 1, step: 0.01 }),
        choice(`${at}/tone`, 'Tone curve', { neutral: 'Neutral', soft: 'Soft', strong: 'Strong' }),
      ],
    },
    {
      title: 'Clean',
      fields: [part(`${at}/denoise`, 'Denoise'), part(`${at}/specks`, 'Remove specks')],
    },
    {
      title: 'Contrast and colour',
      fields: [
        number(`${at}/contrast`, 'Contrast', { unit: '×', min: 0.1, max: 4, step: 0.01 }),
        number(`${at}/contrastPivot`, 'About', { min: 0.01, max: 1, step: 0.01 }),
        number(`${at}/saturation`, 'Saturation', { unit: '×', min: 0, max: 4, step: 0.01 }),
        { path: `${at}/curves`, label: 'Curves', kind: 'curves' },
        {
          path: `${at}/lookup`,
          label: 'Look-up table',
          kind: 'choice',
          options: [{ value: '', label: 'None' }, ...tables.map(({ hash, name }) => ({ value: hash, label: name }))],
        },
        part(`${at}/lookupAmount`, 'Table amount'),
      ],
    },
    {
      title: 'Lens',
      fields: [
        part(`${at}/bloomAmount`, 'Bloom'),
        number(`${at}/bloomRadius`, 'Bloom radius', { min: 0.001, max: 0.5, step: 0.005 }),
        number(`${at}/bloomThreshold`, 'Bloom from', { min: 0, max: 100, step: 0.05 }),
        part(`${at}/zoomBlur`, 'Zoom blur'),
        part(`${at}/fringing`, 'Fringing'),
        part(`${at}/vignette`, 'Dark corners'),
        number(`${at}/vignetteSize`, 'Reaching in', { min: 0.05, max: 1, step: 0.01 }),
      ],
    },
    {
      title: 'Film',
      fields: [
        number(`${at}/sharpen`, 'Sharpen', { min: 0, max: 3, step: 0.02 }),
        part(`${at}/grain`, 'Grain'),
        number(`${at}/grainSize`, 'Grain size', { unit: '‰', scale: 0.001, min: 0.2, max: 20, step: 0.1 }),
      ],
    },
  ];
  return groups.map(({ title, fields }) => ({ title, fields: fields.map(still) }));
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
      color('set/floor/color', 'Colour'),
      part('set/floor/roughness', 'Roughness'),
      number('set/floor/size', 'Size', { unit: 'mm', min: 10, step: 10, still: true }),
      number('set/floor/depth', 'Curve behind', { unit: 'mm', min: 0, step: 10, still: true }),
      number('set/floor/turn', 'Turn', { unit: '°', scale: DEGREE }),
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
      number('set/surroundings/turn', 'Turn', { unit: '°', scale: DEGREE }),
      number('set/surroundings/tilt', 'Tilt', { unit: '°', scale: DEGREE }),
      number('set/surroundings/brightness', 'Brightness', { unit: '×', min: 0, max: 1000, step: 0.01 }),
      color('set/surroundings/tint', 'Tint'),
      number('set/surroundings/contrast', 'Contrast', { unit: '×', min: 0, max: 4, step: 0.02 }),
      number('set/surroundings/saturation', 'Saturation', { unit: '×', min: 0, max: 4, step: 0.02 }),
      number('set/surroundings/blur', 'Blur', { unit: '°', scale: DEGREE, min: 0, max: 90, step: 0.5 }),
    ],
  },
  {
    title: 'Air',
    fields: [
      number('set/air/density', 'Fog', { unit: '/m', min: 0, max: 1000, step: 0.01 }),
      color('set/air/color', 'Colour'),
      number('set/air/anisotropy', 'Forward', { min: -0.95, max: 0.95, step: 0.01 }),
      number('set/air/reach', 'Reaches', { unit: 'mm', min: 1, step: 100, still: true }),
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
        toggle(`${at}/mirrored`, 'Mirrored', true),
      ];
    case 'color':
      return [color(`${at}/color`, 'Colour')];
    case 'gradient':
      return [
        color(`${at}/gradient/top`, 'Overhead'),
        color(`${at}/gradient/horizon`, 'Horizon'),
        color(`${at}/gradient/bottom`, 'Below'),
      ];
    case 'sky':
      return [
        number(`${at}/sky/elevation`, 'Sun height', { unit: '°', scale: DEGREE, min: 0, max: 90 }),
        number(`${at}/sky/turbidity`, 'Haze', { min: 1.7, max: 10, step: 0.1 }),
        toggle(`${at}/sky/sun`, 'Sun shines', true),
      ];
  }
}

function behindFields(document: ProjectDocument): FieldSpec[] {
  const at = 'set/behind';
  const brightness = number(`${at}/brightness`, 'Brightness', { unit: '×', min: 0, max: 1000, step: 0.01 });
  const { kind, picture, plate } = document.set.behind;
  switch (kind) {
    case 'color':
      return [color(`${at}/color`, 'Colour')];
    case 'picture':
      return [
        assetChoice(document, `${at}/picture`, 'Picture', picture, 'surroundings'),
        toggle(`${at}/mirrored`, 'Mirrored', true),
        brightness,
        number(`${at}/turn`, 'Turn', { unit: '°', scale: DEGREE }),
      ];
    case 'plate':
      return [assetChoice(document, `${at}/plate`, 'Plate', plate, 'picture'), brightness];
    default:
      return [];
  }
}

/** One of the project's pictures; none only as long as none was chosen. */
const assetChoice = (
  document: ProjectDocument,
  path: string,
  label: string,
  chosen: string | null,
  kind: Asset['kind'],
): FieldSpec => ({
  path,
  label,
  kind: 'choice',
  options: [
    ...(chosen === null ? [{ value: '', label: 'None yet' }] : []),
    ...Object.values(document.assets)
      .filter((each) => each.kind === kind)
      .map((each) => ({ value: each.id, label: each.name })),
  ],
});

function moveFields(document: ProjectDocument, id: string): FieldGroup[] {
  const shot = Object.values(document.shots).find((each) => id in each.moves);
  const move: Move | undefined = shot?.moves[id];
  if (!shot || !move) return [];
  const at = `shots/${shot.id}/moves/${id}`;
  const still = (spec: FieldSpec): FieldSpec => ({ ...spec, still: true });
  const own: FieldSpec[] = {
    turntable: [
      number(`${at}/turns`, 'Turns', { unit: 'turns', step: 0.25 }),
      {
        ...choice(`${at}/direction`, 'Direction', { '1': 'Counter-clockwise', '-1': 'Clockwise' }, ['1', '-1']),
        write: (draft: ProjectDocument, value: unknown) => {
          const own = draft.shots[shot.id]?.moves[id];
          if (own?.kind === 'turntable') own.direction = value === '-1' ? -1 : 1;
        },
      },
      number(`${at}/startAngle`, 'Start', { unit: '°', scale: DEGREE }),
      place(`${at}/axis`, 'Axis'),
    ],
    orbit: [number(`${at}/angle`, 'Angle', { unit: '°', scale: DEGREE }), place(`${at}/axis`, 'Axis')],
    travel: [place(`${at}/from`, 'From'), place(`${at}/to`, 'To'), toggle(`${at}/carryTarget`, 'Aim along')],
    ramp: [number(`${at}/from`, 'From', { step: 0.1 }), number(`${at}/to`, 'To', { step: 0.1 })],
    blink: [
      number(`${at}/count`, 'Times', { min: 1, max: 10000 }),
      number(`${at}/low`, 'Low', { step: 0.05 }),
      number(`${at}/high`, 'High', { step: 0.05 }),
      part(`${at}/duty`, 'On part'),
      part(`${at}/softness`, 'Softness'),
    ],
  }[move.kind];
  return [
    { title: move.name, fields: own.map(still) },
    {
      title: 'Time',
      fields: [
        number(`${at}/start`, 'From frame', {}),
        number(`${at}/length`, 'Length', { unit: 'frames', min: 1 }),
        number(`${at}/repeat`, 'Repeat', { min: 1, unit: '×' }),
        toggle(`${at}/mirrored`, 'To and fro'),
        { path: `${at}/pace`, label: 'Pace', kind: 'pace' as const },
      ].map(still),
    },
  ];
}
