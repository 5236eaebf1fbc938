import { LIMITS } from './limits';
import {
  angle,
  choice,
  count,
  direction,
  length,
  moving,
  number,
  place,
  still,
  toggle,
  turn,
  vector,
  type Table,
} from './property';

export const NODE = {
  position: place([0, 0, 0]),
  /** About Y, X and Z, applied in the order Z, X, Y (yaw outermost); stored as [x, y, z]. */
  turn: turn([0, 0, 0]),
  scale: vector([1, 1, 1], { step: 0.01 }),
  /** Point in the node's own space about which turn and scale act. */
  pivot: still(place([0, 0, 0])),
  /** Direction in the node's own space about which new moves turn it: that of a shaft or hinge. */
  axis: still(direction([0, 1, 0])),
  visible: toggle(true),
  /** Straight by the camera and through smooth glass, in mirrors and by the light that it sends on, and in light's way. */
  visibleToCamera: toggle(true),
  visibleInMirrors: toggle(true),
  castsShadows: toggle(true),
  /** Whether it belongs to what is seen behind: it shows that where it stands, shaded by what is not of it where it catches. */
  ofPlate: moving(choice(['no', 'hides', 'catches'], 'no')),
  /** Multiplies the emission of the finish on this part alone. */
  glow: number(1, { unit: '×', min: 0, max: 1000, step: 0.05 }),
} satisfies Table;

/** Copies of a node with all below it; all show the same meshes. See motion/copies.ts. */
export const COPIES = {
  kind: choice(['line', 'grid', 'ring'], 'line'),
  /** How many in a line or ring. */
  count: still(count(3, { min: 1, max: LIMITS.copies })),
  /** From one to the next of a line, and between the rows of a grid, along the axes of what the node hangs under. */
  spacing: place([100, 100, 100]),
  /** Of a ring round the node's turning point. */
  radius: length(200, { min: 0, max: LIMITS.coordinate }),
  /** About which the ring runs, in the space of what the node hangs under. */
  axis: still(direction([0, 1, 0])),
  /** Over which the copies of a ring are spread; a whole turn closes it. */
  angle: angle(2 * Math.PI, { step: 5 }),
  /** Copies of a ring turn with it. */
  facing: still(toggle(true)),
  /** What they wear: all the same, or by a rule. See motion/dressedCopies.ts. */
  dressed: moving(choice(['same', 'alternate', 'random', 'blend', 'colourways'], 'same')),
  seed: still(count(1)),
  /** The most by which copies differ at random either way. */
  varyTurn: turn([0, 0, 0]),
  varyOffset: place([0, 0, 0]),
  varyScale: number(0, { unit: '%', scale: 0.01, min: 0, max: 0.99 }),
} satisfies Table;
