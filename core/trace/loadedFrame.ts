import type { Layer } from './layers';

/** A frame in kernel memory, ready to be rendered by any worker on it. */
export interface LoadedFrame {
  scene: number;
  film: number;
  /** One byte a pixel: whether it wants more samples; 0 while all do. */
  mask: number;
  width: number;
  height: number;
  /** Pixels that are rendered. */
  window: { left: number; top: number; right: number; bottom: number };
  /** Floats a pixel of the film takes, and where its layers begin. */
  floats: number;
  layers: Partial<Record<Layer, number>>;
  /** Names of the light layers, and of what the mattes tell apart. */
  groups: string[];
  mattes: { parts: string[]; finishes: string[] };
}
