import { createEntityAdapter } from '@ngrx/entity';
import { createFeature, createReducer, on } from '@ngrx/store';
import type { Take } from '@zippy/core/wire';
import { ProjectActions } from '../project/project.actions';
import { TakesActions, type Working } from './takes.actions';

/** In the order in which they were asked for. */
const adapter = createEntityAdapter<Take>({ sortComparer: (a, b) => a.number - b.number });

export const takesFeature = createFeature({
  name: 'takes',
  reducer: createReducer(
    { ...adapter.getInitialState(), project: null as string | null, working: null as Working | null },
    // The takes of a project stay while only a newer state of it is opened.
    on(ProjectActions.opened, (state, { project }) =>
      state.project === project.id ? state : { ...adapter.removeAll(state), project: project.id },
    ),
    on(ProjectActions.closed, (state) => ({ ...adapter.removeAll(state), project: null })),
    on(TakesActions.arrived, (state, { takes }) => {
      const runs = takes.some(({ id, state: each }) => each === 'rendering' && id === state.working?.take);
      return adapter.setAll(takes, runs ? state : { ...state, working: null });
    }),
    on(TakesActions.progressed, (state, { working }) => ({ ...state, working })),
    on(TakesActions.framesRendered, (state, { take, frames, named }) =>
      adapter.mapOne(
        {
          id: take,
          map: (each) => ({
            ...each,
            named,
            done: [...new Set([...each.done, ...frames])].sort((a, b) => a - b),
          }),
        },
        state,
      ),
    ),
  ),
  extraSelectors: ({ selectTakesState }) => adapter.getSelectors(selectTakesState),
});
