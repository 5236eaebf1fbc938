import { inject, Injectable } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { catchError, concatMap, EMPTY, filter, from, map, merge } from 'rxjs';
import { Api } from '../../api/api';
import { ServerActions } from '../server/server.actions';
import { KeptActions } from './kept.actions';

/** Learns of the finishes that are kept for all projects. */
@Injectable()
export class KeptEffects {
  private readonly api = inject(Api);
  private readonly actions = inject(Actions);

  readonly load = createEffect(() =>
    merge(
      this.actions.pipe(ofType(KeptActions.wanted)),
      this.actions.pipe(
        ofType(ServerActions.heard),
        filter(({ event }) => event.type === 'kept'),
      ),
    ).pipe(
      concatMap(() => from(this.api.keptFinishes()).pipe(catchError(() => EMPTY))),
      map((kept) => KeptActions.arrived({ kept })),
    ),
  );
}
