import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { ProjectDocument } from './schema';

/** Digests of what has been looked at: edits share what they leave alone. */
const known = new WeakMap<object, string>();

/**
 * Name of all that pictures of a shot can show: two states of a document with the same name give the same frames. Names of things
 * and their order in lists do not count, nor does the look.
 * @returns 64 hexadecimal digits; empty where the shot is gone
 */
export function sceneDigest(document: ProjectDocument, shot: string): string {
  const own = document.shots[shot];
  if (!own) return '';
  const { nodes, finishes, colourways, lights, cameras, assets, set, frameRate } = document;
  const things = [nodes, finishes, lights, cameras, assets].map(ofAll);
  const colourway = own.colourway ?? document.colourway;
  const wears = colourway ? (colourways[colourway]?.wears ?? null) : null;
  return digest([things, of(set), of(own), own.picture ?? document.picture, frameRate, wears]);
}

/** Names, order in lists, and what only helps the user. */
const UNSEEN = new Set(['name', 'order', 'markers', 'framed', 'included', 'look']);

/** Shots have the same things, and most edits leave most of them alone. */
function ofAll(record: Readonly<Record<string, object>>): string {
  let found = known.get(record);
  if (found === undefined) {
    const ids = Object.keys(record).sort();
    found = digest(ids.map((id) => [id, of(record[id]!)]));
    known.set(record, found);
  }
  return found;
}

function of(thing: object): string {
  let found = known.get(thing);
  if (found === undefined) {
    found = digest(Object.entries(thing).filter(([property]) => !UNSEEN.has(property)));
    known.set(thing, found);
  }
  return found;
}

const digest = (value: unknown): string => bytesToHex(sha256(utf8ToBytes(JSON.stringify(value))));
