import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatTooltipModule } from '@angular/material/tooltip';

/** Where the free view stands: radians round the product from its front, to its right side positive, and above the floor. */
export interface Standing {
  around: number;
  above: number;
}

const DEGREE = Math.PI / 180;
/** Of the plan in the drawing: its middle and radius, and those of the quarter that tells the height. */
const PLAN = { x: 30, y: 32, radius: 21 };
const SIDE = { x: 62, y: 53, radius: 42 };
/** Degrees within which a side catches the eye. */
const CATCH = 6;
const STEP = 15;
const SIDES = [0, 45, 90, 135, 180, 225, 270, 315];

/** A plan of the set with the product in its middle: the eye on the ring tells where the view stands, and can be drawn elsewhere. */
@Component({
  selector: 'zr-view-plan',
  imports: [MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg width="112" height="64" viewBox="0 0 112 64">
      <g
        role="slider"
        tabindex="0"
        aria-label="Where the view stands around"
        aria-valuemin="-180"
        aria-valuemax="180"
        matTooltip="Where the view stands, from above: the front is below. Draw the eye, or click a side"
        [attr.aria-valuenow]="degrees()"
        (pointerdown)="drawAround($event)"
        (pointermove)="drawAround($event)"
        (keydown)="step($event, 'around')"
      >
        <rect x="0" y="0" width="58" height="64" fill="transparent" />
        <circle class="ring" [attr.cx]="PLAN.x" [attr.cy]="PLAN.y" [attr.r]="PLAN.radius" />
        @for (side of sides; track side.angle) {
          <circle class="tick" [attr.cx]="side.x" [attr.cy]="side.y" [attr.r]="side.main ? 2 : 1.2" />
        }
        <rect class="product" [attr.x]="PLAN.x - 7" [attr.y]="PLAN.y - 4" width="14" height="8" rx="2" />
        <path class="front" [attr.d]="'M' + (PLAN.x - 4) + ' ' + (PLAN.y + 4) + 'h8'" />
        <g [attr.transform]="eye()">
          <path class="seen" d="M0 0 L-7 -12 L7 -12 Z" />
          <circle class="eye" r="4" />
        </g>
      </g>
      <g
        role="slider"
        tabindex="0"
        aria-label="How high the view stands"
        aria-valuemin="-90"
        aria-valuemax="90"
        matTooltip="How high the view stands, from the side"
        [attr.aria-valuenow]="height()"
        (pointerdown)="drawAbove($event)"
        (pointermove)="drawAbove($event)"
        (keydown)="step($event, 'above')"
      >
        <rect x="60" y="0" width="52" height="64" fill="transparent" />
        <path class="ring" [attr.d]="arc" />
        <path class="floor" [attr.d]="'M' + (SIDE.x - 3) + ' ' + SIDE.y + 'h' + (SIDE.radius + 6)" />
        <rect class="product" [attr.x]="SIDE.x - 2" [attr.y]="SIDE.y - 7" width="9" height="7" rx="1.5" />
        <circle class="eye" r="4" [attr.cx]="lift().x" [attr.cy]="lift().y" />
      </g>
    </svg>
  `,
  styles: `
    :host {
      position: absolute;
      top: 8px;
      left: 8px;
      padding: 2px;
      border-radius: 8px;
      background: color-mix(in srgb, var(--panel) 82%, transparent);
      touch-action: none;
    }
    svg {
      display: block;
    }
    g[role='slider'] {
      cursor: pointer;
      outline-offset: -2px;
    }
    .ring,
    .floor,
    .front {
      fill: none;
      stroke: var(--quiet);
    }
    .floor {
      stroke-dasharray: 2 3;
    }
    .tick {
      fill: var(--quiet);
    }
    .product {
      fill: var(--quiet);
    }
    .front {
      stroke: var(--light);
      stroke-width: 2;
    }
    .eye {
      fill: var(--select);
    }
    .seen {
      fill: var(--select);
      opacity: 0.3;
    }
  `,
})
export class ViewPlanComponent {
  readonly standing = input.required<Standing>();
  readonly stood = output<Standing>();
  readonly PLAN = PLAN;
  readonly SIDE = SIDE;
  readonly arc = `M${SIDE.x + SIDE.radius} ${SIDE.y}A${SIDE.radius} ${SIDE.radius} 0 0 0 ${SIDE.x} ${SIDE.y - SIDE.radius}`;
  readonly sides = SIDES.map((angle) => ({ angle, ...onRing(angle * DEGREE), main: angle % 90 === 0 }));
  readonly degrees = computed(() => Math.round(this.standing().around / DEGREE));
  readonly height = computed(() => Math.round(this.standing().above / DEGREE));
  readonly eye = computed(() => {
    const { around } = this.standing();
    const { x, y } = onRing(around);
    return `translate(${x.toFixed(1)} ${y.toFixed(1)}) rotate(${(-around / DEGREE).toFixed(1)})`;
  });
  readonly lift = computed(() => {
    const { above } = this.standing();
    return { x: SIDE.x + SIDE.radius * Math.cos(above), y: SIDE.y - SIDE.radius * Math.sin(above) };
  });

  drawAround(event: PointerEvent): void {
    const at = drawnTo(event);
    if (!at) return;
    const degrees = Math.atan2(at.x - PLAN.x, at.y - PLAN.y) / DEGREE;
    const near = SIDES.find((side) => Math.abs(((degrees - side + 540) % 360) - 180) < CATCH);
    this.stood.emit({ ...this.standing(), around: (near ?? degrees) * DEGREE });
  }

  drawAbove(event: PointerEvent): void {
    const at = drawnTo(event);
    if (!at) return;
    const degrees = Math.atan2(SIDE.y - at.y, Math.max(0, at.x - SIDE.x)) / DEGREE;
    const near = [0, 45, 90].find((each) => Math.abs(degrees - each) < CATCH);
    this.stood.emit({ ...this.standing(), above: (near ?? degrees) * DEGREE });
  }

  step(event: KeyboardEvent, what: keyof Standing): void {
    const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    const degrees = Math.round(this.standing()[what] / DEGREE / STEP) * STEP + by * STEP;
    this.stood.emit({ ...this.standing(), [what]: degrees * DEGREE });
  }
}

/** A place on the ring of the plan; the front is below. */
function onRing(around: number): { x: number; y: number } {
  return { x: PLAN.x + PLAN.radius * Math.sin(around), y: PLAN.y + PLAN.radius * Math.cos(around) };
}

/** Where a pointer with its button down is in the drawing; it is followed wherever it goes. */
function drawnTo(event: PointerEvent): { x: number; y: number } | null {
  event.stopPropagation();
  if (!(event.buttons & 1)) return null;
  const held = event.currentTarget as SVGGElement;
  held.setPointerCapture(event.pointerId);
  const box = held.ownerSVGElement!.getBoundingClientRect();
  return { x: event.clientX - box.left, y: event.clientY - box.top };
}
