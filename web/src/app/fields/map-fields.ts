import { isColorSlot, type FinishMap, type MapSlot, type ProjectDocument } from '@zippy/core/document';
import { pictureOfSource } from '@zippy/core/optics';
import { choice, field, type FieldGroup, type FieldSpec } from '../kinds/field';
import { SOURCE_VIEWS } from '../kinds/maps';

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
  height: 'Relief (height)',
};

const BLEND_NAMES: Record<FinishMap['blend'], string> = {
  multiply: 'Multiplied',
  over: 'Laid over',
  add: 'Added',
  screen: 'Screened',
  difference: 'Difference',
  mask: 'Mask of those below',
};

const PROJECTION_NAMES: Record<FinishMap['projection'], string> = {
  coordinates: 'By its coordinates',
  through: 'Through the part',
  planar: 'Flat',
  box: 'From six sides',
  cylindrical: 'Round a cylinder',
  spherical: 'Round a ball',
  camera: 'From the camera',
  wrapped: 'Wrapped, by lengths',
};

/** Fields of one layer of a map, in the groups in which the card folds them. */
export function layerGroups(document: ProjectDocument, finish: string, id: string): FieldGroup[] {
  const map = document.finishes[finish]?.maps[id];
  if (!map) return [];
  const at = `finishes/${finish}/maps/${id}`;
  const view = SOURCE_VIEWS[map.source.kind];
  const groups = [
    { title: view.label, fields: [...view.fields(`${at}/source`, document), ...overFields(at, map)] },
    ...(view.laid ? [{ title: 'Where it lies', fields: placeFields(at, map) }] : []),
    ...(map.slot === 'normal' ? [] : [{ title: 'Its values', fields: valueFields(at, map) }]),
  ];
  return groups.filter(({ fields }) => fields.length > 0);
}

function overFields(at: string, { slot }: FinishMap): FieldSpec[] {
  if (slot === 'normal') return [field(`${at}/strength`, 'Strength')];
  return [
    choice(`${at}/blend`, 'Comes', BLEND_NAMES),
    slot === 'height'
      ? field(`${at}/strength`, 'Strength')
      : field(`${at}/strength`, 'Strength', { max: 1, step: 0.01 }),
    field(`${at}/selfMasked`, 'Only where bright'),
  ];
}

function placeFields(at: string, { projection, source }: FinishMap): FieldSpec[] {
  const placed = projection !== 'coordinates' && projection !== 'camera';
  return [
    choice(`${at}/projection`, 'Laid on', PROJECTION_NAMES),
    ...(placed
      ? [
          choice(`${at}/within`, 'Moves with', { part: 'The part', world: 'Nothing' }),
          field(`${at}/position`, 'Middle'),
          field(`${at}/orientation`, 'Turned by'),
          field(`${at}/size`, 'Size'),
        ]
      : []),
    ...(placed && projection !== 'through' && projection !== 'box'
      ? [choice(`${at}/sides`, 'Seen', { both: 'On all sides', front: 'On the front alone' })]
      : []),
    ...(projection === 'box' ? [field(`${at}/softness`, 'Soft corners')] : []),
    ...(source.kind === 'noise'
      ? []
      : [
          choice(`${at}/tiling`, 'Beyond its edge', {
            repeat: 'Again',
            mirror: 'Mirrored',
            once: 'Nothing',
            stretch: 'Its edge',
          }),
        ]),
    field(`${at}/repeatU`, 'Times across'),
    field(`${at}/repeatV`, 'Times down'),
    field(`${at}/turn`, 'Turned'),
    field(`${at}/offsetU`, 'Moved across'),
    field(`${at}/offsetV`, 'Moved down'),
  ];
}

/** What 0 and 1 become, in words that fit the parameter. */
const ENDS: Partial<Record<MapSlot, [low: string, high: string, unit: string]>> = {
  height: ['Lowest', 'Highest', 'mm'],
};

function valueFields(at: string, { slot, source, shades }: FinishMap): FieldSpec[] {
  const colored = isColorSlot(slot);
  const [low, high, unit] = ENDS[slot] ?? ['Dark becomes', 'Bright becomes', ''];
  return [
    ...(pictureOfSource(source) !== null
      ? [
          choice(`${at}/coding`, 'Holds', { srgb: 'Colours', linear: 'Numbers' }),
          ...(colored
            ? []
            : [
                choice(`${at}/channel`, 'Taken from', {
                  red: 'Red',
                  green: 'Green',
                  blue: 'Blue',
                  alpha: 'Opacity',
                  brightness: 'Brightness',
                }),
              ]),
        ]
      : []),
    field(`${at}/dark`, 'Dark from'),
    field(`${at}/bright`, 'Bright from'),
    field(`${at}/curve`, 'Curve'),
    field(`${at}/inverted`, 'Inverted'),
    ...(shades ? [] : [field(`${at}/low`, low, { unit }), field(`${at}/high`, high, { unit })]),
  ];
}
