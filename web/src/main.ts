import { provideZonelessChangeDetection } from '@angular/core';
import { bootstrapApplication } from '@angular/platform-browser';
import { RootComponent } from './app/shell/root.component';
import { provideStudioEffects, provideStudioStore } from './app/store/provide-store';

void bootstrapApplication(RootComponent, {
  providers: [provideZonelessChangeDetection(), provideStudioStore(), provideStudioEffects()],
});
