import { createActionGroup, props } from '@ngrx/store';
import type { Film } from '@zippy/core/wire';

export const FilmsActions = createActionGroup({
  source: 'Films',
  events: { Arrived: props<{ films: Film[] }>() },
});
