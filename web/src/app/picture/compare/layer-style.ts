import type { Against, CompareWay, Grade } from '../../store/view/view.state';

/** Where a picture lies in the area, in pixels. */
export interface LayerBox {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** How far the picture is drawn nearer, and what it is shifted by: a place p of the area is seen at p × scale + (x, y). */
export interface Zoom {
  scale: number;
  x: number;
  y: number;
}
export const FITTED: Zoom = { scale: 1, x: 0, y: 0 };

/** Pictures lie over each other in this order. */
const ORDER = ['sketch', 'settle', 'traced', 'take', 'other'] as const;
const heightOf = (shown: Grade | Against): number => {
  const at = (ORDER as readonly string[]).indexOf(shown);
  return at < 0 ? ORDER.length - 1 : at;
};

export interface LayerStyle {
  clip: string | null;
  transform: string | null;
  /** The corner of the area, from the layer's own. */
  origin: string;
  blend: 'difference' | null;
  blinks: boolean;
}

/**
 * How one of two pictures that are compared is drawn: cut at the edge, in its half, or over the other one.
 * @param own the picture that is shown anyway, to the left of the edge
 * @param area size of the area in pixels
 */
export function layerStyle(
  shown: Grade | Against,
  own: Grade,
  compared: { against: Against; at: number; way: CompareWay } | null,
  box: LayerBox,
  area: { width: number; height: number },
  zoom: Zoom = FITTED,
): LayerStyle {
  const first = shown === own;
  const half = compared?.way === 'beside';
  // In its half a picture is half as large, in the middle of the height.
  const seen = half
    ? { scale: zoom.scale / 2, x: zoom.x / 2 + (first ? 0 : area.width / 2), y: zoom.y / 2 + area.height / 4 }
    : zoom;
  const edge = !compared ? null : half ? area.width / 2 : compared.way === 'edge' ? compared.at * area.width : null;
  const local = edge === null ? null : (edge - seen.x) / seen.scale - box.left;
  const inside = local === null ? 0 : Math.min(box.width, Math.max(0, local));
  const topmost = compared !== null && heightOf(shown) > heightOf(first ? compared.against : own);
  return {
    clip: local === null ? null : first ? `inset(0 ${box.width - inside}px 0 0)` : `inset(0 0 0 ${inside}px)`,
    transform: seen.scale === 1 && seen.x === 0 && seen.y === 0 ? null : `translate(${seen.x}px, ${seen.y}px) scale(${seen.scale})`, // prettier-ignore
    origin: `${-box.left}px ${-box.top}px`,
    blend: topmost && compared.way === 'difference' ? 'difference' : null,
    blinks: topmost && compared.way === 'blink',
  };
}

/** Least and most that a picture is drawn nearer. */
const RANGE = { least: 0.5, most: 32 };

/** A zoom about a place of the area, which stays where it is. */
export function zoomedAbout(zoom: Zoom, by: number, x: number, y: number): Zoom {
  const scale = Math.min(RANGE.most, Math.max(RANGE.least, zoom.scale * by));
  const ratio = scale / zoom.scale;
  return { scale, x: x - (x - zoom.x) * ratio, y: y - (y - zoom.y) * ratio };
}
