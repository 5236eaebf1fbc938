import { angle, choice, color, kelvin, length, number, place, share, text, toggle, type Table } from './property';

const size = (standard: number) => length(standard, { min: 0.1, max: 1e6 });

export const LIGHT = {
  on: toggle(true),
  position: place([0, 400, 400]),
  /** Point the light is aimed at; of a sun, only the direction counts. */
  target: place([0, 0, 0]),
  /** Lumens, watts of visible radiation, nits, candela along its axis; of a sun, lux on what faces it. */
  power: number(900, { min: 0, step: 5 }),
  unit: choice(['lumen', 'watt', 'nit', 'candela', 'lux'], 'lumen'),
  kelvin: kelvin(5000),
  tint: color([1, 1, 1]),
  /** Of a panel. The width of a tube is its length. */
  width: size(300),
  height: size(300),
  /** Of a disc, tube, bulb and spot. */
  radius: size(150),
  /** Panel and disc: how much darker the corners are than the middle. */
  gradient: share(0),
  /** Spot: full angle of its cone, and the part of it that fades. */
  coneAngle: angle(0.7, { min: 0.01, max: 3.1 }),
  penumbra: share(0.25),
  /** Spot: from the axis to where a grid lets nothing through; 0 without a grid. */
  gridAngle: angle(0, { min: 0, max: 1.5 }),
  /** Sun: full angle under which it is seen. */
  angularSize: angle(0.0093, { min: 0.0005, max: 1, step: 0.1 }),
  visibleToCamera: toggle(false),
  castsShadows: toggle(true),
  /** Lights of one group share a light layer; without a name each has its own. */
  group: text(''),
} satisfies Table;
