import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatTooltipModule } from '@angular/material/tooltip';
import { copyOf, defaultLook, lookOf } from '@zippy/core/document';
import { LookToolsComponent } from '../fields/look-tools.component';
import { ReelEdits } from '../store/edits/reel-edits';
import { ReelFilm } from '../store/reel/reel-film';
import { Studio } from '../store/studio';
import { many } from '../ui/many';

/** What a clip on the reel is of, and what is done to it. */
@Component({
  selector: 'zr-clip-tools',
  imports: [LookToolsComponent, MatButtonModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="quiet">{{ about() }}</p>
    <div class="row">
      <button matButton="tonal" matTooltip="Cuts the clip at the playhead in two (X)" (click)="edits.split()">
        Split
      </button>
      @if (pictured()) {
        <button
          matButton="tonal"
          matTooltip="The next click in the picture is the point that stays in sight where it is cut"
          [attr.aria-pressed]="reel.aiming() === clip()"
          (click)="aim()"
        >
          Point that counts
        </button>
        <button
          matButton="tonal"
          [attr.aria-pressed]="own()"
          matTooltip="The clip is graded by itself, whatever its take wears"
          (click)="switchLook()"
        >
          {{ own() ? 'Without own look' : 'Own look' }}
        </button>
      }
    </div>
    @if (own()) {
      <zr-look-tools [at]="at()" />
    }
  `,
  styles: `
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      margin-bottom: 6px;
    }
    p {
      margin: 0 0 6px;
    }
  `,
})
export class ClipToolsComponent {
  private readonly studio = inject(Studio);
  readonly edits = inject(ReelEdits);
  readonly reel = inject(ReelFilm);
  readonly clip = input.required<string>();
  readonly at = computed((): `reel/clips/${string}/look` => `reel/clips/${this.clip()}/look`);
  private readonly entity = computed(() => this.studio.document().reel.clips[this.clip()]);
  readonly own = computed(() => Boolean(this.entity()?.look));
  readonly pictured = computed(() => this.entity()?.source.kind !== 'plain');
  readonly about = computed(() => {
    const laid = this.reel.laid(this.clip());
    if (!laid) return '';
    const { source, frames } = laid;
    const size = source.size ? ` · ${source.size.width} × ${source.size.height}` : '';
    return `${source.name}${source.detail ? ` · ${source.detail}` : ''}${size} · ${many(frames, 'frame')} of the film`;
  });

  aim(): void {
    this.reel.aiming.set(this.reel.aiming() === this.clip() ? null : this.clip());
    this.reel.show();
  }

  /** It begins as that of its take, or as nothing that is done to what was filmed. */
  switchLook(): void {
    const id = this.clip();
    const of = this.reel.laid(id)?.source.of;
    const take = of && 'take' in of ? of.take : null;
    this.studio.edit('Look of the clip', (draft) => {
      const clip = draft.reel.clips[id];
      if (!clip) return;
      clip.look = clip.look ? null : take ? copyOf(lookOf(draft, take.shot, take.id)) : { ...defaultLook(), tone: 'straight', denoise: 0, specks: 0 }; // prettier-ignore
    });
  }
}
