import { RowComponent } from '../ui/row.component';
import { ChangeDetectionStrategy, Component, effect, ElementRef, inject } from '@angular/core';
import { Readiness } from '../state/readiness';
import { Studio } from '../state/studio';
import { CameraDeskComponent } from './camera-desk.component';
import { FinishDeskComponent } from './finish-desk.component';
import { LightsDeskComponent } from './lights-desk.component';
import { ModelDeskComponent } from './model-desk.component';
import { MotionDeskComponent } from './motion-desk.component';
import { ReelDeskComponent } from './reel-desk.component';
import { RenderDeskComponent } from './render-desk.component';
import { SetDeskComponent } from './set-desk.component';

/** What the present desk offers, and what there is to look at before rendering. */
@Component({
  selector: 'zr-desk',
  imports: [
    CameraDeskComponent,
    FinishDeskComponent,
    LightsDeskComponent,
    ModelDeskComponent,
    MotionDeskComponent,
    ReelDeskComponent,
    RenderDeskComponent,
    RowComponent,
    SetDeskComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @switch (studio.desk()) {
      @case ('model') {
        <zr-model-desk />
      }
      @case ('finish') {
        <zr-finish-desk />
      }
      @case ('set') {
        <zr-set-desk />
      }
      @case ('lights') {
        <zr-lights-desk />
      }
      @case ('camera') {
        <zr-camera-desk />
      }
      @case ('motion') {
        <zr-motion-desk />
      }
      @case ('render') {
        <zr-render-desk />
      }
      @case ('reel') {
        <zr-reel-desk />
      }
    }
    @for (warning of readiness.of(studio.desk()); track warning.text) {
      <zr-row class="warning" (press)="warning.show()"
        ><span>{{ warning.text }} · <b>show</b></span></zr-row
      >
    }
  `,
  styles: `
    .warning {
      width: 100%;
      margin-top: 12px;
      padding: 10px;
      border: 0;
      border-radius: 6px;
      background: color-mix(in srgb, var(--light) 16%, var(--panel));
      color: var(--text);
      font: inherit;
      text-align: left;
      cursor: pointer;
    }
  `,
})
export class DeskPanelComponent {
  readonly studio = inject(Studio);
  readonly readiness = inject(Readiness);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  constructor() {
    // Each desk begins at its top, wherever the one before was scrolled to.
    effect(() => {
      this.studio.desk();
      this.host.nativeElement.scrollTop = 0;
    });
  }
}
