import { createActionGroup, props } from '@ngrx/store';
import type { Take } from '@zippy/core/wire';

/** The frame at work: which part of it is done, and seconds until its take is. */
export interface Working {
  take: string;
  frame: number;
  part: number;
  secondsLeft: number | null;
}

export const TakesActions = createActionGroup({
  source: 'Takes',
  events: {
    Arrived: props<{ takes: Take[] }>(),
    Progressed: props<{ working: Working }>(),
    'Frames rendered': props<{ take: string; frames: number[]; named: number }>(),
  },
});
