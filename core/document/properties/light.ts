import { LIMITS } from './limits';
import {
  angle,
  choice,
  color,
  count,
  kelvin,
  length,
  moving,
  number,
  place,
  share,
  still,
  text,
  toggle,
  type Table,
} from './property';

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
  /** Panel, disc and card: the part of it towards its edge over which it fades out. */
  softEdge: share(0),
  /** Panel, disc, tube and card: about the way it is aimed. */
  roll: angle(0, { step: 5 }),
  /** Card: full angles under which it is seen. */
  spanWidth: angle(0.7, { min: 0.005, max: 2.9 }),
  spanHeight: angle(0.45, { min: 0.005, max: 2.9 }),
  /** Card: a disc as wide as that. */
  round: toggle(false),
  /** Spot: full angle of its cone, and the part of it that fades. */
  coneAngle: angle(0.7, { min: 0.01, max: 3.1 }),
  penumbra: share(0.25),
  /** Spot: from the axis to where a grid lets nothing through; 0 without a grid. */
  gridAngle: angle(0, { min: 0, max: 1.5 }),
  /** Sun: full angle under which it is seen. */
  angularSize: angle(0.0093, { min: 0.0005, max: 1, step: 0.1 }),
  visibleToCamera: toggle(false),
  castsShadows: toggle(true),
  /** All parts, the chosen ones alone, or all but those. */
  reaches: moving(choice(['all', 'only', 'except'], 'all')),
  /** Lights of one group share a light layer; without a name each has its own. */
  group: text(''),
} satisfies Table;

/** A way about what a light is aimed at, on which it runs without end. See scene/lightTrack.ts. */
export const TRACK = {
  /** All round it, to and fro on part of that, or to and fro on a straight line. */
  kind: moving(choice(['ring', 'arc', 'rail'], 'ring')),
  /** From above the target out to the track. */
  radius: length(800, { min: 0, max: LIMITS.coordinate }),
  height: length(300, { min: -LIMITS.coordinate, max: LIMITS.coordinate }),
  /** By which it leans over to the front, about what it is aimed at. */
  tilt: angle(0, { step: 5 }),
  /** Where it begins, from the front to the right. */
  from: angle(0, { step: 5 }),
  /** Of an arc from end to end. */
  reach: angle(Math.PI / 2, { min: 0, max: 2 * Math.PI, step: 5 }),
  /** Of a rail from end to end. */
  length: length(800, { min: 0, max: LIMITS.coordinate }),
  /** Turns of a ring; there and back on an arc or rail. Negative ones go the other way round. */
  speed: number(0.25, { unit: '×', min: -100, max: 100, step: 0.05 }),
  /** For each of which that is. */
  pace: moving(choice(['second', 'shot'], 'second')),
  /** Slows down at the ends of an arc or rail. */
  eased: toggle(true),
  /** Lamps that are spread evenly over it. */
  count: still(count(1, { min: 1, max: 24 })),
} satisfies Table;
