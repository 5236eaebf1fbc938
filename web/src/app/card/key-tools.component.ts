import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatTooltipModule } from '@angular/material/tooltip';
import { propertyAt, type Shot } from '@zippy/core/document';
import {
  alignKeys,
  mirrorKeys,
  retimeKeys,
  reverseKeys,
  spaceKeys,
  stretchKeys,
  thinKeys,
} from '../store/edits/key-edits';
import { Studio } from '../store/studio';
import type { KeyMark } from '../store/view/view.state';
import { newGesture } from '../ui/gesture';
import { NumberFieldComponent } from '../ui/number-field.component';

/** When picked keys are, and what can be done with them together. */
@Component({
  selector: 'zr-key-tools',
  imports: [MatButtonModule, MatTooltipModule, NumberFieldComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="field">
      <span class="quiet">{{ several() ? 'From frame' : 'At frame' }}</span>
      <zr-number
        label="Frame of the first key"
        [value]="first()"
        [step]="1"
        (changed)="shift($event.value - first(), $event.gesture)"
      />
    </div>
    @if (value(); as value) {
      <div class="field">
        <span class="quiet">Value</span>
        <zr-number
          label="Value of the key"
          [value]="value.number / value.scale"
          [unit]="value.unit"
          [step]="value.step"
          [min]="value.min"
          [max]="value.max"
          (changed)="setValue($event.value * value.scale, $event.gesture)"
        />
      </div>
    }
    @if (several()) {
      <div class="field">
        <span class="quiet">Apart</span>
        <zr-number
          label="Frames from key to key"
          unit="frames"
          [value]="interval()"
          [min]="1"
          [step]="1"
          (changed)="change('Interval of keys', space($event.value), $event.gesture)"
        />
      </div>
      <div class="row" role="group" aria-label="Keys together">
        <button
          matButton="tonal"
          matTooltip="Twice as long, from the first key"
          (click)="change('Stretch keys', stretch(2))"
        >
          × 2
        </button>
        <button
          matButton="tonal"
          matTooltip="Half as long, from the first key"
          (click)="change('Stretch keys', stretch(0.5))"
        >
          ÷ 2
        </button>
        <button matButton="tonal" matTooltip="The last value first" (click)="change('Reverse keys', reverse)">
          Reverse
        </button>
        <button matButton="tonal" matTooltip="There, and the same way back" (click)="change('Mirror keys', mirror)">
          There and back
        </button>
        <button
          matButton="tonal"
          matTooltip="As long from each to the next"
          (click)="change('Even out keys', space(null))"
        >
          Even out
        </button>
        <button
          matButton="tonal"
          matTooltip="Takes away what hardly changes the way"
          (click)="change('Fewer keys', thin)"
        >
          Fewer
        </button>
      </div>
    }
    <div class="row">
      <button
        matButton="tonal"
        matTooltip="The first of each lane goes to the playhead"
        (click)="change('Align keys', align())"
      >
        To the playhead
      </button>
    </div>
  `,
  styles: `
    .field {
      display: grid;
      grid-template-columns: 86px 1fr;
      align-items: center;
      gap: 6px;
      min-height: 34px;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
      padding-block: 4px;
    }
  `,
})
export class KeyToolsComponent {
  private readonly studio = inject(Studio);
  readonly marks = this.studio.keys;
  readonly several = computed(() => new Set(this.marks().map(({ frame }) => frame)).size > 1);
  readonly first = computed(() => Math.min(...this.marks().map(({ frame }) => frame)));
  /** Frames from key to key, where there are several of one lane. */
  readonly interval = computed(() => {
    const frames = this.marks()
      .filter(({ path }) => path === this.marks()[0]?.path)
      .map(({ frame }) => frame)
      .sort((a, b) => a - b);
    return frames.length > 1 ? (frames.at(-1)! - frames[0]!) / (frames.length - 1) : 1;
  });
  /** The number that a single key holds. */
  readonly value = computed(() => {
    const [mark, more] = this.marks();
    const key = mark && this.studio.shot()?.tracks[mark.path]?.find(({ frame }) => frame === mark.frame);
    if (!mark || more || typeof key?.value !== 'number') return null;
    const { unit = '', scale = 1, step = 1, min = -1e9, max = 1e9 } = propertyAt(mark.path) ?? {};
    return { number: key.value, unit, scale, step, min: min / scale, max: max / scale };
  });

  readonly reverse = reverseKeys;
  readonly mirror = mirrorKeys;
  readonly thin = thinKeys;
  space = (interval: number | null) => (shot: Shot, marks: readonly KeyMark[]) => spaceKeys(shot, marks, interval);
  stretch = (factor: number) => (shot: Shot, marks: readonly KeyMark[]) =>
    stretchKeys(shot, marks, this.first(), factor);
  align = () => (shot: Shot, marks: readonly KeyMark[]) => alignKeys(shot, marks, Math.round(this.studio.restFrame()));

  shift(by: number, gesture: string): void {
    this.change('Move keys', (shot, marks) => retimeKeys(shot, marks, (frame) => frame + Math.round(by)), gesture);
  }

  setValue(value: number, gesture: string): void {
    const [mark] = this.marks();
    const id = this.studio.shotId();
    if (!mark || !id) return;
    this.studio.edit(
      'Value of a key',
      (draft) => {
        const key = draft.shots[id]!.tracks[mark.path]?.find(({ frame }) => frame === mark.frame);
        if (key) key.value = value;
      },
      gesture,
    );
  }

  /** The keys stay picked. */
  change(label: string, how: (shot: Shot, marks: readonly KeyMark[]) => KeyMark[], gesture = newGesture()): void {
    const [id, marks] = [this.studio.shotId(), this.marks()];
    if (!id) return;
    let made: KeyMark[] = [];
    this.studio.edit(label, (draft) => void (made = how(draft.shots[id]!, marks)), gesture);
    this.studio.pickKeys(made);
  }
}
