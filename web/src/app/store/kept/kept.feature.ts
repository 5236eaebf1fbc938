import { createEntityAdapter } from '@ngrx/entity';
import { createFeature, createReducer, on } from '@ngrx/store';
import type { KeptFinish } from '@zippy/core/wire';
import { KeptActions } from './kept.actions';

/** In the order of the server. */
const adapter = createEntityAdapter<KeptFinish>();

export const keptFeature = createFeature({
  name: 'kept',
  reducer: createReducer(
    adapter.getInitialState(),
    on(KeptActions.arrived, (state, { kept }) => adapter.setAll(kept, state)),
  ),
  extraSelectors: ({ selectKeptState }) => adapter.getSelectors(selectKeptState),
});
