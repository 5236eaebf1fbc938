import { applyDocumentPatches, type DocumentPatch } from './edits';
import type { Key, ProjectDocument } from './schema';

/** Edits of one window that meet another's. */
export interface Meeting {
  /** What both began from; null where it is not known any more. */
  base: ProjectDocument | null;
  /** What the other window made of it. */
  theirs: ProjectDocument;
  /** What this window made of the base. */
  patches: readonly DocumentPatch[];
}

export interface Merged {
  document: ProjectDocument;
  /** From theirs to the document. */
  patches: DocumentPatch[];
  /** How many of this window's changes belonged to what is not there any more. */
  lost: number;
}

/**
 * Lays this window's edits over what another one made of the same state. Keys are told by their frames, never by where they stand in
 * their list: the other window may have added some before them.
 */
export function mergeEdits({ base, theirs, patches }: Meeting): Merged {
  const ofKeys = (patch: DocumentPatch) =>
    patch.path[0] === 'shots' && patch.path[2] === 'tracks' && patch.path.length > 3;
  // Without what it was made on, a track can only be told as a whole.
  const tellable = (patch: DocumentPatch) => base !== null || !ofKeys(patch) || patch.path.length === 4;
  const merged = lay(
    theirs,
    patches.filter((patch) => tellable(patch) && !(base && ofKeys(patch))),
  );
  let lost = patches.length - merged.patches.length;
  if (!base) return { ...merged, lost };

  const mine = lay(base, patches).document;
  const touched = new Map(
    patches
      .filter(ofKeys)
      .map(({ path: [, shot, , property] }) => [`${shot} ${property}`, [String(shot), String(property)] as const]),
  );
  lost -= patches.filter(ofKeys).length;
  const tracks: DocumentPatch[] = [];
  for (const [shot, property] of touched.values()) {
    const there = merged.document.shots[shot]?.tracks;
    if (!there) {
      lost++;
      continue;
    }
    const keysOf = (document: ProjectDocument) => document.shots[shot]?.tracks[property] ?? [];
    const keys = mergeKeys(keysOf(base), keysOf(mine), keysOf(theirs));
    const path = ['shots', shot, 'tracks', property];
    if (keys.length > 0) tracks.push({ op: property in there ? 'replace' : 'add', path, value: keys });
    else if (property in there) tracks.push({ op: 'remove', path });
  }
  const { document, patches: laid } = lay(merged.document, tracks);
  return { document, patches: [...merged.patches, ...laid], lost };
}

/** Lays on what has a place in the document. */
function lay(document: ProjectDocument, patches: readonly DocumentPatch[]): Omit<Merged, 'lost'> {
  const laid: DocumentPatch[] = [];
  for (const patch of patches) {
    try {
      document = applyDocumentPatches(document, [patch]);
      laid.push(patch);
    } catch {
      // What it belongs to is gone; the caller counts it.
    }
  }
  return { document, patches: laid };
}

/** Keys by frame: what this window changed, added or took away counts, of all others what the other window has. */
function mergeKeys(base: readonly Key[], mine: readonly Key[], theirs: readonly Key[]): Key[] {
  const byFrame = (keys: readonly Key[]) => new Map(keys.map((key) => [key.frame, key]));
  const [before, own, other] = [byFrame(base), byFrame(mine), byFrame(theirs)];
  const frames = new Set([...own.keys(), ...other.keys()]);
  const same = (a: Key | undefined, b: Key | undefined) => JSON.stringify(a) === JSON.stringify(b);
  return [...frames]
    .sort((a, b) => a - b)
    .flatMap((frame) => {
      const untouched = same(before.get(frame), own.get(frame));
      return (untouched ? other.get(frame) : own.get(frame)) ?? [];
    });
}
