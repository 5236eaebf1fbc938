import { angle, choice, count, length, moving, number, place, still, toggle, unseen, type Table } from './property';

export const CAMERA = {
  position: place([300, 220, 600]),
  target: place([0, 60, 0]),
  roll: angle(0),
  focalLength: length(50, { min: 4, max: 2000, step: 1 }),
  sensorWidth: length(36, { min: 4, max: 150, step: 0.5 }),
  projection: moving(choice(['perspective', 'orthographic'], 'perspective')),
  /** Across the picture where the projection is orthographic. */
  orthographicWidth: length(500, { min: 0.1, max: 1e6 }),
  /** Blades of the aperture; below 3 it is round. */
  blades: still(count(0, { max: 16 })),
  /** By which the aperture is turned. */
  bladeTurn: angle(0),
  /** Of the shutter's turn, in which it is open: a whole turn is the whole frame, 0 no motion blur. */
  shutterAngle: angle(Math.PI, { min: 0, max: 2 * Math.PI, step: 5 }),
  /** 0 is a pinhole: everything sharp. */
  fStop: number(0, { unit: 'f/', min: 0, max: 128, step: 0.1 }),
  /** From the camera along its axis. */
  focusDistance: length(600, { min: 1, max: 1e7, step: 1 }),
  locked: unseen(still(toggle(false))),
} satisfies Table;
