import { ChangeDetectionStrategy, Component, computed, inject, type OnDestroy } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatTooltipModule } from '@angular/material/tooltip';
import { Matching, type Marked } from '../../tasks/match/matching';
import { Studio } from '../../store/studio';
import { ChoiceComponent } from '../../ui/choice.component';
import { FoldComponent } from '../../ui/fold.component';
import { NumberRowComponent } from '../../ui/number-row.component';

/** The camera that the plate was filmed by, from marks in the picture. */
@Component({
  selector: 'zr-match',
  imports: [
    ChoiceComponent,
    FoldComponent,
    MatButtonModule,
    MatProgressBarModule,
    MatTooltipModule,
    NumberRowComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <zr-fold title="Match to the plate" [open]="matching.open()">
      @if (matching.plate() === null) {
        <p class="quiet">No picture fills the frame behind the product yet. Choose "Plate" under Seen behind first.</p>
        <button matButton="tonal" (click)="studio.openDesk('set')">To the Set desk</button>
      } @else if (!matching.open()) {
        <p class="quiet">Marks in the plate tell where it was taken from, and with which lens.</p>
        <button matButton="tonal" (click)="matching.start()">Mark the ground</button>
      } @else {
        <zr-choice
          label="What is marked"
          [options]="kinds"
          [value]="matching.kind()"
          (chosen)="matching.kind.set($any($event))"
        />
        @if (matching.marking()) {
          <p class="quiet">{{ asks() }}</p>
        } @else {
          <p class="quiet">The lines are the ground as this frame's camera sees it. Marks are on another frame.</p>
          <button matButton (click)="matching.markHere()">Mark this frame instead</button>
        }
        @if (matching.kind() === 'rectangle') {
          <zr-number-row
            name="Near edge"
            unit="mm"
            [value]="matching.width() ?? 0"
            [min]="0"
            [max]="1e6"
            (changed)="matching.width.set($event > 0 ? $event : null)"
          />
          <zr-number-row
            name="Side edge"
            unit="mm"
            [value]="matching.depth() ?? 0"
            [min]="0"
            [max]="1e6"
            matTooltip="0 where it is not known: it is found then"
            (changed)="matching.depth.set($event > 0 ? $event : null)"
          />
        } @else {
          <zr-number-row
            name="Camera at"
            label="Height of the camera"
            unit="mm"
            [value]="matching.height()"
            [min]="0.1"
            [max]="1e6"
            (changed)="matching.height.set($event)"
          />
        }
        <zr-number-row
          name="Lens"
          label="Focal length"
          unit="mm"
          [value]="matching.focalLength() ?? 0"
          [min]="0"
          [max]="2000"
          matTooltip="0 where it is not known: it is found then"
          (changed)="matching.focalLength.set($event > 0 ? $event : null)"
        />
        <p role="status" [class.problem]="matching.found().camera === null">{{ matching.says() }}</p>
        @if (matching.progress(); as progress) {
          <mat-progress-bar
            aria-label="Following the clip"
            mode="determinate"
            [value]="(100 * progress.done) / progress.of"
          />
          <p class="quiet">Frame {{ progress.done }} of {{ progress.of }}</p>
          <button matButton (click)="matching.stop()">Stop</button>
        } @else {
          <div class="row">
            <button
              matButton="tonal"
              disabledInteractive
              [disabled]="matching.found().camera === null"
              (click)="matching.put()"
            >
              Put the camera there
            </button>
            @if (matching.filmed()) {
              <button
                matButton="tonal"
                disabledInteractive
                matTooltip="Follows the marks through the clip, and has a camera move as the one that filmed it"
                [disabled]="matching.found().camera === null"
                (click)="matching.track()"
              >
                Follow the clip
              </button>
            }
            <button matButton (click)="matching.open.set(false)">Done</button>
          </div>
        }
        @if (matching.misses().length > 0) {
          <p class="quiet" role="status">Followed: {{ worst() }}</p>
          <svg
            class="misses"
            [attr.viewBox]="'0 0 ' + matching.misses().length + ' 2'"
            preserveAspectRatio="none"
            aria-hidden="true"
          >
            @for (miss of matching.misses(); track $index) {
              <rect
                width="1"
                [attr.x]="$index"
                [attr.y]="2 - min(2, miss ?? 2)"
                [attr.height]="min(2, miss ?? 2)"
                [class.lost]="miss === null"
              />
            }
          </svg>
        }
      }
    </zr-fold>
  `,
  styles: `
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
    }
    p {
      margin: 6px 0;
    }
    .problem {
      color: var(--motion);
    }
    .misses {
      width: 100%;
      height: 36px;
      background: var(--sunk);
    }
    .misses rect {
      fill: var(--select);
    }
    .misses .lost {
      fill: var(--motion);
    }
  `,
})
export class MatchComponent implements OnDestroy {
  readonly matching = inject(Matching);
  readonly studio = inject(Studio);
  readonly min = Math.min;
  readonly kinds: { value: Marked; label: string }[] = [
    { value: 'rectangle', label: 'A rectangle on the ground' },
    { value: 'directions', label: 'Edges of two directions' },
  ];
  readonly asks = computed(() =>
    this.matching.kind() === 'rectangle'
      ? 'Drag the marks onto the corners of something rectangular that lies on the ground. Arrow keys move them by a little.'
      : 'Drag two lines along edges that run across, two along edges that run away, and the last mark to where the origin shall be.',
  );
  /** How far points were from where they should be. */
  readonly worst = computed(() => {
    const misses = this.matching.misses().filter((miss) => miss !== null);
    const lost = this.matching.misses().length - misses.length;
    const { miss, points } = this.matching.solved()!;
    const mean = miss * (this.studio.pictureSize().width / 2);
    return `${points} points within ${mean.toFixed(2)} px, ${Math.max(...misses).toFixed(2)} px on the worst frame${lost > 0 ? `, ${lost} frames lost` : ''}`;
  });

  ngOnDestroy(): void {
    this.matching.open.set(false);
  }
}
