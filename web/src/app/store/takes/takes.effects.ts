import { inject, Injectable } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { catchError, concatMap, EMPTY, filter, from, map, merge, withLatestFrom } from 'rxjs';
import { Api } from '../../api/api';
import { projectFeature } from '../project/project.feature';
import { ServerActions } from '../server/server.actions';
import { TakesActions } from './takes.actions';

/** Learns of takes of the open project. */
@Injectable()
export class TakesEffects {
  private readonly actions = inject(Actions);
  private readonly api = inject(Api);
  private readonly id = inject(Store).select(projectFeature.selectId);

  /** What the server tells of the open project. */
  private readonly told = this.actions.pipe(
    ofType(ServerActions.heard),
    map(({ event }) => event),
    withLatestFrom(this.id),
    filter(([event, id]) => 'project' in event && event.project === id),
    map(([event]) => event),
  );

  readonly load = createEffect(() =>
    merge(this.told.pipe(filter(({ type }) => type === 'takes')), this.actions.pipe(ofType(ServerActions.back))).pipe(
      withLatestFrom(this.id),
      concatMap(([, id]) =>
        // The next event, or the return of the server, brings it up to date.
        id === null ? EMPTY : from(this.api.takes(id)).pipe(catchError(() => EMPTY)),
      ),
      map((takes) => TakesActions.arrived({ takes })),
    ),
  );

  readonly progress = createEffect(() =>
    this.told.pipe(
      filter((event) => event.type === 'progress'),
      map(({ take, frame, part, secondsLeft }) =>
        TakesActions.progressed({ working: { take, frame, part, secondsLeft } }),
      ),
    ),
  );

  readonly count = createEffect(() =>
    this.told.pipe(
      filter((event) => event.type === 'frame'),
      map(({ take, frames, named }) => TakesActions.framesRendered({ take, frames, named })),
    ),
  );
}
