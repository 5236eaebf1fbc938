interface Spring {
  stiffness: number;
  damping: number;
}

/**
 * Step response of a damped oscillator that is at rest at 0: its closed form for a natural frequency of `stiffness` swings in
 * the unit of time and a damping ratio (Meirovitch, Fundamentals of Vibrations, 2001, section 3.2).
 */
export function springResponse({ stiffness, damping }: Spring, t: number): number {
  const w = 2 * Math.PI * stiffness;
  const fall = Math.exp(-damping * w * t);
  if (Math.abs(damping - 1) < 1e-6) return 1 - fall * (1 + w * t);
  if (damping < 1) {
    const d = w * Math.sqrt(1 - damping * damping);
    return 1 - fall * (Math.cos(d * t) + ((damping * w) / d) * Math.sin(d * t));
  }
  const r = w * Math.sqrt(damping * damping - 1);
  const [slow, fast] = [r - damping * w, -r - damping * w];
  return 1 + (fast * Math.exp(slow * t) - slow * Math.exp(fast * t)) / (slow - fast);
}

/** The same, brought to rest at 1 when its time is over: what is left of the swing then is taken off evenly. */
export const sprung = (spring: Spring, t: number): number =>
  springResponse(spring, t) + (1 - springResponse(spring, 1)) * t;
