const GREY = 0.18;

/** Straight up to a knee, then an exponential shoulder towards one; contrast about middle grey before it. */
export const kneeCurve =
  (knee: number, contrast: number) =>
  (light: number): number => {
    const x = contrast === 1 ? Math.max(0, light) : GREY * (Math.max(0, light) / GREY) ** contrast;
    return x <= knee ? x : knee + (1 - knee) * (1 - Math.exp((knee - x) / (1 - knee)));
  };
