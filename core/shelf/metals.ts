import type { ShelfFinish, Color } from './entry';
import { grain, hex, made, maps } from './entry';

/** Index and absorption of a metal at 650, 540 and 450 nm. */
type Constants = [n: Color, k: Color];

/** Rounded from Johnson and Christy, Optical Constants of the Noble Metals, 1972, and of the Transition Metals, 1974; Rakić et al., 1998. */
const SILVER: Constants = [[0.14, 0.06, 0.04], [4.15, 3.59, 2.66]]; // prettier-ignore
const GOLD: Constants = [[0.16, 0.5, 1.5], [3.4, 2.27, 1.88]]; // prettier-ignore
const COPPER: Constants = [[0.21, 1.02, 1.17], [3.67, 2.59, 2.4]]; // prettier-ignore
const ALUMINIUM: Constants = [[1.49, 0.96, 0.6], [7.82, 6.69, 5.47]]; // prettier-ignore
const CHROMIUM: Constants = [[3.11, 3.18, 2.46], [4.44, 4.41, 4.18]]; // prettier-ignore
const IRON: Constants = [[2.9, 2.92, 2.6], [3.1, 2.93, 2.77]]; // prettier-ignore
const NICKEL: Constants = [[2.02, 1.78, 1.64], [3.82, 3.25, 2.66]]; // prettier-ignore
const TITANIUM: Constants = [[2.37, 1.92, 1.48], [3.1, 2.67, 2.2]]; // prettier-ignore
const BRASS: Constants = [[0.44, 0.6, 1.45], [3.5, 2.55, 1.8]]; // prettier-ignore
const TUNGSTEN: Constants = [[3.77, 3.5, 3.3], [2.9, 2.73, 2.5]]; // prettier-ignore

/** What a metal reflects at a cosine, of light without a direction of swing (Fresnel). */
function reflectance(n: number, k: number, cosine: number): number {
  const sine2 = 1 - cosine * cosine;
  const t0 = n * n - k * k - sine2;
  const sum = Math.sqrt(t0 * t0 + 4 * n * n * k * k);
  const a = Math.sqrt(Math.max(0, 0.5 * (sum + t0)));
  const across = (sum + cosine * cosine - 2 * a * cosine) / (sum + cosine * cosine + 2 * a * cosine);
  const t3 = cosine * cosine * sum + sine2 * sine2;
  const t4 = 2 * a * cosine * sine2;
  return (across + (across * (t3 - t4)) / (t3 + t4)) / 2;
}

/** At 82 degrees, where metals differ most from Schlick's curve (after Kutz, Hašan and Edmondson, 2021; the F82 tint of OpenPBR). */
const EDGE = 1 / 7;

/** Colour at normal incidence and towards the edge: of OpenPBR's metals the second is told as a part of Schlick's curve there. */
export function metalColors([n, k]: Constants): { baseColor: Color; specularColor: Color } {
  const each = [0, 1, 2].map((c) => {
    const front = Math.min(1, reflectance(n[c]!, k[c]!, 1));
    const schlick = front + (1 - front) * (1 - EDGE) ** 5;
    return [front, Math.min(1, reflectance(n[c]!, k[c]!, EDGE) / schlick)] as const;
  });
  return {
    baseColor: each.map(([front]) => Number(front.toFixed(4))) as Color,
    specularColor: each.map(([, edge]) => Number(edge.toFixed(4))) as Color,
  };
}

const metal = (
  name: string,
  of: Constants,
  specularRoughness: number,
  over: Partial<ShelfFinish> = {},
): ShelfFinish => ({
  name,
  ...metalColors(of),
  baseMetalness: 1,
  specularRoughness,
  ...over,
});

/** Fine lines that all run one way, as a belt leaves them. */
const brushed = (scale: number) =>
  made(
    'specularRoughness',
    'noise',
    { pattern: 'value', scale, stretch: [60, 1, 60], octaves: 2 },
    { low: 0.75, high: 1.25 },
  );

const anodised = (name: string, code: string, roughness = 0.34): ShelfFinish => ({
  name,
  baseColor: hex(code),
  specularColor: [0.95, 0.95, 0.95],
  baseMetalness: 1,
  specularRoughness: roughness,
  maps: maps(grain(0.25, 0.002)),
});

export const metals: readonly ShelfFinish[] = [
  metal('Mirror chrome', CHROMIUM, 0.02),
  metal('Satin chrome', CHROMIUM, 0.28),
  metal('Polished silver', SILVER, 0.05),
  metal('Polished aluminium', ALUMINIUM, 0.07),
  metal('Satin aluminium', ALUMINIUM, 0.32),
  metal('Brushed aluminium', ALUMINIUM, 0.36, { specularRoughnessAnisotropy: 0.85, maps: maps(brushed(0.5)) }),
  metal('Bead-blasted aluminium', ALUMINIUM, 0.5, { maps: maps(grain(0.3, 0.012)) }),
  metal('Polished steel', IRON, 0.08),
  metal('Brushed steel', IRON, 0.34, { specularRoughnessAnisotropy: 0.8, maps: maps(brushed(0.35)) }),
  metal('Nickel', NICKEL, 0.16),
  metal('Titanium', TITANIUM, 0.3),
  metal('Tungsten', TUNGSTEN, 0.24),
  metal('Gold', GOLD, 0.1),
  metal('Satin gold', GOLD, 0.3),
  metal('Copper', COPPER, 0.14),
  metal('Hammered copper', COPPER, 0.2, {
    maps: maps(made('height', 'noise', { pattern: 'cells', scale: 9, octaves: 1 }, { high: 0.9, curve: 2 })),
  }),
  metal('Brass', BRASS, 0.16),
  metal('Aged brass', BRASS, 0.3, {
    maps: maps(
      made('baseColor', 'noise', { scale: 14, octaves: 5, fineness: 0.6 }, { dark: 0.35, bright: 0.6, shades: [{ at: 0, color: [0.32, 0.22, 0.12] }, { at: 1, color: [1, 1, 1] }] }),
      made('specularRoughness', 'noise', { scale: 14, octaves: 5, fineness: 0.6 }, { dark: 0.35, bright: 0.6, low: 1.7, high: 0.8 }),
    ),
  }), // prettier-ignore
  metal('Cast iron', IRON, 0.62, {
    baseColor: [0.2, 0.19, 0.185],
    maps: maps(grain(1.1, 0.16, { octaves: 4, fineness: 0.55 })),
  }),
  metal('Zinc, spangled', TITANIUM, 0.3, {
    baseColor: [0.62, 0.64, 0.66],
    maps: maps(
      made('baseColor', 'noise', { pattern: 'flakes', scale: 11, octaves: 1 }, { low: 0.7, high: 1.05 }),
      made(
        'specularRoughness',
        'noise',
        { pattern: 'flakes', scale: 11, octaves: 1, seed: 7 },
        { low: 0.7, high: 1.4 },
      ),
    ),
  }),
  anodised('Anodised graphite', '#4a4c50'),
  anodised('Anodised champagne', '#cdb08a'),
  anodised('Anodised teal', '#1f7f86'),
  anodised('Anodised vermilion', '#c23f22'),
];
