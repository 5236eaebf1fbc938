import '@angular/compiler';
import { describe, expect, it } from 'vitest';
import { makeEdit, newDocument, type ProjectDocument } from '@zippy/core/document';
import type { Take } from '@zippy/core/wire';
import { TakesActions } from '../takes/takes.actions';
import { takesFeature } from '../takes/takes.feature';
import { ViewActions } from '../view/view.actions';
import { viewFeature } from '../view/view.feature';
import { selectFrame, selectSelection, selectShotId } from '../view/view.selectors';
import { ProjectActions } from './project.actions';
import { projectFeature } from './project.feature';

const features = [projectFeature, viewFeature, takesFeature];
type Action = Parameters<typeof projectFeature.reducer>[1];
/** All features as one store. */
type Root = { project: ReturnType<typeof projectFeature.reducer>; view: ReturnType<typeof viewFeature.reducer>; takes: ReturnType<typeof takesFeature.reducer> }; // prettier-ignore
const reduce = (state: Root, action: Action): Root =>
  Object.fromEntries(
    features.map(({ name, reducer }) => [name, (reducer as (of: unknown, by: Action) => unknown)(state[name], action)]),
  ) as Root;
const nothing = reduce({} as Root, { type: 'init' });

const document = newDocument('Reduced');
const opened = reduce(nothing, ProjectActions.opened({ project: { id: 'p', revision: 4, document } }));
const edited = (state: Root, recipe: (draft: ProjectDocument) => void): Root => {
  const made = makeEdit(state.project.document!, 'edit', recipe);
  return reduce(state, ProjectActions.edited({ document: made.document, edit: made.edit! }));
};
const light = Object.keys(document.lights)[0]!;
const shot = Object.keys(document.shots)[0]!;

describe('the store', () => {
  it('opens a project on its first shot with nothing to save or undo', () => {
    expect(opened.project).toMatchObject({ id: 'p', revision: 4, unsaved: [], saved: 'saved' });
    expect([selectShotId(opened), selectFrame(opened)]).toEqual([shot, 1]);
  });

  it('counts every edit, undo and redo as something to save', () => {
    const once = edited(opened, (draft) => void (draft.look.exposure = 1));
    expect([once.project.saved, once.project.unsaved.length]).toEqual(['waiting', 1]);
    const back = reduce(once, ProjectActions.undone());
    expect([back.project.document!.look.exposure, back.project.unsaved.length]).toEqual([0, 2]);
    expect(reduce(back, ProjectActions.redone()).project.document!.look.exposure).toBe(1);
    expect(reduce(opened, ProjectActions.undone()).project).toBe(opened.project);
  });

  it('learns of rendered frames one by one, and leaves all other takes as they are', () => {
    const take = (id: string) => ({ id, number: 1, done: [1, 4], named: 4 }) as unknown as Take;
    const before = reduce(opened, TakesActions.arrived({ takes: [take('a'), take('b')] }));
    const after = reduce(before, TakesActions.framesRendered({ take: 'a', frames: [3, 4, 2], named: 9 }));
    expect(after.takes.entities['a']).toMatchObject({ done: [1, 2, 3, 4], named: 9 });
    expect(after.takes.entities['b']).toBe(before.takes.entities['b']);
  });

  it('keeps what was edited while a save was under way', () => {
    const twice = edited(
      edited(opened, (draft) => void (draft.look.exposure = 1)),
      (draft) => void (draft.look.exposure = 2),
    );
    const saved = reduce(twice, ProjectActions.saveConfirmed({ revision: 5, count: 1 }));
    expect([saved.project.saved, saved.project.revision, saved.project.unsaved.length]).toEqual(['waiting', 5, 1]);
    expect(reduce(saved, ProjectActions.saveConfirmed({ revision: 6, count: 1 })).project.saved).toBe('saved');
  });

  it('stays offline while edits go on', () => {
    const lost = reduce(opened, ProjectActions.serverLost());
    expect(edited(lost, (draft) => void (draft.look.exposure = 1)).project.saved).toBe('offline');
  });

  it('drops from the selection what an edit removed', () => {
    const selection = [
      { kind: 'light' as const, id: light },
      { kind: 'shot' as const, id: shot },
      { kind: 'take' as const, id: 'gone' },
      { kind: 'move' as const, id: 'gone' },
      { kind: 'clip' as const, id: 'gone' },
    ];
    const selected = reduce(opened, ViewActions.selected({ selection }));
    expect(selectSelection(selected)).toHaveLength(2);
    expect(selectSelection(edited(selected, (draft) => void delete draft.lights[light]))).toEqual([selection[1]]);
  });

  it('keeps the playhead inside the shot', () => {
    const late = reduce(opened, ViewActions.playheadMoved({ frame: 500 }));
    expect(selectFrame(late)).toBe(document.shots[shot]!.length);
    expect(selectFrame(edited(late, (draft) => void (draft.shots[shot]!.length = 10)))).toBe(10);
    expect(selectFrame(reduce(opened, ViewActions.playheadMoved({ frame: -3 })))).toBe(1);
  });

  it('goes to another shot where the shown one is deleted', () => {
    const two = edited(
      opened,
      (draft) => void (draft.shots['other'] = { ...draft.shots[shot]!, id: 'other', order: 5 }),
    );
    expect(selectShotId(edited(two, (draft) => void delete draft.shots[shot]))).toBe('other');
  });

  it('knows what the server has, edit by edit', () => {
    const first = edited(opened, (draft) => void (draft.look.exposure = 1));
    const both = edited(first, (draft) => void (draft.look.exposure = 2));
    expect(both.project.base).toBe(document);
    const confirmed = reduce(both, ProjectActions.saveConfirmed({ revision: 4, count: first.project.unsaved.length }));
    expect(confirmed.project.base).toEqual(first.project.document);
    const all = reduce(
      confirmed,
      ProjectActions.saveConfirmed({ revision: 5, count: confirmed.project.unsaved.length }),
    );
    expect([all.project.base, all.project.saved]).toEqual([both.project.document, 'saved']);
  });

  it('holds a conflict until it is merged', () => {
    const mine = edited(opened, (draft) => void (draft.look.exposure = 1));
    const conflict = { revision: 9, document: { ...document, name: 'Theirs' } };
    const met = reduce(mine, ProjectActions.conflictMet({ conflict }));
    expect([met.project.saved, met.project.conflict!.revision]).toEqual(['conflict', 9]);
    const merged = reduce(
      met,
      ProjectActions.conflictMerged({
        document: conflict.document,
        base: conflict.document,
        revision: 9,
        unsaved: mine.project.unsaved,
      }),
    );
    expect(merged.project).toMatchObject({
      saved: 'waiting',
      conflict: null,
      revision: 9,
      document: { name: 'Theirs' },
    });
  });

  it('keeps the view where the same project is opened anew, and forgets it for another one', () => {
    const away = reduce(
      reduce(opened, ViewActions.deskOpened({ desk: 'reel' })),
      ViewActions.playheadMoved({ frame: 7 }),
    );
    const again = reduce(away, ProjectActions.opened({ project: { id: 'p', revision: 5, document } }));
    expect([again.view.desk, selectFrame(again)]).toEqual(['reel', 7]);
    const other = reduce(away, ProjectActions.opened({ project: { id: 'q', revision: 1, document } }));
    expect([other.view.desk, selectFrame(other)]).toEqual(['reel', 1]);
  });
});
