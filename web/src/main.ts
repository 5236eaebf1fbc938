import { provideZonelessChangeDetection } from '@angular/core';
import { bootstrapApplication } from '@angular/platform-browser';
import { RootComponent } from './app/shell/root.component';
import { provideStudio } from './app/state/provide-studio';

void bootstrapApplication(RootComponent, { providers: [provideZonelessChangeDetection(), provideStudio()] });
