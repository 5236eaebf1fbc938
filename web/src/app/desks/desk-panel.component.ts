import { NgComponentOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, effect, ElementRef, inject, signal, type Type } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Readiness } from '../store/readiness';
import { Notices } from '../store/notices';
import { Studio } from '../store/studio';
import { RowComponent } from '../ui/row.component';
import { DESK_ENTRIES, type Desk } from './registry';

/** What the present desk offers, and what there is to look at before rendering. */
@Component({
  selector: 'zr-desk',
  imports: [MatButtonModule, NgComponentOutlet, RowComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (panel(); as panel) {
      <ng-container *ngComponentOutlet="panel" />
    }
    @for (warning of readiness.of(studio.desk()); track warning.text) {
      <div class="warning">
        <zr-row (press)="warning.show()"
          ><span>{{ warning.text }} · <b>show</b></span></zr-row
        >
        @for (mend of warning.mends ?? []; track mend.name) {
          <button matButton (click)="mend.run()">{{ mend.name }}</button>
        }
      </div>
    }
  `,
  styles: `
    .warning {
      margin-top: 12px;
      padding: 4px 0;
      border-radius: 6px;
      background: color-mix(in srgb, var(--light) 16%, var(--panel));
    }
  `,
})
export class DeskPanelComponent {
  readonly studio = inject(Studio);
  readonly readiness = inject(Readiness);
  private readonly notices = inject(Notices);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  /** Those that have been opened. */
  private readonly loaded = new Map<Desk, Type<unknown>>();
  readonly panel = signal<Type<unknown> | null>(null);

  constructor() {
    effect(() => {
      const desk = this.studio.desk();
      // Each desk begins at its top, wherever the one before was scrolled to.
      this.host.nativeElement.scrollTop = 0;
      void this.open(desk);
    });
  }

  private async open(desk: Desk): Promise<void> {
    try {
      const panel = this.loaded.get(desk) ?? (await DESK_ENTRIES[desk].load());
      this.loaded.set(desk, panel);
      if (this.studio.desk() === desk) this.panel.set(panel);
    } catch {
      this.notices.tell('This desk could not be loaded, as the server does not answer. Open it again when it is back.');
    }
  }
}
