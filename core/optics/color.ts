import type { Rgb } from './photometry';

/** sRGB transfer function, IEC 61966-2-1: linear to encoded, both 0 to 1. */
export const encodeSrgb = (v: number): number =>
  v <= 0.0031308 ? 12.92 * Math.max(0, v) : 1.055 * Math.min(1, v) ** (1 / 2.4) - 0.055;

/** sRGB transfer function, IEC 61966-2-1: encoded to linear, both 0 to 1. */
export const decodeSrgb = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);

/** `#rrggbb` of a linear colour; parts above one are cut off. */
export function hexFromLinear(color: Rgb): string {
  return `#${color
    .map((v) =>
      Math.round(encodeSrgb(v) * 255)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
}

/** Linear colour of `#rrggbb`; null where the text is no such thing. */
export function linearFromHex(text: string): [number, number, number] | null {
  const match = /^#?([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/i.exec(text.trim());
  if (!match) return null;
  return [match[1]!, match[2]!, match[3]!].map((part) => decodeSrgb(parseInt(part, 16) / 255)) as [
    number,
    number,
    number,
  ];
}
