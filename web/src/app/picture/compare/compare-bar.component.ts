import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatTooltipModule } from '@angular/material/tooltip';
import { TakeWork } from '../../store/edits/take-work';
import { ShownLayer } from '../../store/shown-layer';
import { Studio } from '../../store/studio';
import type { Against, CompareWay } from '../../store/view/view.state';
import { ChoiceComponent } from '../../ui/choice.component';
import { KeptPicture } from './kept-picture';

const WAYS: Record<CompareWay, string> = { edge: 'Edge', beside: 'Beside', difference: 'Difference', blink: 'Blink' };

/** What the picture is held against, and how. */
@Component({
  selector: 'zr-compare-bar',
  imports: [ChoiceComponent, MatButtonModule, MatButtonToggleModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (studio.wipe(); as wipe) {
      <span class="quiet">against</span>
      <zr-choice
        label="Against"
        [options]="others()"
        [value]="wipe.against"
        (chosen)="studio.setWipe({ at: wipe.at, way: wipe.way, against: $any($event) })"
      />
      <mat-button-toggle-group
        aria-label="How they are compared"
        hideSingleSelectionIndicator
        [value]="wipe.way"
        (change)="studio.setWipe({ at: wipe.at, against: wipe.against, way: $event.value })"
      >
        @for (way of ways; track way) {
          <mat-button-toggle [value]="way">{{ WAYS[way] }}</mat-button-toggle>
        }
      </mat-button-toggle-group>
      <button matButton matTooltip="Keeps what is seen now, to hold later pictures against" (click)="keeping.keep()">
        Keep this picture
      </button>
    }
  `,
  styles: `
    :host {
      position: absolute;
      z-index: 2;
      top: 52px;
      left: 50%;
      translate: -50%;
      display: flex;
      gap: 8px;
      align-items: center;
      padding: 2px 8px;
      border-radius: 6px;
      background: var(--panel);
      font-size: 12px;
      white-space: nowrap;
    }
    zr-choice {
      width: 130px;
    }
  `,
  host: {
    '(pointerdown)': '$event.stopPropagation()',
    '(pointerup)': '$event.stopPropagation()',
  },
})
export class CompareBarComponent {
  readonly studio = inject(Studio);
  readonly keeping = inject(KeptPicture);
  private readonly takeWork = inject(TakeWork);
  private readonly shown = inject(ShownLayer);
  readonly WAYS = WAYS;
  readonly ways = Object.keys(WAYS) as CompareWay[];
  readonly others = computed(() => {
    const [grade, kept, shown] = [this.studio.grade(), this.keeping.kept(), this.shown.take()];
    const options: { value: Against; label: string }[] = [
      { value: 'sketch', label: 'Sketch' },
      { value: 'traced', label: 'Traced' },
    ];
    if (shown && grade !== 'take') options.push({ value: 'take', label: `Take ${shown.number}` });
    for (const take of [...this.studio.takes()].reverse()) {
      if (take.id === shown?.id || take.done.length === 0) continue;
      const { name } = this.takeWork.noteOf(take.id);
      options.push({ value: `take:${take.id}`, label: `Take ${take.number} · ${name || take.shotName}` });
    }
    if (kept) options.push({ value: 'kept', label: kept.name });
    return options.filter(({ value }) => value !== grade && !(grade === 'settle' && value === 'sketch'));
  });
}
