import { ChangeDetectionStrategy, Component, effect, type ElementRef, inject, viewChild } from '@angular/core';
import type { Measured } from './measure';
import { PictureSeen } from './picture-seen';

/** Coral and blue, in bytes. */
const FULL = [255, 132, 104, 255];
const EMPTY = [70, 120, 255, 255];

/** Marks what is clipped and what is black, over the picture itself. */
@Component({
  selector: 'zr-clip-marks',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<canvas #marks></canvas>`,
  styles: `
    :host {
      position: absolute;
      pointer-events: none;
    }
    canvas {
      width: 100%;
      height: 100%;
      image-rendering: pixelated;
    }
  `,
})
export class ClipMarksComponent {
  private readonly seen = inject(PictureSeen);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('marks');

  constructor() {
    effect(() => {
      const measured = this.seen.measured();
      if (measured) drawMarks(this.canvas().nativeElement, measured);
    });
  }
}

function drawMarks(canvas: HTMLCanvasElement, { width, height, marks }: Measured): void {
  Object.assign(canvas, { width, height });
  const context = canvas.getContext('2d')!;
  const image = context.createImageData(width, height);
  for (let at = 0; at < marks.length; at++) {
    if (marks[at] === 1) image.data.set(FULL, at * 4);
    else if (marks[at] === 2) image.data.set(EMPTY, at * 4);
  }
  context.putImageData(image, 0, 0);
}
