import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { FrameState } from '../motion';
import type { RenderSettings } from './settings';

/** Raised whenever the tracer's pictures change, so that old frames are not taken for new ones. */
export const TRACER_VERSION = 2;

/**
 * Name of a frame by what is in it: hash of all that the tracer reads. Names of things, their order in lists and what is
 * switched off do not count. Two frames with the same name are the same picture, byte for byte.
 * @param pictureHash content hash of the surroundings picture in use, null for a plain colour
 */
export function frameIdentity(state: FrameState, settings: RenderSettings, pictureHash: string | null): string {
  const { set } = state;
  const seen = {
    version: TRACER_VERSION,
    parts: state.parts.map(({ mesh, transform, finish, glow }) => [mesh.asset, mesh.index, transform, finish, glow]),
    finishes: Object.keys(state.finishes)
      .sort()
      .map((id) => [id, without(state.finishes[id]!, ['name', 'id'])]),
    lights: state.lights.map((light) => without(light, ['name', 'id', 'order', 'solo'])),
    camera: state.camera && without(state.camera, ['name', 'id', 'order', 'locked']),
    set: { ...set, surroundings: { ...set.surroundings, picture: pictureHash } },
    settings,
  };
  return bytesToHex(sha256(utf8ToBytes(canonicalJson(seen))));
}

function without<T extends object>(entity: T, names: string[]): Partial<T> {
  return Object.fromEntries(Object.entries(entity).filter(([name]) => !names.includes(name))) as Partial<T>;
}

/** JSON with sorted names and numbers rounded to what a 32-bit float keeps, so that 1/3 turns reached two ways are one frame. */
function canonicalJson(value: unknown): string {
  if (typeof value === 'number') return String(Math.fround(Math.abs(value) < 1e-9 ? 0 : Number(value.toPrecision(9))));
  if (Array.isArray(value)) return `[${value.map(canonicalJson).join()}]`;
  if (typeof value === 'object' && value !== null) {
    const entries = Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1));
    return `{${entries.map(([name, part]) => `${JSON.stringify(name)}:${canonicalJson(part)}`).join()}}`;
  }
  return JSON.stringify(value);
}
