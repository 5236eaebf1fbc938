import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { KeptFinish } from '@zippy/core/wire';

export const KeptActions = createActionGroup({
  source: 'Kept finishes',
  events: { Wanted: emptyProps(), Arrived: props<{ kept: KeptFinish[] }>() },
});
