import { inject, makeEnvironmentProviders, type EnvironmentProviders } from '@angular/core';
import { provideEffects } from '@ngrx/effects';
import { provideState, provideStore } from '@ngrx/store';
import { provideStoreDevtools } from '@ngrx/store-devtools';
import { FRAME_RATE, LENGTH_UNIT } from '../ui/project-units';
import { FilmsEffects } from './films/films.effects';
import { filmsFeature } from './films/films.feature';
import { KeptEffects } from './kept/kept.effects';
import { keptFeature } from './kept/kept.feature';
import { ProjectEffects } from './project/project.effects';
import { projectFeature } from './project/project.feature';
import { ServerEffects } from './server/server.effects';
import { Studio } from './studio';
import { TakesEffects } from './takes/takes.effects';
import { takesFeature } from './takes/takes.feature';
import { viewFeature } from './view/view.feature';

/** Whether this is no build for users; the compiler takes it out of those. */
declare const ngDevMode: unknown;

/** The store, and what widgets go by of the open project. */
export const provideStudioStore = (): EnvironmentProviders =>
  makeEnvironmentProviders([
    provideStore(),
    provideState(projectFeature),
    provideState(viewFeature),
    provideState(takesFeature),
    provideState(filmsFeature),
    provideState(keptFeature),
    // Builds for users leave it out altogether.
    typeof ngDevMode === 'undefined' || ngDevMode ? provideStoreDevtools({ maxAge: 50 }) : [],
    { provide: FRAME_RATE, useFactory: () => inject(Studio).frameRate },
    { provide: LENGTH_UNIT, useFactory: () => inject(Studio).lengthUnit },
  ]);

/** What the page does by itself: saving, and learning of what others do. */
export const provideStudioEffects = (): EnvironmentProviders =>
  provideEffects(ServerEffects, ProjectEffects, TakesEffects, FilmsEffects, KeptEffects);
