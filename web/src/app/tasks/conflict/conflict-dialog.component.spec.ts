import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { mount } from '../../../testing/mount';
import { openStudio, sampleDocument } from '../../../testing/studioBed';
import { Session } from '../../store/session';
import { ProjectActions } from '../../store/project/project.actions';
import type { Studio } from '../../store/studio';
import { ConflictDialogComponent } from './conflict-dialog.component';

let studio: Studio;

beforeEach(() => {
  vi.stubGlobal('EventSource', class {});
  studio = openStudio();
});

describe('the dialog of two windows', () => {
  it('comes where another window saved first, and offers both ways on', async () => {
    const { fixture, show, user } = await mount(ConflictDialogComponent);
    expect(show.queryByRole('alertdialog')).toBeNull();
    studio.setProperty('Power', 'lights/key/power', 5);
    TestBed.inject(Store).dispatch(
      ProjectActions.conflictMet({ conflict: { document: sampleDocument(), revision: 7 } }),
    );
    await fixture.whenStable();
    const session = TestBed.inject(Session);
    const merge = vi.spyOn(session, 'mergeConflict').mockReturnValue(undefined);
    const both = vi.spyOn(session, 'keepBoth').mockResolvedValue(undefined);
    await user.click(show.getByRole('button', { name: 'Merge' }));
    await user.click(show.getByRole('button', { name: 'Keep both' }));
    expect([merge.mock.calls.length, both.mock.calls.length]).toEqual([1, 1]);
  });
});
