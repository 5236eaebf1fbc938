/** Prints one figure on one line, with its goal where there is one. */
export function figure(name: string, value: number, goal?: { least?: number; most?: number }): void {
  const told =
    goal?.least !== undefined ? ` (goal >= ${goal.least})` : goal?.most !== undefined ? ` (goal <= ${goal.most})` : '';
  console.log(
    `figure ${name} = ${value >= 100 ? value.toFixed(0) : value.toPrecision(value > 0.9 && value < 1 ? 4 : 3)}${told}`,
  );
}

/** Middle of several runs. */
export function median(values: number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)]!;
}

/**
 * How many times as fast the second side is, by the fastest of interleaved runs of each: what else a machine does only ever adds
 * to a run's time.
 */
export const fastestOver = (first: number[], second: number[]): number => Math.min(...first) / Math.min(...second);
