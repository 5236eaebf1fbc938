import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatRippleModule } from '@angular/material/core';
import { MatTooltipModule } from '@angular/material/tooltip';
import { pictureFiles } from '@zippy/core/document';
import { evaluate } from '@zippy/core/motion';
import { READY_SETS, type ReadySet } from '@zippy/core/sets';
import { ReadySets } from '../../store/edits/ready-sets';
import { SceneBounds } from '../../store/scene-bounds';
import { Studio } from '../../store/studio';
import { FoldComponent } from '../../ui/fold.component';
import { SmallPictures, type Wish } from '../small-pictures/small-pictures';

const WIDTH = 176;
/** Milliseconds without a change after which pictures are drawn. */
const CALM = 1500;

/** Ready sets with the present product in each; a click takes one in place of the set that is there. */
@Component({
  selector: 'zr-ready-sets',
  imports: [FoldComponent, MatButtonModule, MatRippleModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <zr-fold title="Ready sets" [open]="true">
      <div class="surprise">
        <button
          matButton="tonal"
          matTooltip="A set made up for this product; each one stays below"
          (click)="ready.surprise()"
        >
          Surprise me
        </button>
      </div>
      @if (ready.seen().length > 0) {
        <div class="seen" role="group" aria-label="Surprises seen before">
          @for (seed of ready.seen(); track seed) {
            <button
              matRipple
              class="tile"
              [class.worn]="'Surprise ' + seed === present()"
              [attr.aria-label]="'Surprise ' + seed"
              [attr.aria-pressed]="'Surprise ' + seed === present()"
              (click)="'Surprise ' + seed === present() || ready.surprise(seed)"
            >
              <i [style.background-image]="pictureOf('Surprise ' + seed)" [style.aspect-ratio]="aspect()"></i>
            </button>
          }
        </div>
      }
      <div class="sets">
        @for (ready of sets; track ready.name) {
          <button
            matRipple
            class="tile"
            [class.worn]="ready.name === present()"
            [attr.aria-pressed]="ready.name === present()"
            matTooltip="Floor, surroundings, lamps and look at once; product, motion and cameras stay"
            (click)="ready.name === present() || put(ready)"
          >
            <i [style.background-image]="pictureOf(ready.name)" [style.aspect-ratio]="aspect()"></i>
            <span>{{ ready.name }}</span>
          </button>
        }
      </div>
    </zr-fold>
  `,
  styles: `
    .sets {
      display: grid;
      grid-template-columns: repeat(2, minmax(0, 1fr));
      gap: 6px;
    }
    .surprise {
      padding-block-end: 6px;
    }
    .seen {
      display: flex;
      gap: 6px;
      padding: 2px 2px 8px;
      overflow-x: auto;
    }
    .seen .tile {
      flex: none;
      width: 76px;
    }
    .tile {
      display: grid;
      padding: 0;
      overflow: hidden;
      border: 0;
      border-radius: 6px;
      background: var(--raised);
      color: var(--text);
      font: 11px/1.2 var(--font);
      text-align: start;
      cursor: pointer;
    }
    .tile:hover {
      outline: 1px solid var(--quiet);
    }
    .tile.worn {
      outline: 2px solid var(--select);
    }
    i {
      background: color-mix(in srgb, var(--quiet) 18%, var(--panel)) center / cover;
    }
    span {
      padding: 4px 6px 5px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
  `,
})
export class ReadySetsComponent {
  private readonly studio = inject(Studio);
  private readonly bounds = inject(SceneBounds);
  readonly ready = inject(ReadySets);
  private readonly pictures = inject(SmallPictures);
  readonly sets = READY_SETS;
  readonly present = computed(() => this.studio.document().set.ready?.name ?? null);
  readonly aspect = computed(() => {
    const { width, height } = this.studio.shot()?.picture ?? this.studio.document().picture;
    return Math.min(2, Math.max(0.6, width / height));
  });
  /** What pictures show of the project: all but the set. */
  private readonly product = computed(() => {
    const { nodes, finishes, colourway, set, cameras } = this.studio.document();
    const props = new Set(set.ready?.nodes);
    const own = Object.values(nodes).filter(({ id }) => !props.has(id));
    return JSON.stringify([own, finishes, colourway, this.studio.shotId(), cameras, this.bounds.meshes().size]);
  });

  constructor() {
    effect((onCleanup) => {
      const product = this.product();
      this.ready.seen();
      if (this.studio.frameStateAtRest().parts.length === 0) return;
      const timer = setTimeout(() => untracked(() => this.draw(product)), CALM);
      onCleanup(() => clearTimeout(timer));
    });
    inject(DestroyRef).onDestroy(() => this.pictures.rest('sets'));
  }

  pictureOf(name: string): string | null {
    const address = this.pictures.of('sets', name);
    return address ? `url(${address})` : null;
  }

  put(ready: ReadySet): void {
    this.ready.put(ready);
  }

  private draw(product: string): void {
    const [height, frame] = [Math.round(WIDTH / this.aspect()), this.studio.restFrame()];
    const all = [...this.ready.seen().map((seed) => this.ready.madeUp(seed)), ...READY_SETS];
    const drawing = (ready: ReadySet) => () => {
      const tried = this.ready.tried(ready);
      const shot = tried.shots[this.studio.shotId() ?? ''] ?? null;
      const state = evaluate(tried, shot, frame);
      const pictures = pictureFiles(tried.assets);
      return { state, look: tried.look, width: WIDTH, height, samples: 12, depth: 6, pictures };
    };
    const wish = (ready: ReadySet): Wish => ({ shows: product, draw: drawing(ready) });
    this.pictures.want('sets', new Map(all.map((ready) => [ready.name, wish(ready)])));
  }
}
