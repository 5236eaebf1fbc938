import { createActionGroup, props } from '@ngrx/store';
import type { Take } from '@zippy/core/wire';

export const TakesActions = createActionGroup({
  source: 'Takes',
  events: {
    Arrived: props<{ takes: Take[] }>(),
    'Frames rendered': props<{ take: string; frames: number[]; named: number }>(),
  },
});
