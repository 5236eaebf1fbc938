import { booleanAttribute, ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatRippleModule } from '@angular/material/core';
import { MatTooltipModule } from '@angular/material/tooltip';
import { SmallButtonComponent } from '../../ui/small-button.component';

/** A finish on a shelf: its picture and name to press or drag, and a button that holds it beside others. More buttons go within. */
@Component({
  selector: 'zr-finish-tile',
  imports: [MatRippleModule, MatTooltipModule, SmallButtonComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '[class.worn]': 'worn()' },
  template: `
    <button matRipple class="face" [draggable]="draggable()" [matTooltip]="told() || name()" (click)="press.emit()">
      <i [class.waits]="!picture()" [style]="picture()"></i>
      <span>{{ name() }}</span>
    </button>
    <div class="aside">
      <ng-content />
      <zr-small-button
        icon="compare"
        [label]="(held() ? 'Put back ' : 'Hold up ') + name()"
        [pressed]="held()"
        (press)="hold.emit()"
      />
    </div>
  `,
  styles: `
    :host {
      position: relative;
      display: block;
      min-width: 0;
    }
    .face {
      display: grid;
      width: 100%;
      padding: 0;
      overflow: hidden;
      border: 0;
      border-radius: 6px;
      background: var(--raised);
      color: var(--text);
      font: 11px/1.2 var(--font);
      text-align: start;
      cursor: pointer;
    }
    .face[draggable='true'] {
      cursor: grab;
    }
    .face:hover {
      outline: 1px solid var(--quiet);
    }
    :host(.worn) .face {
      outline: 2px solid var(--select);
    }
    span {
      padding: 4px 6px 5px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    i {
      display: block;
      width: 100%;
      aspect-ratio: 1.2;
      background-size: cover;
    }
    .waits {
      background: linear-gradient(100deg, var(--raised), var(--panel), var(--raised));
    }
    .aside {
      position: absolute;
      inset-block-start: 0;
      inset-inline-end: 0;
      display: flex;
      border-radius: 6px;
      background: color-mix(in srgb, var(--panel) 70%, transparent);
      opacity: 0;
    }
    :host(:hover) .aside,
    :host(:focus-within) .aside,
    .aside:has([aria-pressed='true']) {
      opacity: 1;
    }
  `,
})
export class FinishTileComponent {
  readonly name = input.required<string>();
  /** What the hint says where that is more than the name. */
  readonly told = input('');
  /** Styles that show its picture; null while it is drawn. */
  readonly picture = input.required<Record<string, string> | null>();
  /** What is selected wears it. */
  readonly worn = input(false);
  readonly held = input.required<boolean>();
  readonly draggable = input(false, { transform: booleanAttribute });
  readonly press = output();
  readonly hold = output();
}
