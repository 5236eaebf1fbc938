import { copyOf, inOrder, type ProjectDocument, type RenderWay, type Shot } from '@zippy/core/document';
import { rangeOf } from '@zippy/core/motion';
import { RENDER_PRESETS, sameWay } from '@zippy/core/trace';
import { choice, field, type FieldGroup, type FieldSpec } from '../kinds/field';
import { ownPictureFields, pictureSizeFields } from './picture-size';

/** Where the settings stand by which a shot is rendered. */
export type RenderPlace = 'render' | `shots/${string}/render`;
export const renderPlace = (shot: Shot | null): RenderPlace => (shot?.render ? `shots/${shot.id}/render` : 'render');

/** How the present shot is rendered, as the project's or its own settings say. */
export function renderGroups(document: ProjectDocument, shot: Shot): FieldGroup[] {
  const at = renderPlace(shot);
  return [
    {
      title: 'Rendered',
      fields: [
        presetField(document, shot),
        choice(`${at}/share`, 'Size', { full: 'Full', half: 'Half', quarter: 'Quarter' }),
        field(`${at}/samples`, 'Samples'),
        { ...field(`${at}/step`, 'One frame of'), exact: true },
        field(`${at}/motionBlur`, 'Motion blur'),
        ...rangeFields(shot),
        ownRenderField(shot.id),
      ],
    },
    {
      title: 'Picture',
      fields: [...(shot.picture ? [] : pictureSizeFields('picture')), ...ownPictureFields(document, shot.id)],
    },
  ];
}

/** What is seldom changed. */
export const patientFields = (at: RenderPlace): FieldSpec[] => [
  field(`${at}/noiseTarget`, 'Enough at noise'),
  field(`${at}/secondsPerFrame`, 'Longest per frame'),
  field(`${at}/depth`, 'Bounces'),
  field(`${at}/speckLimit`, 'Speck limit'),
  field(`${at}/seed`, 'Seed'),
];

const wayIn = (document: ProjectDocument, shot: string): RenderWay => document.shots[shot]?.render ?? document.render;

function presetField(document: ProjectDocument, { id }: Shot): FieldSpec {
  const kept = inOrder(document.presets);
  return {
    path: `shots/${id}/preset`,
    label: 'Preset',
    kind: 'choice',
    placeholder: 'Changed',
    options: [
      ...RENDER_PRESETS.map(({ id, name }) => ({ value: id, label: name })),
      ...kept.map(({ id, name }) => ({ value: id, label: name })),
    ],
    read: (document) => presetOf(document, wayIn(document, id))?.id ?? '',
    write: (draft, value) => {
      const way = RENDER_PRESETS.find((each) => each.id === value)?.way ?? draft.presets[String(value)];
      if (way) takeOver(wayIn(draft, id), way);
    },
  };
}

/** The preset that says what settings say, if any; one that the user keeps comes first. */
export function presetOf(document: ProjectDocument, way: RenderWay): { id: string; name: string } | null {
  const kept = inOrder(document.presets).find((preset) => sameWay(way, preset));
  return kept ?? RENDER_PRESETS.find((preset) => sameWay(way, preset.way)) ?? null;
}

/** Sets of a way of rendering what another says. */
function takeOver(way: RenderWay, from: Partial<RenderWay>): void {
  for (const name of Object.keys(way) as (keyof RenderWay)[])
    if (name in from) Object.assign(way, { [name]: copyOf(from[name]) });
}

function rangeFields(shot: Shot): FieldSpec[] {
  const end = (which: 0 | 1, label: string): FieldSpec => ({
    path: `shots/${shot.id}/range/${which}`,
    label,
    kind: 'number',
    still: true,
    exact: true,
    min: 1,
    max: shot.length,
    read: (document) => rangeOf(document.shots[shot.id] ?? shot)[which],
    write: (draft, value) => {
      const own = draft.shots[shot.id];
      if (!own) return;
      const at = Math.min(own.length, Math.max(1, Math.round(Number(value))));
      const [first, last] = rangeOf(own);
      const range: [number, number] = which === 0 ? [at, Math.max(at, last)] : [Math.min(first, at), at];
      // All frames stay all frames when the shot grows.
      own.range = range[0] === 1 && range[1] === own.length ? null : range;
    },
  });
  return [end(0, 'First frame'), end(1, 'Last frame')];
}

const ownRenderField = (shot: string): FieldSpec => ({
  path: `shots/${shot}/render`,
  label: 'Own settings',
  kind: 'switch',
  still: true,
  read: (document) => Boolean(document.shots[shot]?.render),
  write: (draft, value) => {
    const own = draft.shots[shot];
    if (own) own.render = value === true ? copyOf(wayIn(draft, shot)) : null;
  },
});

/** A look of a shot's own begins as the project's. */
export const ownLookField = (shot: string): FieldSpec => ({
  path: `shots/${shot}/look`,
  label: 'Own look',
  kind: 'switch',
  still: true,
  hint: 'This shot is developed by a look of its own, and so are its next takes.',
  read: (document) => Boolean(document.shots[shot]?.look),
  write: (draft, value) => {
    const own = draft.shots[shot];
    if (own) own.look = value === true ? copyOf(draft.look) : null;
  },
});
