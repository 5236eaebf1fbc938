import type { Pace } from '../../../document/properties/pace';
import { curveAt } from './bezier';
import { bounced } from './bounce';
import { overshot } from './overshoot';
import { sprung } from './spring';
import { stepped } from './stepped';

export { springResponse } from './spring';
export { settled } from './stepped';

type Plain = Extract<Pace, string>;

/** Powers of time by which paces ease. */
const EASED: Record<Exclude<Plain, 'linear' | 'ease' | 'held'>, (u: number) => number> = {
  'soft': (u) => (u < 0.5 ? 0.5 * (2 * u) ** 1.5 : 1 - 0.5 * (2 - 2 * u) ** 1.5),
  'soft-in': (u) => u ** 1.5,
  'soft-out': (u) => 1 - (1 - u) ** 1.5,
  'ease-in': (u) => u * u,
  'ease-out': (u) => u * (2 - u),
  'strong': (u) => (u < 0.5 ? 8 * u ** 4 : 1 - 8 * (1 - u) ** 4),
  'strong-in': (u) => u ** 4,
  'strong-out': (u) => 1 - (1 - u) ** 4,
}; // prettier-ignore

/**
 * How far a value has travelled, 0 to 1 (beyond with overshooting handles, springs and overshoot), at the part `t` (0 to 1)
 * of its time. `held` stays at 0 until the end.
 */
export function paced(pace: Pace, t: number): number {
  const u = Math.min(1, Math.max(0, t));
  if (typeof pace === 'string') {
    if (pace === 'linear') return u;
    if (pace === 'held') return u >= 1 ? 1 : 0;
    return pace === 'ease' ? u * u * (3 - 2 * u) : EASED[pace](u);
  }
  if ('curve' in pace) return curveAt(pace.curve, u);
  if ('stepped' in pace) return stepped(pace.stepped, u);
  if ('overshoot' in pace) return overshot(pace.overshoot, u);
  if ('spring' in pace) return sprung(pace.spring, u);
  return bounced(pace.bounce, u);
}
