import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { LIMITS, type FinishMap } from '@zippy/core/document';
import { hexFromLinear } from '@zippy/core/optics';
import { ColorFieldComponent } from '../ui/color-field.component';
import { IconComponent } from '../ui/icon.component';
import { NumberFieldComponent } from '../ui/number-field.component';
import { SmallButtonComponent } from '../ui/small-button.component';

export type Shades = NonNullable<FinishMap['shades']>;

/** Colours from dark to bright. */
@Component({
  selector: 'zr-map-shades',
  imports: [ColorFieldComponent, IconComponent, MatButtonModule, NumberFieldComponent, SmallButtonComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (shades(); as stops) {
      <div class="bar" [style.background]="bar()"></div>
      @for (stop of stops; track $index) {
        <div class="stop">
          <zr-number
            [label]="'Place of colour ' + ($index + 1)"
            [value]="stop.at * 100"
            unit="%"
            [min]="$index === 0 ? 0 : stops[$index - 1]!.at * 100"
            [max]="$index === stops.length - 1 ? 100 : stops[$index + 1]!.at * 100"
            (changed)="change($index, { at: $event.value / 100 }, $event.gesture)"
          />
          <zr-color
            [label]="'Colour ' + ($index + 1)"
            [value]="stop.color"
            (changed)="change($index, { color: $event.value }, $event.gesture)"
          />
          @if (stops.length > 2) {
            <zr-small-button icon="trash" [label]="'Remove colour ' + ($index + 1)" (press)="remove($index)" />
          }
        </div>
      }
      <button matButton [disabled]="stops.length >= most" (click)="add()"><zr-icon name="plus" /> Add a colour</button>
      <button matButton (click)="changed.emit({ shades: null, gesture: '' })">Without colours</button>
    } @else {
      <button matButton (click)="begin()">Give it colours…</button>
    }
  `,
  styles: `
    :host {
      display: block;
      padding-block: 4px;
    }
    .bar {
      height: 16px;
      margin-block: 2px 6px;
      border-radius: 4px;
    }
    .stop {
      display: grid;
      grid-template-columns: 76px minmax(0, 1fr) auto;
      gap: 6px;
      align-items: center;
      min-height: 32px;
    }
  `,
})
export class MapShadesComponent {
  readonly shades = input.required<Shades | null>();
  readonly changed = output<{ shades: Shades | null; gesture: string }>();
  readonly most = LIMITS.shadesOfMap;
  readonly bar = computed(() => {
    const stops = (this.shades() ?? []).map(({ at, color }) => `${hexFromLinear(color)} ${at * 100}%`);
    return `linear-gradient(to right, ${stops.join(', ')})`;
  });

  begin(): void {
    this.changed.emit({
      shades: [
        { at: 0, color: [0.05, 0.05, 0.05] },
        { at: 1, color: [0.8, 0.8, 0.8] },
      ],
      gesture: '',
    });
  }

  change(index: number, over: Partial<Shades[number]>, gesture: string): void {
    this.changed.emit({
      shades: this.shades()!.map((stop, k) => (k === index ? { ...stop, ...over } : stop)),
      gesture,
    });
  }

  remove(index: number): void {
    this.changed.emit({ shades: this.shades()!.filter((_, k) => k !== index), gesture: '' });
  }

  /** In the widest gap, with the colour that is there. */
  add(): void {
    const stops = this.shades()!;
    const gaps = stops.slice(1).map(({ at }, k) => at - stops[k]!.at);
    const widest = gaps.indexOf(Math.max(...gaps));
    const [a, b] = [stops[widest]!, stops[widest + 1]!];
    const middle = {
      at: (a.at + b.at) / 2,
      color: a.color.map((v, k) => (v + b.color[k]!) / 2) as [number, number, number],
    };
    this.changed.emit({ shades: stops.toSpliced(widest + 1, 0, middle), gesture: '' });
  }
}
