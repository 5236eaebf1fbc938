import { InjectionToken, signal, type Signal } from '@angular/core';

/** Frames per second, by which seconds are typed into fields of frames. */
export const FRAME_RATE = new InjectionToken<Signal<number>>('frame rate', { factory: () => signal(24) });

export type LengthUnit = 'mm' | 'cm' | 'm' | 'inch';

/** In what fields of lengths show their millimetres. */
export const LENGTH_UNIT = new InjectionToken<Signal<LengthUnit>>('unit of lengths', { factory: () => signal('mm') });

/** Millimetres in one of each unit. */
export const MILLIMETRES: Record<LengthUnit, number> = { mm: 1, cm: 10, m: 1000, inch: 25.4 };
