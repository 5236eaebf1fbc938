import type { Finish, Light, Look, SetPiece, StudioSet } from '../document';
import type { Vector } from '../geometry';

/** A lamp of a set. Lengths are in sizes of the product, places to the right, up and towards the camera, from its middle. */
export interface SetLamp {
  name: string;
  kind: 'panel' | 'disc' | 'tube' | 'spot';
  at: Vector;
  /** What it is aimed at; the middle where nothing is said. */
  aim?: Vector;
  /** Of a disc and spot the first is its radius, of a tube its length and radius. */
  size: readonly [width: number, height: number];
  /** Its luminance: however large the product is, as much light falls on it. */
  nits: number;
  over?: Partial<Pick<Light, 'kelvin' | 'tint' | 'visibleToCamera' | 'coneAngle' | 'penumbra' | 'gradient'>>;
}

/** Something of a set that stands beside the product, in the same measures; upwards from where the product stands. */
export interface SetProp {
  name: string;
  /** The piece for a product of the size 1. */
  piece: SetPiece;
  at: Vector;
  /** Radians about the vertical from the camera's way. */
  turn?: number;
  finish: Partial<Finish>;
  /** How many stand in a row behind each other, and how far apart. */
  row?: { count: number; step: Vector };
}

/** A studio that belongs together: floor, surroundings, lamps, air and look. What it does not say is as in a new project. */
export interface ReadySet {
  name: string;
  words: string;
  floor: Partial<StudioSet['floor']>;
  surroundings: Partial<Omit<StudioSet['surroundings'], 'gradient' | 'sky'>>;
  gradient?: StudioSet['surroundings']['gradient'];
  sky?: Partial<StudioSet['surroundings']['sky']>;
  behind?: Partial<StudioSet['behind']>;
  lamps?: readonly SetLamp[];
  props?: readonly SetProp[];
  look?: Partial<Look>;
}
