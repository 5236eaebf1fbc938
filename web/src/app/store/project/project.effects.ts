import { inject, Injectable } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { concatMap, filter, fromEvent, map, tap, withLatestFrom } from 'rxjs';
import { Session } from '../session';
import { ServerActions } from '../server/server.actions';
import { ProjectActions } from './project.actions';
import { projectFeature } from './project.feature';

/** Keeps the open project and the server together. */
@Injectable()
export class ProjectEffects {
  private readonly actions = inject(Actions);
  private readonly session = inject(Session);
  private readonly project = inject(Store).select(projectFeature.selectProjectState);

  /** Every edit is sent soon, with those that follow at once. */
  readonly save = createEffect(
    () =>
      this.project.pipe(
        filter(({ unsaved, saved }) => unsaved.length > 0 && saved !== 'conflict'),
        tap(() => this.session.saveSoon()),
      ),
    { dispatch: false },
  );

  /** A page with edits that the server does not have asks before it goes. */
  readonly hold = createEffect(
    () =>
      fromEvent<BeforeUnloadEvent>(window, 'beforeunload').pipe(
        withLatestFrom(this.project),
        filter(([, { unsaved }]) => unsaved.length > 0),
        tap(([event]) => event.preventDefault()),
      ),
    { dispatch: false },
  );

  readonly lose = createEffect(() =>
    this.actions.pipe(
      ofType(ServerActions.lost),
      withLatestFrom(this.project),
      filter(([, { id }]) => id !== null),
      map(() => ProjectActions.serverLost()),
    ),
  );

  readonly takeUp = createEffect(() =>
    this.actions.pipe(
      ofType(ServerActions.back),
      withLatestFrom(this.project),
      map(([, { unsaved, revision }]) =>
        unsaved.length > 0 ? ProjectActions.saveBegan() : ProjectActions.saveConfirmed({ revision, count: 0 }),
      ),
    ),
  );

  readonly sendAgain = createEffect(
    () => this.actions.pipe(ofType(ServerActions.back), tap(() => void this.session.save())), // prettier-ignore
    { dispatch: false },
  );

  /** Another window has saved: where nothing of this one waits, it goes on from there. */
  readonly follow = createEffect(
    () =>
      this.actions.pipe(
        ofType(ServerActions.heard),
        concatMap(({ event }) => this.session.follow(event)),
      ),
    { dispatch: false },
  );
}
