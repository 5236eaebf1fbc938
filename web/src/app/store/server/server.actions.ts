import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { ServerEvent } from '@zippy/core/wire';

/** What the server tells by itself. */
export const ServerActions = createActionGroup({
  source: 'Server',
  events: {
    Lost: emptyProps(),
    /** It answers again after it was lost. */
    Back: emptyProps(),
    Heard: props<{ event: ServerEvent }>(),
  },
});
