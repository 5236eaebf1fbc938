import { createEntityAdapter } from '@ngrx/entity';
import { createFeature, createReducer, on } from '@ngrx/store';
import type { Film } from '@zippy/core/wire';
import { ProjectActions } from '../project/project.actions';
import { FilmsActions } from './films.actions';

/** In the order of the server. */
const adapter = createEntityAdapter<Film>();

export const filmsFeature = createFeature({
  name: 'films',
  reducer: createReducer(
    { ...adapter.getInitialState(), project: null as string | null },
    on(ProjectActions.opened, (state, { project }) =>
      state.project === project.id ? state : { ...adapter.removeAll(state), project: project.id },
    ),
    on(ProjectActions.closed, (state) => ({ ...adapter.removeAll(state), project: null })),
    on(FilmsActions.arrived, (state, { films }) => adapter.setAll(films, state)),
  ),
  extraSelectors: ({ selectFilmsState }) => adapter.getSelectors(selectFilmsState),
});
