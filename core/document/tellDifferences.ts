import { propertyAt } from './properties';
import { sayNumber } from './sayNumber';
import type { ProjectDocument } from './schema';

/** One thing that two states of a project do not have in common. */
export interface Difference {
  /** The thing, by its name. */
  thing: string;
  /** What of it; empty where the thing itself is only in one of them. */
  what: string;
  /** In words; null where there is none. */
  before: string | null;
  after: string | null;
}

/** Collections of things with names. */
const THINGS = ['nodes', 'finishes', 'lights', 'cameras', 'colourways'] as const;
/** What changes no picture. */
const UNSEEN = new Set([
  'id',
  'order',
  'name',
  'markers',
  'framed',
  'included',
  'range',
  'render',
  'look',
  'schemaVersion',
]);
/** Most that are told. */
const MOST = 500;

type Json = Readonly<Record<string, unknown>>;
const isRecord = (value: unknown): value is Json => typeof value === 'object' && value !== null && !Array.isArray(value); // prettier-ignore
const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/** What pictures of a shot differ by between two states of a project, in words. */
export function tellDifferences(before: ProjectDocument, after: ProjectDocument, shot: string): Difference[] {
  const found: Difference[] = [];
  const names = nameOf(before, after);
  const tell = (thing: string, what: string, a: string | null, b: string | null) => {
    if (found.length < MOST) found.push({ thing, what, before: a, after: b });
  };
  /** Goes down to where values differ. */
  const compare = (thing: string, path: string, a: unknown, b: unknown, words: string[]) => {
    if (same(a, b)) return;
    if (isRecord(a) && isRecord(b) && !propertyAt(path)) {
      for (const name of new Set([...Object.keys(a), ...Object.keys(b)]))
        if (!UNSEEN.has(name)) compare(thing, `${path}/${name}`, a[name], b[name], [...words, sayName(name, a, b)]);
      return;
    }
    tell(thing, words.filter(Boolean).join(', '), sayValue(path, a), sayValue(path, b));
  };
  for (const room of THINGS) {
    const [a, b] = [before[room], after[room]] as [Json, Json];
    for (const id of new Set([...Object.keys(a), ...Object.keys(b)])) {
      const name = names(`${room}/${id}`);
      if (!a[id]) tell(name, '', null, 'added');
      else if (!b[id]) tell(name, '', 'there', null);
      else compare(name, `${room}/${id}`, a[id], b[id], []);
    }
  }
  compare('Set', 'set', before.set, after.set, []);
  compare('Picture', 'picture', before.picture, after.picture, []);
  compare('Film', 'frameRate', before.frameRate, after.frameRate, ['frame rate']);
  const [a, b] = [before.shots[shot], after.shots[shot]];
  if (!a || !b) {
    if (a ?? b) tell((a ?? b)!.name, '', a ? 'there' : null, b ? 'added' : null);
    return found;
  }
  const { tracks, changes, moves, ...own } = a;
  const { tracks: newTracks, changes: newChanges, moves: newMoves, ...newOwn } = b;
  compare(b.name, `shots/${shot}`, own, newOwn, []);
  for (const path of new Set([...Object.keys(changes), ...Object.keys(newChanges)]))
    if (!same(changes[path], newChanges[path]))
      tell(
        names(path),
        `${lastOf(path)} in this shot`,
        sayValue(path, changes[path]),
        sayValue(path, newChanges[path]),
      );
  for (const path of new Set([...Object.keys(tracks), ...Object.keys(newTracks)]))
    if (!same(tracks[path], newTracks[path]))
      tell(names(path), `keys of ${lastOf(path)}`, sayKeys(tracks[path]), sayKeys(newTracks[path]));
  for (const id of new Set([...Object.keys(moves), ...Object.keys(newMoves)])) {
    const [was, is] = [moves[id], newMoves[id]];
    if (!was || !is) tell((was ?? is)!.name, '', was ? 'there' : null, is ? 'added' : null);
    else compare(is.name, `shots/${shot}/moves/${id}`, was, is, []);
  }
  return found;
}

/** Names of things by the paths that lead to them or into them; the newer name where it changed. */
const nameOf =
  (before: ProjectDocument, after: ProjectDocument) =>
  (path: string): string => {
    const [room, id] = path.split('/') as [string, string?];
    const entityIn = (document: ProjectDocument) => ((document as unknown as Record<string, Json>)[room]?.[id ?? ''] ?? null) as { name?: string } | null; // prettier-ignore
    return entityIn(after)?.name ?? entityIn(before)?.name ?? sayWord(room);
  };

/** A name of a property in words: `focalLength` is "Focal length". */
const sayWord = (name: string): string => {
  const words = name.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase();
  return words.charAt(0).toUpperCase() + words.slice(1);
};
const lastOf = (path: string): string => sayWord(path.split('/').at(-1)!).toLowerCase();

/** A step on the way to a value: the name of what has one, nothing for what is only an id, else its own in words. */
function sayName(step: string, a: Json, b: Json): string {
  const [was, is] = [a[step], b[step]];
  const entity = isRecord(is) ? is : isRecord(was) ? was : null;
  if (entity && typeof entity['name'] === 'string') return entity['name'];
  return /[0-9_-]/.test(step) && entity ? '' : sayWord(step).toLowerCase();
}

const sayKeys = (keys: readonly unknown[] | undefined): string | null => keys ? `${keys.length} ${keys.length === 1 ? 'key' : 'keys'}` : null; // prettier-ignore

function sayValue(path: string, value: unknown): string | null {
  if (value === undefined || value === null) return null;
  const property = propertyAt(path);
  const { scale = 1, unit = '', kind } = property ?? {};
  const number = (each: number) => sayNumber(each / scale);
  if (typeof value === 'boolean') return value ? 'on' : 'off';
  if (typeof value === 'number') return `${number(value)}${unit === '' || unit === '°' ? unit : ` ${unit}`}`;
  if (typeof value === 'string') return value === '' ? 'none' : value;
  if (Array.isArray(value) && value.length <= 4 && value.every((each) => typeof each === 'number'))
    return `${value.map(number).join(', ')}${unit && kind !== 'color' ? ` ${unit}` : ''}`;
  return Array.isArray(value) ? `${value.length} entries` : 'something';
}
