import { ChangeDetectionStrategy, Component, computed, ElementRef, inject } from '@angular/core';
import { MARK_LINES, MARK_NAMES, Matching, type Mark } from '../tasks/match/matching';

/** Marks on the picture behind the product, dragged or moved by the arrow keys, and the ground they tell; it lies in the film's frame. */
@Component({
  selector: 'zr-match-marks',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 1 1" preserveAspectRatio="none" aria-hidden="true">
      @for (line of matching.grid(); track $index) {
        <line class="ground" [attr.x1]="line[0].x" [attr.y1]="line[0].y" [attr.x2]="line[1].x" [attr.y2]="line[1].y" />
      }
      @for (line of matching.marking() ? lines() : []; track $index) {
        <line class="edge" [attr.x1]="line[0].x" [attr.y1]="line[0].y" [attr.x2]="line[1].x" [attr.y2]="line[1].y" />
      }
    </svg>
    @for (mark of matching.marking() ? matching.marks() : []; track $index; let k = $index) {
      <span
        class="mark"
        role="slider"
        tabindex="0"
        [attr.aria-label]="names()[k]"
        [attr.aria-valuetext]="(mark.x * 100).toFixed(1) + ' % across, ' + (mark.y * 100).toFixed(1) + ' % down'"
        [attr.aria-valuenow]="(mark.x * 100).toFixed(1)"
        [style.left.%]="mark.x * 100"
        [style.top.%]="mark.y * 100"
        (pointerdown)="take($event)"
        (pointermove)="drag($event, k)"
        (pointerup)="$event.stopPropagation()"
        (keydown)="nudge($event, k, mark)"
      ></span>
    }
  `,
  styles: `
    :host {
      position: absolute;
      inset: 0;
      pointer-events: none;
    }
    svg {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 100%;
      overflow: visible;
    }
    line {
      vector-effect: non-scaling-stroke;
      stroke-width: 1px;
    }
    .ground {
      stroke: rgb(255 255 255 / 38%);
    }
    .edge {
      stroke: var(--select);
      stroke-width: 1.5px;
    }
    .mark {
      position: absolute;
      width: 22px;
      height: 22px;
      margin: -11px 0 0 -11px;
      border-radius: 50%;
      pointer-events: auto;
      cursor: crosshair;
      touch-action: none;
      /* A ring with its middle open: what is marked stays in sight. */
      background: radial-gradient(circle, var(--select) 1.2px, transparent 1.8px);
      border: 1.5px solid var(--select);
      box-shadow: 0 0 0 1px rgb(0 0 0 / 55%);
    }
    .mark:focus-visible {
      outline: 2px solid var(--select);
      outline-offset: 3px;
    }
  `,
})
export class MatchMarksComponent {
  readonly matching = inject(Matching);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly names = computed(() => MARK_NAMES[this.matching.kind()]);
  readonly lines = computed((): [Mark, Mark][] =>
    MARK_LINES[this.matching.kind()].map(([a, b]) => [this.matching.marks()[a]!, this.matching.marks()[b]!]),
  );

  take(event: PointerEvent): void {
    event.stopPropagation();
    (event.target as HTMLElement).setPointerCapture(event.pointerId);
    (event.target as HTMLElement).focus();
  }

  drag(event: PointerEvent, k: number): void {
    event.stopPropagation();
    if (!(event.target as HTMLElement).hasPointerCapture(event.pointerId)) return;
    const { left, top, width, height } = this.host.nativeElement.getBoundingClientRect();
    this.matching.move(k, { x: (event.clientX - left) / width, y: (event.clientY - top) / height });
  }

  /** A quarter of a pixel of the page, ten pixels with Shift. */
  nudge(event: KeyboardEvent, k: number, mark: Mark): void {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    const { width, height } = this.host.nativeElement.getBoundingClientRect();
    const by = event.shiftKey ? 10 : 0.25;
    this.matching.move(k, { x: mark.x + (way[0]! * by) / width, y: mark.y + (way[1]! * by) / height });
  }
}
