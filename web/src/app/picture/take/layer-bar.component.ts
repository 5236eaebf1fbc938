import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatChipsModule } from '@angular/material/chips';
import { MatTooltipModule } from '@angular/material/tooltip';
import { layerView } from '@zippy/core/develop';
import { ShownLayer } from '../../store/shown-layer';
import { ChoiceComponent } from '../../ui/choice.component';
import { IconComponent } from '../../ui/icon.component';

const PICTURE = '';

/** Below a take: which of its layers is looked at, what its greys stand for, and what a matte is made of. */
@Component({
  selector: 'zr-layer-bar',
  imports: [ChoiceComponent, IconComponent, MatButtonModule, MatChipsModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <zr-choice
      label="Layer"
      [options]="options()"
      [value]="shown.layer() ?? ''"
      (chosen)="shown.choose($event || null)"
    />
    @if (says(); as words) {
      <span class="quiet">{{ words }}</span>
    }
    @if (shown.range(); as range) {
      <span class="mono">{{ range }}</span>
    }
    @if (shown.things(); as things) {
      @if (shown.names().length > 0) {
        <mat-chip-set aria-label="The matte is made of">
          @for (name of shown.names(); track name) {
            <mat-chip (removed)="shown.toggle(name)">
              {{ name }}
              <button matChipRemove [attr.aria-label]="'Take ' + name + ' out of the matte'">
                <zr-icon name="close" />
              </button>
            </mat-chip>
          }
        </mat-chip-set>
        <button
          matButton="tonal"
          matTooltip="White where they are, black elsewhere; save it with the frames of the take"
          [attr.aria-pressed]="shown.matteSeen()"
          (click)="shown.matteSeen.set(!shown.matteSeen())"
        >
          Matte
        </button>
      }
    }
  `,
  styles: `
    :host {
      position: absolute;
      z-index: 1;
      inset: auto 8px 8px 8px;
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      align-items: center;
      width: fit-content;
      max-width: calc(100% - 16px);
      padding: 4px 8px;
      border-radius: 6px;
      background: var(--panel);
      font-size: 12px;
    }
    zr-choice {
      width: 150px;
    }
    .quiet {
      max-width: 360px;
    }
  `,
  host: {
    '(pointerdown)': '$event.stopPropagation()',
    '(pointerup)': '$event.stopPropagation()',
    '(pointermove)': '$event.stopPropagation()',
  },
})
export class LayerBarComponent {
  readonly shown = inject(ShownLayer);
  readonly options = computed(() => [
    { value: PICTURE, label: 'Picture' },
    ...this.shown.there().map((name) => {
      const title = layerView(name)?.title ?? name;
      return { value: name, label: name.startsWith('light:') ? `Light: ${title}` : title };
    }),
  ]);
  readonly says = computed(() => {
    const layer = this.shown.layer();
    if (layer === null) return '';
    return this.shown.names().length > 0 ? '' : (layerView(layer)?.says ?? '');
  });
}
