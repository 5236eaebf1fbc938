import { ChangeDetectionStrategy, Component, effect, inject, signal, viewChild } from '@angular/core';
import { MatDividerModule } from '@angular/material/divider';
import { MatMenuModule, MatMenuTrigger } from '@angular/material/menu';
import { ThingActions, type ThingAction } from '../commands/thing-actions';
import { Studio } from '../store/studio';
import type { Selected } from '../store/view/view.state';
import { ThingMenu } from './thing-menu';

/** What can be done with what is selected, at the pointer. */
@Component({
  selector: 'zr-thing-menu',
  imports: [MatDividerModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span
      class="anchor"
      aria-hidden="true"
      [matMenuTriggerRestoreFocus]="false"
      [matMenuTriggerFor]="list"
      [style.left.px]="menu.at()?.x ?? 0"
      [style.top.px]="menu.at()?.y ?? 0"
    ></span>
    <mat-menu #list (closed)="close()">
      @for (action of actions(); track $index) {
        @if (action) {
          <button mat-menu-item (click)="action.run()">
            {{ action.name }}
            @if (action.keys) {
              <kbd class="mono quiet">{{ action.keys.replaceAll('+', ' ') }}</kbd>
            }
          </button>
        } @else {
          <mat-divider />
        }
      }
      @if (menu.behind().length > 0) {
        <mat-divider />
        <p class="quiet title">Behind it</p>
        @for (each of menu.behind(); track each.id) {
          <button mat-menu-item (click)="select(each)">{{ each.name }}</button>
        }
      }
    </mat-menu>
  `,
  styles: `
    .anchor {
      position: fixed;
      width: 0;
      height: 0;
    }
    .title {
      margin: 6px 16px 2px;
      font-size: 11px;
    }
    kbd {
      float: right;
      margin-inline-start: 24px;
      font-size: 11px;
    }
  `,
})
export class ThingMenuComponent {
  readonly menu = inject(ThingMenu);
  private readonly studio = inject(Studio);
  private readonly thingActions = inject(ThingActions);
  private readonly trigger = viewChild.required(MatMenuTrigger);
  readonly actions = signal<ThingAction[]>([]);

  /** What had the focus before. */
  private before: Element | null = null;

  select({ kind, id }: Selected): void {
    this.studio.select(kind, id);
  }

  close(): void {
    this.menu.at.set(null);
    (this.before as HTMLElement | null)?.focus({ preventScroll: true });
  }

  constructor() {
    effect(() => {
      if (!this.menu.at()) return;
      this.before = document.activeElement;
      const actions = this.thingActions.ofSelection();
      if (actions.length === 0) return;
      this.actions.set(actions);
      // The place of the anchor is drawn first.
      queueMicrotask(() => this.trigger().openMenu());
    });
  }
}
