import { signedNoise } from '../geometry';
import { luminance } from '../optics';
import type { ReadySet, SetLamp } from './kind';

type Rgb = [number, number, number];

/** Stops by which the ground has to differ from the product. */
const APART = 1.5;
/** Irradiance of a key light of the ready sets where the product stands: nits × area / distance², in sizes of the product. */
const KEY = 1250;

/** Numbers from 0 to 1 in a row that a seed tells. */
function numbersOf(seed: number): () => number {
  let drawn = 0;
  return () => (signedNoise(seed, drawn++, 0) + 1) / 2;
}

/**
 * A studio made up by a seed, within rules: a ground of one colour that the product stands out from, a large soft key from one side,
 * light from behind along its edges, and no more light than is kept. The same seed gives the same set for products that are alike.
 * @param brightness share of light that the product's surfaces send back
 */
export function surpriseSet(seed: number, brightness: number): ReadySet {
  const next = numbersOf(seed);
  const between = (low: number, high: number): number => low + (high - low) * next();
  const grounds = [between(0.008, 0.03), between(0.04, 0.09), between(0.16, 0.3), between(0.45, 0.72)];
  const told = Math.max(0.03, brightness);
  const apart = grounds.filter((ground) => Math.abs(Math.log2(ground / told)) >= APART);
  const ground = apart[Math.floor(next() * apart.length)] ?? grounds[0]!;
  const hue = next();
  const colour = tinted(hue, next() < 0.25 ? 0 : between(0.25, 0.85), ground);
  const side = next() < 0.5 ? -1 : 1;
  const dark = ground < 0.1;
  const mirror = dark && next() < 0.45;
  const warm = next() < 0.5;
  // On a bright ground there is less to spare before it burns.
  const key = KEY * (dark ? between(1, 1.35) : Math.min(1.1, 0.62 / ground) * between(0.85, 1));
  const lamps: SetLamp[] = [
    lamp(
      'Key',
      [side * between(0.8, 1.3), between(0.7, 1.3), between(0.6, 1.2)],
      [between(0.8, 1.5), between(0.9, 1.6)],
      key,
      {
        kelvin: warm ? 4300 : 5600,
      },
    ),
    lamp(
      'Edge',
      [-side * between(0.9, 1.3), between(0.4, 0.8), -between(0.6, 1)],
      [0.35, between(1.2, 1.9)],
      key * between(0.5, 0.9),
      {
        ...(next() < 0.45 ? { tint: tinted(hue + 0.5, between(0.3, 0.6), 0.6) } : { kelvin: warm ? 6800 : 4400 }),
      },
    ),
  ];
  if (dark || next() < 0.4)
    lamps.push(lamp('Other edge', [side * between(0.9, 1.3), between(0.3, 0.7), -between(0.6, 1)], [0.3, between(1.2, 1.9)], key * between(0.3, 0.7))); // prettier-ignore
  if (next() < 0.5)
    lamps.push(lamp('Top', [0, between(1.4, 1.7), between(-0.3, 0.2)], [between(1, 1.6), between(0.7, 1.4)], key * between(0.25, 0.45))); // prettier-ignore
  const around = dark ? between(0.015, 0.05) : between(0.1, 0.24);
  return {
    name: `Surprise ${seed}`,
    words: 'surprise random made up seed',
    floor: {
      kind: mirror ? 'floor' : 'sweep',
      color: colour,
      roughness: mirror ? between(0.2, 0.3) : between(0.5, 0.75),
    },
    surroundings: { kind: 'color', brightness: 1, color: tinted(hue, dark ? 0.1 : 0.35, around) },
    ...(mirror ? { behind: { kind: 'color' as const, color: tinted(hue, 0.4, ground * 0.7) } } : {}),
    lamps,
  };
}

/** A lamp whose light falls on the product as strongly wherever it stands and however large it is. */
function lamp(
  name: string,
  at: SetLamp['at'],
  size: SetLamp['size'],
  irradiance: number,
  over: SetLamp['over'] = {},
): SetLamp {
  const nits = (irradiance * Math.hypot(...at) ** 2) / (size[0] * size[1]);
  return { name, kind: 'panel', at, size, nits: Number(nits.toPrecision(3)), over };
}

/** A colour of a hue, 0 to 1, as pure as is said, of just that luminance where it can be. */
function tinted(hue: number, purity: number, light: number): Rgb {
  const wave = (shift: number) => 0.5 + 0.5 * Math.cos(2 * Math.PI * (hue - shift));
  const pure: Rgb = [wave(0), wave(1 / 3), wave(2 / 3)];
  const mixed = pure.map((v) => 1 + (v - 1) * purity) as Rgb;
  const gain = light / luminance(mixed);
  return mixed.map((v) => Number(Math.min(0.92, v * gain).toPrecision(3))) as Rgb;
}
