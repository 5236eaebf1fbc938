/** How times are told on the strip. */
export type TimeWords = 'frames' | 'seconds' | 'clock';

export const NEXT_WORDS: Record<TimeWords, TimeWords> = { frames: 'seconds', seconds: 'clock', clock: 'frames' };

/** A frame of a shot: its number, its seconds, or minutes, seconds and frames. @param rate frames a second */
export function sayTime(frame: number, rate: number, words: TimeWords): string {
  if (words === 'frames') return String(Math.round(frame));
  const seconds = (frame - 1) / rate;
  if (words === 'seconds') return seconds.toFixed(2);
  const whole = Math.floor(seconds + 1e-9);
  const left = Math.round((seconds - whole) * rate);
  const two = (n: number) => String(n).padStart(2, '0');
  return `${Math.floor(whole / 60)}:${two(whole % 60)}:${two(left)}`;
}
