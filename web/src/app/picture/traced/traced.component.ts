import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  viewChild,
} from '@angular/core';
import { PictureSeen } from '../scopes/picture-seen';
import { TracedPicture } from './traced-picture';

/** Shows the traced picture, and how far it is. */
@Component({
  selector: 'zr-traced',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas
      #canvas
      role="img"
      aria-label="Traced picture"
      [attr.data-answer]="traced.answer()?.id"
      [attr.data-samples]="traced.answer()?.samples"
      [attr.data-milliseconds]="traced.answer()?.milliseconds"
    ></canvas>
    @if (traced.failure(); as failure) {
      <p class="empty">{{ failure }}</p>
    } @else {
      <span class="state mono" role="status">{{ state() }}</span>
    }
  `,
  styles: `
    :host {
      position: absolute;
      pointer-events: none;
    }
    canvas {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 100%;
    }
    .state {
      position: absolute;
      left: 8px;
      bottom: 8px;
      padding: 3px 8px;
      border-radius: 6px;
      background: var(--panel);
      font-size: 11px;
    }
    .empty {
      position: absolute;
      inset: 30% 15% auto;
    }
  `,
})
export class TracedComponent {
  readonly traced = inject(TracedPicture);
  private readonly seen = inject(PictureSeen);
  /** Samples from which on the picture is shown. */
  readonly from = input(1);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  readonly state = computed(() => {
    const answer = this.traced.answer();
    if (!answer?.samples || answer.samples < this.from()) return 'tracing…';
    return `${answer.samples} ${answer.samples === 1 ? 'sample' : 'samples'} · noise ${((answer.noise ?? 0) * 100).toFixed(1)} %`;
  });

  constructor() {
    effect(() => {
      const answer = this.traced.answer();
      const canvas = this.canvas().nativeElement;
      if (!answer?.pixels || (answer.samples ?? 0) < this.from()) {
        // Clears what belongs to another view.
        canvas.width = 1;
        return;
      }
      const { width, height, pixels } = answer;
      Object.assign(canvas, { width, height });
      canvas.getContext('2d')!.putImageData(new ImageData(pixels, width, height), 0, 0);
      this.seen.drew('traced', canvas);
    });
  }
}
