import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatExpansionModule } from '@angular/material/expansion';

/** Something that folds under its title. */
@Component({
  selector: 'zr-fold',
  imports: [MatExpansionModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-expansion-panel
      [expanded]="open()"
      class="mat-elevation-z0"
      (opened)="turned.emit(true)"
      (closed)="turned.emit(false)"
    >
      <mat-expansion-panel-header>
        <mat-panel-title>{{ title() }}</mat-panel-title>
      </mat-expansion-panel-header>
      <ng-content />
    </mat-expansion-panel>
  `,
  styles: `
    :host {
      display: block;
    }
  `,
})
export class FoldComponent {
  readonly title = input.required<string>();
  readonly open = input(true);
  readonly turned = output<boolean>();
}
