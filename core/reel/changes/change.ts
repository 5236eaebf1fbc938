/** What of the picture that comes is seen: all of it by a share, or up to an edge, which goes from seen to unseen between two points. */
export type Mask =
  { kind: 'even'; share: number } | { kind: 'edge'; from: readonly [number, number]; to: readonly [number, number] };

interface ChangeSettings {
  /** Radians, counter-clockwise from the right. */
  wipeTurn: number;
  /** In parts of the picture's width. */
  wipeSoft: number;
}

/** How one clip gives way to the next. */
export interface Change {
  title: string;
  /** Both clips are seen at once, so that the film becomes shorter by it. */
  overlaps: boolean;
  /** It goes through a colour. */
  colored: boolean;
  /** What is seen of the clip that comes; null where the two are never seen together. */
  mask: ((at: number, size: { width: number; height: number }, settings: ChangeSettings) => Mask) | null;
}
