import { InjectionToken, signal, type Signal } from '@angular/core';

/** Frames per second, by which seconds are typed into fields of frames. */
export const FRAME_RATE = new InjectionToken<Signal<number>>('frame rate', { factory: () => signal(24) });
