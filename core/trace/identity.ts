import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { meshKey, type Finish } from '../document';
import type { FrameState } from '../motion';
import type { RenderSettings } from './settings';
import { finishMaps } from './textures';

/** Raised whenever the tracer's pictures change, so that old frames are not taken for new ones. */
export const TRACER_VERSION = 6;

/**
 * Name of a frame by what is in it: hash of all that the tracer reads. Names of things, their order in lists and what is
 * switched off do not count. Two frames with the same name are the same picture, byte for byte.
 * @param hashes content hashes of pictures and surroundings by asset id
 */
export function frameIdentity(
  state: FrameState,
  settings: RenderSettings,
  hashes: Readonly<Record<string, string>>,
): string {
  const named = settings.layers.some((layer) => layer === 'mattes' || layer === 'lights');
  const seenOf = (moment: FrameState) => ({
    parts: moment.parts.map(({ mesh, transform, finish, glow, name }) => [
      meshKey(mesh),
      transform,
      finish,
      glow,
      named ? name : '',
    ]),
    finishes: Object.keys(moment.finishes)
      .sort()
      .map((id) => [id, seenFinish(moment.finishes[id]!, named, hashes)]),
    lights: moment.lights.map((light) =>
      without(light, named ? ['id', 'order', 'solo', 'parent'] : ['name', 'id', 'order', 'solo', 'parent']),
    ),
    camera: moment.camera && without(moment.camera, ['name', 'id', 'order', 'locked', 'parent', 'focusOn']),
    set: {
      ...moment.set,
      surroundings: { ...moment.set.surroundings, picture: skyHash(moment, hashes) },
      behind: { ...moment.set.behind, ...behindHashes(moment, hashes) },
    },
  });
  // Of the frame that follows only places are read: what changes its light there does not make this one another picture.
  const placesOf = (moment: FrameState) => [
    moment.parts.map(({ transform }) => transform),
    moment.camera?.position,
    moment.camera?.target,
    moment.camera?.roll,
    moment.camera?.focalLength,
  ];
  const shutter = state.shutter ?? [];
  const seen = {
    version: TRACER_VERSION,
    ...seenOf(state),
    shutter: shutter.flatMap(({ from, middle, to }, k) =>
      [from, middle, ...(k === shutter.length - 1 ? [to] : [])].map(seenOf),
    ),
    next: state.next && settings.layers.includes('motion') ? placesOf(state.next) : null,
    sources: settings.layers.includes('lights')
      ? [state.sources?.lamps.map(({ name, group }) => [name, group]), state.sources?.finishes]
      : null,
    settings,
  };
  return bytesToHex(sha256(utf8ToBytes(canonicalJson(seen))));
}

function skyHash({ set: { surroundings } }: FrameState, hashes: Readonly<Record<string, string>>): string | null {
  const { kind, picture } = surroundings;
  return kind === 'picture' && picture ? (hashes[picture] ?? null) : null;
}

function behindHashes({ set: { behind } }: FrameState, hashes: Readonly<Record<string, string>>) {
  const hashOf = (asset: string | null, kind: string) =>
    behind.kind === kind && asset ? (hashes[asset] ?? null) : null;
  return { picture: hashOf(behind.picture, 'picture'), plate: hashOf(behind.plate, 'plate') };
}

function seenFinish(finish: Finish, named: boolean, hashes: Readonly<Record<string, string>>): object {
  const maps = finishMaps(finish).map(({ slot, map }) => [slot, { ...map, picture: hashes[map.picture] ?? null }]);
  return { ...without(finish, named ? ['id'] : ['name', 'id']), maps: maps.length > 0 ? maps : null };
}

function without<T extends object>(entity: T, names: string[]): Partial<T> {
  return Object.fromEntries(Object.entries(entity).filter(([name]) => !names.includes(name))) as Partial<T>;
}

/** JSON with sorted names and numbers rounded to what a 32-bit float keeps, so that 1/3 turns reached two ways are one frame. */
function canonicalJson(value: unknown): string {
  if (typeof value === 'number') return String(Math.fround(Math.abs(value) < 1e-9 ? 0 : Number(value.toPrecision(9))));
  if (Array.isArray(value)) return `[${value.map(canonicalJson).join()}]`;
  if (value === undefined) return 'null';
  if (typeof value === 'object' && value !== null) {
    const entries = Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1));
    return `{${entries.map(([name, part]) => `${JSON.stringify(name)}:${canonicalJson(part)}`).join()}}`;
  }
  return JSON.stringify(value);
}

/** A seed of its own for every picture: noise that stood still over moving things would look like dirt on the lens. */
export const seedOf = (identity: string): number => Number.parseInt(identity.slice(0, 8), 16) & 0x7fffffff;
