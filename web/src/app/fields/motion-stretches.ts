import { signal } from '@angular/core';

const KEPT = 'zippy.motion-stretches';
const kept = signal(localStorage.getItem(KEPT) === 'yes');

/** Whether keys and moves are stretched along when a shot gets another length; remembered in this browser. */
export const motionStretches = kept.asReadonly();

export function setMotionStretches(on: boolean): void {
  kept.set(on);
  localStorage.setItem(KEPT, on ? 'yes' : 'no');
}
