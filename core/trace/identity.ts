import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import {
  AIR,
  BEHIND,
  CAMERA,
  FINISH,
  FLOOR,
  GRADIENT,
  LIGHT,
  MAP,
  meshKey,
  SKY,
  SURROUNDINGS,
  type Finish,
  type FinishMap,
  type Light,
  type StudioSet,
  type Table,
} from '../document';
import { aboutSource } from '../optics';
import type { FrameState } from '../motion';
import { defaultRenderSettings, type RenderSettings } from './settings';
import { lightLinks, namedFlags, namedLink } from './links';
import { finishMaps } from './maps';

/** Raised whenever the tracer's pictures change, or the default of a property does, so that old frames are not taken for new ones. */
const TRACER_VERSION = 8;

/** What says which frames there are and what their state is: it is seen in them. */
const OF_THE_TAKE: Partial<RenderSettings> = { step: 1, motionBlur: true };

/**
 * Name of a frame by what is in it: hash of what the tracer reads, as the tables of properties tell it. What is as it is when nothing
 * else is said is left out, so that a new property renames no frame that does not use it. Names of things, their order in lists and
 * what is switched off do not count. Two frames with the same name are the same picture, byte for byte.
 * @param hashes content hashes of pictures and surroundings by asset id
 */
export function frameIdentity(
  state: FrameState,
  settings: RenderSettings,
  hashes: Readonly<Record<string, string>>,
): string {
  const named = settings.layers.some((layer) => layer === 'mattes' || layer === 'lights');
  // Chance by part goes by the part's name.
  const byPart = Object.values(state.finishes).some((finish) =>
    finishMaps(finish).some(({ source }) => source.kind === 'partRandom'),
  );
  const seenOf = (moment: FrameState) => {
    const links = lightLinks(moment.lights);
    return {
      parts: moment.parts.map((part) => {
        const { mesh, transform, finish, glow, name, seen } = part;
        const flags = namedFlags(seen, links.on(part));
        return [meshKey(mesh), transform, finish, glow, named || byPart ? name : '', ...flags];
      }),
      finishes: Object.keys(moment.finishes)
        .sort()
        .map((id) => [id, seenFinish(moment.finishes[id]!, named, hashes)]),
      lights: moment.lights.map((light) => ({
        ...seenLight(light, settings.layers.includes('lights')),
        ...(links.of(light) === 0 ? {} : { links: namedLink(links.of(light)) }),
      })),
      camera: moment.camera && seen(moment.camera, CAMERA),
      set: seenSet(moment, hashes),
    };
  };
  // Of the frame that follows only places are read: what changes its light there does not make this one another picture.
  const placesOf = (moment: FrameState) => [
    moment.parts.map(({ transform }) => transform),
    moment.camera?.position,
    moment.camera?.target,
    moment.camera?.roll,
    moment.camera?.focalLength,
  ];
  const shutter = state.shutter ?? [];
  const whole = {
    version: TRACER_VERSION,
    ...seenOf(state),
    shutter: shutter.flatMap(({ from, middle, to }, k) =>
      [from, middle, ...(k === shutter.length - 1 ? [to] : [])].map(seenOf),
    ),
    next: state.next && settings.layers.includes('motion') ? placesOf(state.next) : null,
    sources: settings.layers.includes('lights')
      ? [state.sources?.lamps.map(({ name, group }) => [name, group]), state.sources?.finishes]
      : null,
    settings: differing({ ...settings, ...OF_THE_TAKE }, { ...defaultRenderSettings(), ...OF_THE_TAKE }),
  };
  return bytesToHex(sha256(utf8ToBytes(canonicalJson(whole))));
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

function seenSet(moment: FrameState, hashes: Readonly<Record<string, string>>): object {
  const { floor, surroundings, air, behind }: StudioSet = moment.set;
  return {
    floor: floor.kind === 'none' ? null : seen(floor, FLOOR),
    surroundings: {
      ...seen(surroundings, SURROUNDINGS),
      picture: skyHash(moment, hashes),
      gradient: surroundings.kind === 'gradient' ? seen(surroundings.gradient, GRADIENT) : null,
      sky: surroundings.kind === 'sky' ? seen(surroundings.sky, SKY) : null,
    },
    air: air.density > 0 ? seen(air, AIR) : null,
    behind: { ...seen(behind, BEHIND), ...behindHashes(moment, hashes) },
  };
}

function seenLight(light: Light, layers: boolean): object {
  const { group, ...own } = seen(light, LIGHT) as Partial<Light>;
  return { kind: light.kind, ...own, layer: layers ? [light.name, group ?? ''] : null };
}

function seenFinish(finish: Finish, named: boolean, hashes: Readonly<Record<string, string>>): object {
  const maps = finishMaps(finish).map((map) => [
    map.slot,
    seen(map, MAP),
    ...seenSource(map.source, hashes),
    ...(map.shades ? [map.shades] : []),
  ]);
  return { ...seen(finish, FINISH), name: named ? finish.name : null, maps: maps.length > 0 ? maps : null };
}

/** What the tracer reads of a map's source: a picture by its content alone. */
function seenSource(source: FinishMap['source'], hashes: Readonly<Record<string, string>>): unknown[] {
  const about = aboutSource(source);
  const picture = about.picture(source);
  return picture === null ? [source.kind, ...about.parameters(source)] : [hashes[picture] ?? null];
}

/** What the tracer reads of an entity, without what is as it is when nothing else is said. */
function seen(entity: object, table: Table): Record<string, unknown> {
  const own = entity as Record<string, unknown>;
  const traced = Object.entries(table).filter(
    ([name, { traced, default: standard }]) => traced && canonicalJson(own[name]) !== canonicalJson(standard),
  );
  return Object.fromEntries(traced.map(([name]) => [name, own[name]]));
}

const differing = (values: object, standard: object): object =>
  Object.fromEntries(
    Object.entries(values).filter(
      ([name, value]) => canonicalJson(value) !== canonicalJson((standard as Record<string, unknown>)[name]),
    ),
  );

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
