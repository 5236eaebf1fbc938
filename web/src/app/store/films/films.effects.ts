import { inject, Injectable } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { catchError, concatMap, EMPTY, filter, from, map, withLatestFrom } from 'rxjs';
import { Api } from '../../api/api';
import { projectFeature } from '../project/project.feature';
import { ServerActions } from '../server/server.actions';
import { FilmsActions } from './films.actions';

/** Learns of films of the open project. */
@Injectable()
export class FilmsEffects {
  private readonly api = inject(Api);
  private readonly id = inject(Store).select(projectFeature.selectId);

  readonly load = createEffect(() =>
    inject(Actions).pipe(
      ofType(ServerActions.heard),
      withLatestFrom(this.id),
      filter(([{ event }, id]) => event.type === 'film' && event.project === id),
      concatMap(([, id]) => from(this.api.films(id!)).pipe(catchError(() => EMPTY))),
      map((films) => FilmsActions.arrived({ films })),
    ),
  );
}
