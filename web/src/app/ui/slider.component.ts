import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatSliderModule } from '@angular/material/slider';
import { newGesture } from './gesture';

/** A number between two others, dragged. */
@Component({
  selector: 'zr-slider',
  imports: [MatSliderModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-slider [min]="min()" [max]="max()" [step]="step()" [disabled]="disabled()">
      <input
        matSliderThumb
        [attr.aria-label]="label()"
        [value]="value()"
        (dragStart)="begin()"
        (input)="slid($any($event.target).value)"
      />
    </mat-slider>
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    mat-slider {
      width: 100%;
      min-width: 0;
      margin: 0;
    }
  `,
})
export class SliderComponent {
  readonly label = input.required<string>();
  readonly value = input.required<number>();
  readonly min = input(0);
  readonly max = input(1);
  readonly step = input(0.01);
  readonly disabled = input(false);
  readonly changed = output<{ value: number; gesture: string }>();
  private gesture = newGesture();

  begin(): void {
    this.gesture = newGesture();
  }

  slid(value: string): void {
    const number = Number(value);
    if (number !== this.value()) this.changed.emit({ value: number, gesture: this.gesture });
  }
}
