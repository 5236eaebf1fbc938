import { ChangeDetectionStrategy, Component, effect, inject, signal, viewChild } from '@angular/core';
import { MatDividerModule } from '@angular/material/divider';
import { MatMenuModule, MatMenuTrigger } from '@angular/material/menu';
import { FieldMoves } from './field-moves';

/** The menu of a field's wave sign: moves that can drive its value, from what it is now. */
@Component({
  selector: 'zr-field-moves',
  imports: [MatDividerModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span
      class="anchor"
      aria-hidden="true"
      [matMenuTriggerFor]="list"
      [style.left.px]="menu.at()?.x ?? 0"
      [style.top.px]="menu.at()?.y ?? 0"
    ></span>
    <mat-menu #list (closed)="menu.at.set(null)">
      <p class="quiet">Put {{ menu.at()?.label?.toLowerCase() }} in motion</p>
      @for (each of offered(); track each.start.title) {
        <button mat-menu-item (click)="menu.put(each)">{{ each.start.title }}</button>
      } @empty {
        <p>No move acts on this. Set keys for it instead.</p>
      }
      <mat-divider />
      @for (each of actions(); track each.name) {
        <button mat-menu-item (click)="each.run()">{{ each.name }}</button>
      }
    </mat-menu>
  `,
  styles: `
    .anchor {
      position: fixed;
      width: 0;
      height: 0;
    }
    p {
      margin: 6px 16px 4px;
      font-size: 11px;
    }
  `,
})
export class FieldMovesComponent {
  readonly menu = inject(FieldMoves);
  private readonly trigger = viewChild.required(MatMenuTrigger);
  readonly offered = signal<ReturnType<FieldMoves['offered']>>([]);
  readonly actions = signal<ReturnType<FieldMoves['actions']>>([]);

  constructor() {
    effect(() => {
      if (!this.menu.at()) return;
      this.offered.set(this.menu.offered());
      this.actions.set(this.menu.actions());
      // The place of the anchor is drawn first.
      queueMicrotask(() => this.trigger().openMenu());
    });
  }
}
