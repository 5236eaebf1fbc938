/** How exposed linear light becomes linear display light, both Rec. 709; 1 is full white. */
export interface Tone {
  title: string;
  says: string;
  /** Of each channel by itself. */
  each?: (light: number) => number;
  /** Of the three together, changed in place: for curves that keep hues. */
  together?: (color: Float64Array) => void;
}
