import '@angular/compiler';
import { describe, expect, it } from 'vitest';
import { makeEdit, newDocument, type ProjectDocument } from '@zippy/core/document';
import type { Take } from '@zippy/core/wire';
import { StudioActions } from './studio.actions';
import { studioReducer } from './studio.reducer';
import { initialState, type StudioState } from './studio.state';

const document = newDocument('Reduced');
const opened = studioReducer(
  initialState,
  StudioActions.projectOpened({ project: { id: 'p', revision: 4, document } }),
);
const edited = (state: StudioState, recipe: (draft: ProjectDocument) => void): StudioState => {
  const made = makeEdit(state.document!, 'edit', recipe);
  return studioReducer(state, StudioActions.edited({ document: made.document, edit: made.edit! }));
};
const light = Object.keys(document.lights)[0]!;
const shot = Object.keys(document.shots)[0]!;

describe('the store', () => {
  it('opens a project on its first shot with nothing to save or undo', () => {
    expect(opened).toMatchObject({ project: 'p', revision: 4, shot, frame: 1, unsaved: [], saved: 'saved' });
  });

  it('counts every edit, undo and redo as something to save', () => {
    const once = edited(opened, (draft) => void (draft.look.exposure = 1));
    expect([once.saved, once.unsaved.length]).toEqual(['waiting', 1]);
    const back = studioReducer(once, StudioActions.undone());
    expect([back.document!.look.exposure, back.unsaved.length]).toEqual([0, 2]);
    expect(studioReducer(back, StudioActions.redone()).document!.look.exposure).toBe(1);
    expect(studioReducer(opened, StudioActions.undone())).toBe(opened);
  });

  it('learns of rendered frames one by one, and leaves all other takes as they are', () => {
    const take = (id: string) => ({ id, number: 1, done: [1, 4], named: 4 }) as unknown as Take;
    const before = studioReducer(opened, StudioActions.takesArrived({ takes: [take('a'), take('b')] }));
    const after = studioReducer(before, StudioActions.framesRendered({ take: 'a', frames: [3, 4, 2], named: 9 }));
    expect(after.takes[0]).toMatchObject({ done: [1, 2, 3, 4], named: 9 });
    expect(after.takes[1]).toBe(before.takes[1]);
  });

  it('keeps what was edited while a save was under way', () => {
    const twice = edited(
      edited(opened, (draft) => void (draft.look.exposure = 1)),
      (draft) => void (draft.look.exposure = 2),
    );
    const saved = studioReducer(twice, StudioActions.saveConfirmed({ revision: 5, count: 1 }));
    expect([saved.saved, saved.revision, saved.unsaved.length]).toEqual(['waiting', 5, 1]);
    expect(studioReducer(saved, StudioActions.saveConfirmed({ revision: 6, count: 1 })).saved).toBe('saved');
  });

  it('stays offline while edits go on', () => {
    const lost = studioReducer(opened, StudioActions.serverLost());
    expect(edited(lost, (draft) => void (draft.look.exposure = 1)).saved).toBe('offline');
  });

  it('drops from the selection what an edit removed', () => {
    const selection = [
      { kind: 'light' as const, id: light },
      { kind: 'shot' as const, id: shot },
      { kind: 'take' as const, id: 'gone' },
      { kind: 'move' as const, id: 'gone' },
      { kind: 'clip' as const, id: 'gone' },
    ];
    const selected = studioReducer(opened, StudioActions.viewChanged({ view: { selection } }));
    expect(selected.selection).toHaveLength(2);
    expect(edited(selected, (draft) => void delete draft.lights[light]).selection).toEqual([selection[1]]);
  });

  it('keeps the playhead inside the shot', () => {
    const late = studioReducer(opened, StudioActions.viewChanged({ view: { frame: 500 } }));
    expect(late.frame).toBe(document.shots[shot]!.length);
    expect(edited(late, (draft) => void (draft.shots[shot]!.length = 10)).frame).toBe(10);
    expect(studioReducer(opened, StudioActions.viewChanged({ view: { frame: -3 } })).frame).toBe(1);
  });

  it('goes to another shot where the shown one is deleted', () => {
    const two = edited(
      opened,
      (draft) => void (draft.shots['other'] = { ...draft.shots[shot]!, id: 'other', order: 5 }),
    );
    expect(edited(two, (draft) => void delete draft.shots[shot]).shot).toBe('other');
  });

  it('knows what the server has, edit by edit', () => {
    const first = edited(opened, (draft) => void (draft.look.exposure = 1));
    const both = edited(first, (draft) => void (draft.look.exposure = 2));
    expect(both.base).toBe(document);
    const confirmed = studioReducer(both, StudioActions.saveConfirmed({ revision: 4, count: first.unsaved.length }));
    expect(confirmed.base).toEqual(first.document);
    const all = studioReducer(confirmed, StudioActions.saveConfirmed({ revision: 5, count: confirmed.unsaved.length }));
    expect([all.base, all.saved]).toEqual([both.document, 'saved']);
  });

  it('holds a conflict until it is merged', () => {
    const mine = edited(opened, (draft) => void (draft.look.exposure = 1));
    const conflict = { revision: 9, document: { ...document, name: 'Theirs' } };
    const met = studioReducer(mine, StudioActions.conflictMet({ conflict }));
    expect([met.saved, met.conflict!.revision]).toEqual(['conflict', 9]);
    const merged = studioReducer(
      met,
      StudioActions.conflictMerged({
        document: conflict.document,
        base: conflict.document,
        revision: 9,
        unsaved: mine.unsaved,
      }),
    );
    expect(merged).toMatchObject({ saved: 'waiting', conflict: null, revision: 9, document: { name: 'Theirs' } });
  });

  it('keeps the view where the same project is opened anew, and forgets it for another one', () => {
    const away = studioReducer(opened, StudioActions.viewChanged({ view: { desk: 'reel', frame: 7 } }));
    const again = studioReducer(away, StudioActions.projectOpened({ project: { id: 'p', revision: 5, document } }));
    expect([again.desk, again.frame]).toEqual(['reel', 7]);
    const other = studioReducer(away, StudioActions.projectOpened({ project: { id: 'q', revision: 1, document } }));
    expect([other.desk, other.frame]).toEqual(['reel', 1]);
  });
});
