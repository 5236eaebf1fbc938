import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatTooltipModule } from '@angular/material/tooltip';
import { TakeOrders } from '../store/edits/take-orders';
import { TakeWork } from '../store/edits/take-work';
import { Studio } from '../store/studio';
import { IconComponent } from '../ui/icon.component';
import { many } from '../ui/many';
import { TextFieldComponent } from '../ui/text-field.component';
import { WordsFieldComponent } from '../ui/words-field.component';

/** What a take is, what its user says of it, and how to make one like it. */
@Component({
  selector: 'zr-take-about',
  imports: [DatePipe, IconComponent, MatButtonModule, MatTooltipModule, TextFieldComponent, WordsFieldComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (shown(); as take) {
      <div class="called">
        <button
          matIconButton
          [attr.aria-label]="note().starred ? 'Take the star away' : 'Star this take'"
          [attr.aria-pressed]="note().starred"
          matTooltip="Starred takes are found by their star"
          (click)="takeWork.note(take.id, { starred: !note().starred })"
        >
          <zr-icon [class.starred]="note().starred" name="star" />
        </button>
        <zr-text
          label="Name of the take"
          placeholder="Name of the take"
          [value]="note().name"
          (changed)="takeWork.note(take.id, { name: $event.trim() })"
        />
      </div>
      <zr-words label="Notes" [value]="note().note" (typed)="takeWork.note(take.id, { note: $event }, take.id)" />
      <p class="quiet">
        {{ take.shotName }}, frames {{ take.first }} to {{ take.last
        }}{{ take.settings.step > 1 ? ', every ' + take.settings.step + '.' : '' }} · {{ take.settings.width }} ×
        {{ take.settings.height }} · {{ way() }} · {{ take.createdAt | date: 'd MMM, HH:mm' }}
      </p>
      <div class="row">
        <button
          matButton="tonal"
          matTooltip="The same frames by the same settings, of the scene as it is now"
          (click)="orders.again(take)"
        >
          Render again
        </button>
        <button
          matButton
          matTooltip="Size, samples, layers and the rest become those of the next take"
          (click)="takeWork.takeSettings(take)"
        >
          Use its settings
        </button>
      </div>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
      margin-bottom: 8px;
    }
    .starred {
      color: var(--light);
    }
    .called {
      display: grid;
      grid-template-columns: auto 1fr;
      align-items: center;
    }
    p {
      margin: 0;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
    }
  `,
})
export class TakeAboutComponent {
  readonly takeWork = inject(TakeWork);
  readonly orders = inject(TakeOrders);
  private readonly studio = inject(Studio);
  readonly take = input.required<string>();
  readonly shown = computed(() => this.studio.takes().find(({ id }) => id === this.take()) ?? null);
  readonly note = computed(() => this.takeWork.noteOf(this.take()));
  readonly way = computed(() => {
    const settings = this.shown()?.settings;
    if (!settings) return '';
    const { samples, noiseTarget, secondsPerFrame, motionBlur } = settings;
    const light =
      secondsPerFrame > 0
        ? `${secondsPerFrame} s a frame`
        : noiseTarget > 0
          ? `noise ${(noiseTarget * 100).toFixed(1)} %, at most ${many(samples, 'sample')}`
          : many(samples, 'sample');
    return motionBlur ? light : `${light}, no blur`;
  });
}
