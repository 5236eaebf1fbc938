import type { Look } from '../document';

/** Where compression of highlights begins, and the contrast about middle grey before it. */
const CURVES: Record<Look['tone'], { knee: number; contrast: number }> = {
  neutral: { knee: 0.62, contrast: 1 },
  soft: { knee: 0.32, contrast: 0.95 },
  strong: { knee: 0.7, contrast: 1.28 },
};

const GREY = 0.18;

/** Linear display value, 0 to 1, of exposed linear light: straight up to the knee, then an exponential shoulder towards one. */
export function toneCurve(tone: Look['tone'], light: number): number {
  const { knee, contrast } = CURVES[tone];
  const x = contrast === 1 ? Math.max(0, light) : GREY * (Math.max(0, light) / GREY) ** contrast;
  return x <= knee ? x : knee + (1 - knee) * (1 - Math.exp((knee - x) / (1 - knee)));
}
