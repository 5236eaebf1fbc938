import { provideZonelessChangeDetection } from '@angular/core';
import { bootstrapApplication } from '@angular/platform-browser';
import { provideStore } from '@ngrx/store';
import { studioReducer } from './app/state/studio.reducer';
import { RootComponent } from './app/shell/root.component';

void bootstrapApplication(RootComponent, {
  providers: [provideZonelessChangeDetection(), provideStore({ studio: studioReducer })],
});
