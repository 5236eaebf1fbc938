/** A box in parts of what it is dragged over, 0 at the left and top. */
export interface DraggedBox {
  left: number;
  top: number;
  right: number;
  bottom: number;
  /** The pointer was let go. */
  ended: boolean;
}

/** Follows a pointer that drags a box open. */
export class DragBox {
  private from: { x: number; y: number } | null = null;

  /**
   * @param area where what is dragged over lies on the page, in pixels; a box never leaves it
   * @returns the box as it is now; null while none is open
   */
  follow(event: PointerEvent, area: { left: number; top: number; width: number; height: number }): DraggedBox | null {
    const unit = (v: number) => Math.min(1, Math.max(0, v));
    const at = {
      x: unit((event.clientX - area.left) / area.width),
      y: unit((event.clientY - area.top) / area.height),
    };
    if (event.type === 'pointerdown') {
      this.from = at;
      (event.target as HTMLElement).setPointerCapture(event.pointerId);
      return null;
    }
    const { from } = this;
    if (!from) return null;
    const ended = event.type === 'pointerup';
    if (ended) this.from = null;
    return {
      left: Math.min(from.x, at.x),
      top: Math.min(from.y, at.y),
      right: Math.max(from.x, at.x),
      bottom: Math.max(from.y, at.y),
      ended,
    };
  }
}
