import type { ProjectDocument } from '../document';

/** Takes away what shots do to things that are being deleted: their moves, keys and changes would wait for something that never comes. */
export function forgetTargets(
  draft: ProjectDocument,
  collection: 'nodes' | 'lights' | 'cameras' | 'finishes',
  ids: readonly string[],
): void {
  const gone = new Set(ids.map((id) => `${collection}/${id}`));
  const leads = (path: string) => gone.has(path.split('/', 2).join('/'));
  for (const shot of Object.values(draft.shots)) {
    for (const [id, { target }] of Object.entries(shot.moves)) if (leads(target)) delete shot.moves[id];
    for (const path of Object.keys(shot.tracks)) if (leads(path)) delete shot.tracks[path];
    for (const path of Object.keys(shot.changes)) if (leads(path)) delete shot.changes[path];
    if (collection === 'cameras' && shot.camera !== null && ids.includes(shot.camera)) shot.camera = null;
  }
}
