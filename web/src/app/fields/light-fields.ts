import {
  childrenByParent,
  newTrack,
  type TRACK,
  type Camera,
  type Light,
  type ProjectDocument,
  type Vector3,
} from '@zippy/core/document';
import { add, length, subtract } from '@zippy/core/geometry';
import { lampKind } from '@zippy/core/optics';
import {
  carryAimed,
  placedAimed,
  restingState,
  unplaceAimed,
  worldTransforms,
  type SceneState,
} from '@zippy/core/scene';
import { choice, field, type FieldGroup, type FieldSpec } from '../kinds/field';
import { LAMP_VIEWS } from '../kinds/lamps';

/** What power is told in. */
export const UNITS = { lumen: 'lumen', watt: 'watt', nit: 'nit', candela: 'candela', lux: 'lux' };
const TRACKS = { ring: 'All round', arc: 'To and fro round it', rail: 'To and fro, straight' };

/** Fields of a lamp, grouped as the card shows them. */
export function lightFields(document: ProjectDocument, id: string): FieldGroup[] {
  const at = `lights/${id}`;
  const light = document.lights[id];
  const kind = light?.kind ?? 'panel';
  const units = [...(lampKind({ kind }).units ?? (['lumen', 'watt', 'nit', 'candela'] as const))];
  return [
    {
      title: 'Light',
      fields: [
        field(`${at}/on`, 'On'),
        field(`${at}/power`, 'Power'),
        choice(`${at}/unit`, 'Unit', UNITS, units),
        field(`${at}/kelvin`, 'Colour temp.'),
        field(`${at}/tint`, 'Tint'),
        field(`${at}/castsShadows`, 'Shadows'),
        choice(`${at}/reaches`, 'Lights', {
          all: 'All parts',
          only: 'Chosen parts alone',
          except: 'All but chosen parts',
        }),
        field(`${at}/visibleToCamera`, 'In picture'),
        field(`${at}/group`, 'Light layer'),
      ],
    },
    {
      title: 'Size and place',
      fields: [
        ...LAMP_VIEWS[kind].fields((key, label) => field(`${at}/${key}`, label)),
        ...(light?.track ? [] : [...aboutTarget(id), field(`${at}/position`, 'Position')]),
        ...(light?.aimOn ? [] : [field(`${at}/target`, 'Aimed at')]),
        staysAimed(document, 'lights', id),
        hangsOn(document, 'lights', id),
      ],
    },
    { title: 'Track', fields: trackFields(document, id) },
  ];
}

/** Nodes to choose one of, as they hang under each other. */
export function nodeOptions(document: ProjectDocument, none: string): NonNullable<FieldSpec['options']> {
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

/** What carries a light or camera; it stays where it is in the world when that changes. */
export function hangsOn(document: ProjectDocument, collection: 'lights' | 'cameras', id: string): FieldSpec {
  return {
    path: `${collection}/${id}/parent`,
    label: 'Hangs on',
    kind: 'choice',
    options: nodeOptions(document, 'Nothing'),
    write: (draft, value) => carryAimed(draft, [id], value as string | null),
  };
}

/** What a lamp or camera stays aimed at; without it, it is aimed at where that is now. */
export const staysAimed = (document: ProjectDocument, collection: 'lights' | 'cameras', id: string): FieldSpec => ({
  path: `${collection}/${id}/aimOn/node`,
  label: 'Stays aimed at',
  kind: 'choice',
  options: nodeOptions(document, 'Nothing'),
  write: (draft, value) => {
    const [aimed, node] = [draft[collection][id]!, draft.nodes[String(value)]];
    if (!node) aimed.target = atRest(draft, collection, id).target;
    aimed.aimOn = node ? { node: node.id, point: [...node.pivot] } : null;
  },
});

/** What stands in the world as it stands in the space of what carries it. */
function inCarrier<T extends Light | Camera>(state: SceneState, placed: T): T {
  const carrier = placed.parent === null ? undefined : worldTransforms(state, [placed.parent]).get(placed.parent);
  return carrier ? unplaceAimed(placed, carrier) : placed;
}

/** A light or camera where it stands and is aimed at rest, in the space of what carries it. */
function atRest(draft: ProjectDocument, collection: 'lights' | 'cameras', id: string): Light | Camera {
  const state = restingState(draft);
  return inCarrier<Light | Camera>(state, placedAimed(state)[collection][id]!);
}

/** Where it stands as seen from what it is aimed at: moved round it, up and down about it, and to and from it. */
function aboutTarget(id: string): FieldSpec[] {
  const position = field(`lights/${id}/position`, 'Position');
  const polar = (state: SceneState) => {
    const light = placedAimed(state).lights[id];
    const [x, y, z] = light ? subtract(light.position, light.target) : [0, 0, 1];
    return { round: Math.atan2(x, z), above: Math.atan2(y, Math.hypot(x, z)), away: length([x, y, z]) };
  };
  const part = (name: 'round' | 'above' | 'away', label: string, over: Partial<FieldSpec>): FieldSpec => ({
    path: `lights/${id}/about/${name}`,
    label,
    kind: 'number',
    step: 1,
    derived: {
      path: `lights/${id}/position`,
      of: (state) => polar(state)[name],
      to: (state, value) => {
        const { round, above, away } = Object.assign(polar(state), { [name]: Number(value) });
        const flat = away * Math.cos(above);
        const placed = placedAimed(state).lights[id]!;
        const there = add(placed.target, [flat * Math.sin(round), away * Math.sin(above), flat * Math.cos(round)]);
        return position.bring!(inCarrier(state, { ...placed, position: there as Vector3 }).position);
      },
    },
    ...over,
  });
  const degrees = { unit: '°', scale: Math.PI / 180 };
  return [
    part('round', 'Round it', {
      ...degrees,
      min: -180,
      max: 180,
      hint: 'From the front to the right, at the same distance',
    }),
    part('above', 'Above it', { ...degrees, min: -89.9, max: 89.9, hint: 'Up and down, at the same distance' }),
    part('away', 'Away from it', { unit: 'mm', min: 0.1, max: 1e6 }),
  ];
}

/** On what it runs. A new track begins where the lamp stands. */
function trackFields(document: ProjectDocument, id: string): FieldSpec[] {
  const at = `lights/${id}/track`;
  const track = document.lights[id]?.track;
  const own = (name: keyof typeof TRACK, label: string) => field(`${at}/${name}`, label);
  const onto: FieldSpec = {
    path: `${at}/kind`,
    label: 'Runs',
    kind: 'choice',
    still: true,
    options: [
      { value: '', label: 'Stands still' },
      ...Object.entries(TRACKS).map(([value, label]) => ({ value, label })),
    ],
    write: (draft, value) => putOnTrack(draft, id, value as keyof typeof TRACKS | null),
  };
  if (!track) return [onto];
  return [
    onto,
    own('speed', track.kind === 'ring' ? 'Turns' : 'There and back'),
    choice(`${at}/pace`, 'In each', { second: 'Second', shot: 'Shot' }),
    own('radius', track.kind === 'rail' ? 'Before it' : 'Radius'),
    own('height', 'Height'),
    own('tilt', 'Leans over'),
    own('from', track.kind === 'ring' ? 'Begins at' : 'Middle at'),
    ...(track.kind === 'arc' ? [own('reach', 'From end to end')] : []),
    ...(track.kind === 'rail' ? [own('length', 'From end to end')] : []),
    ...(track.kind === 'ring' ? [] : [own('eased', 'Slows at the ends')]),
    own('count', 'Lamps on it'),
  ];
}

function putOnTrack(draft: ProjectDocument, id: string, kind: keyof typeof TRACKS | null): void {
  const light = draft.lights[id]!;
  const { position, target } = placedAimed(restingState(draft)).lights[id]!;
  if (kind === null) {
    light.position = atRest(draft, 'lights', id).position;
    light.track = null;
    return;
  }
  const [x, y, z] = subtract(position, target);
  const away = Math.hypot(x, z);
  light.track = light.track
    ? { ...light.track, kind }
    : newTrack({ kind, radius: away, length: away, height: y, from: Math.atan2(x, z) });
}
