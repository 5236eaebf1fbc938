import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { Desk } from '../../desks/registry';
import type { Grade, KeyMark, Region, Selected, ViewState } from './view.state';

export const ViewActions = createActionGroup({
  source: 'View',
  events: {
    'Desk opened': props<{ desk: Desk }>(),
    /** Keys that were picked are no longer. */
    Selected: props<{ selection: Selected[] }>(),
    /** Nor is anything shown alone or lit. */
    'Nothing selected': emptyProps(),
    'Keys picked': props<{ keys: KeyMark[] }>(),
    'Shot opened': props<{ shot: string; frame: number }>(),
    'Playhead moved': props<{ frame: number }>(),
    'Playing switched': props<{ on: boolean }>(),
    'Recording switched': props<{ on: boolean }>(),
    'This shot only switched': props<{ on: boolean }>(),
    'Grade shown': props<{ grade: Grade }>(),
    'Wipe set': props<{ wipe: ViewState['wipe'] }>(),
    'Region marked': props<{ region: Region | null }>(),
    'Camera left': emptyProps(),
    'Camera entered': emptyProps(),
    'Node isolated': props<{ node: string | null }>(),
    'Part lit': props<{ node: string | null }>(),
    'Parts drawn apart': props<{ by: number }>(),
    'Sharpness shown': props<{ on: boolean }>(),
    'Cleaning left out': props<{ on: boolean }>(),
    'Take shown': props<{ take: string; frame: number }>(),
    'Reel playhead moved': props<{ frame: number }>(),
    'Reel seen': emptyProps(),
  },
});
