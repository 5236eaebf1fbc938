import { inject, makeEnvironmentProviders, type EnvironmentProviders } from '@angular/core';
import { provideStore } from '@ngrx/store';
import { FRAME_RATE, LENGTH_UNIT } from '../ui/project-units';
import { Studio } from './studio';
import { studioReducer } from './studio.reducer';

/** The store, and what widgets go by of the open project. */
export const provideStudio = (): EnvironmentProviders =>
  makeEnvironmentProviders([
    provideStore({ studio: studioReducer }),
    { provide: FRAME_RATE, useFactory: () => inject(Studio).frameRate },
    { provide: LENGTH_UNIT, useFactory: () => inject(Studio).lengthUnit },
  ]);
