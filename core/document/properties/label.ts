import { choice, length, place, share, toggle, turn, type Table } from './property';

/** A picture that is printed, stuck or cut onto a part, with a finish of its own. Its place is in the part's own space. */
export const LABEL = {
  visible: toggle(true),
  /** Its middle, and how its frame is turned: x runs along its lines, y up, z out of the surface. */
  position: place([0, 0, 0]),
  turn: turn([0, 0, 0]),
  width: length(50, { min: 0.001, max: 1e6, step: 1 }),
  height: length(50, { min: 0.001, max: 1e6, step: 1 }),
  /** Flat from the front, or wrapped round a cylinder that stands along its y. */
  wrap: choice(['flat', 'round'], 'flat'),
  /** Of what it is wrapped round: its axis lies so far behind the label's middle. */
  radius: length(30, { min: 0.001, max: 1e6, step: 1 }),
  /** On the side that it faces alone, or on all that it passes through. */
  sides: choice(['front', 'both'], 'front'),
  /** How far it reaches into the part and out of it. */
  depth: length(20, { min: 0.001, max: 1e6, step: 1 }),
  /** In the picture's own colours, or in that of the label's finish wherever the picture is. */
  recolored: toggle(false),
  opacity: share(1),
  /** How far it stands out; below 0 it is cut in. */
  raised: length(0, { min: -100, max: 100, step: 0.01 }),
} satisfies Table;
