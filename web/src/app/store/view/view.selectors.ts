import { createSelector } from '@ngrx/store';
import { shotsInOrder, type ProjectDocument, type Shot } from '@zippy/core/document';
import type { Take } from '@zippy/core/wire';
import { projectFeature } from '../project/project.feature';
import { takesFeature } from '../takes/takes.feature';
import type { Selected } from './view.state';
import { viewFeature } from './view.feature';

const { selectDocument } = projectFeature;

/** The shot that is open, or the first where that is gone. */
export const selectShotId = createSelector(selectDocument, viewFeature.selectShot, (document, shot): string | null => {
  if (!document) return shot;
  return shot && document.shots[shot] ? shot : (shotsInOrder(document)[0]?.id ?? null);
});

export const selectShot = createSelector(
  selectDocument,
  selectShotId,
  (document, id): Shot | null => (id && document?.shots[id]) || null,
);

/** The playhead, inside the shot. */
export const selectFrame = createSelector(selectShot, viewFeature.selectFrame, (shot, frame) =>
  shot ? Math.min(shot.length, Math.max(1, frame)) : frame,
);

/** What is selected and still there; the same list as long as nothing of it is gone. */
export const selectSelection = createSelector(
  selectDocument,
  takesFeature.selectEntities,
  viewFeature.selectSelection,
  (document, takes, selection): Selected[] => {
    if (!document || selection.every((each) => exists(document, takes, each))) return selection;
    return selection.filter((each) => exists(document, takes, each));
  },
);

const nodeThatIsThere = (document: ProjectDocument | null, node: string | null): string | null =>
  node && document && !document.nodes[node] ? null : node;
export const selectIsolated = createSelector(selectDocument, viewFeature.selectIsolated, nodeThatIsThere);
export const selectLit = createSelector(selectDocument, viewFeature.selectLit, nodeThatIsThere);

function exists(document: ProjectDocument, takes: Record<string, Take | undefined>, { kind, id }: Selected): boolean {
  switch (kind) {
    case 'node':
      return id in document.nodes;
    case 'finish':
      return id in document.finishes;
    case 'light':
      return id in document.lights;
    case 'camera':
      return id in document.cameras;
    case 'shot':
      return id in document.shots;
    case 'move':
      return Object.values(document.shots).some((shot) => id in shot.moves);
    case 'take':
      return takes[id] !== undefined;
    case 'clip':
      return id in document.reel.clips;
    case 'title':
      return id in document.reel.titles;
    case 'sound':
      return id in document.reel.sounds;
  }
}
