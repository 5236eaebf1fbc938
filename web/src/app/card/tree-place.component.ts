import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Studio } from '../store/studio';
import { Things } from '../store/edits/things';
import { SmallButtonComponent } from '../ui/small-button.component';

/** Where a part lies in the tree: what it hangs under, to be gone to, and the parts before and after it. */
@Component({
  selector: 'zr-tree-place',
  imports: [MatButtonModule, SmallButtonComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav aria-label="Place in the tree">
      <span class="way">
        @for (above of way(); track above.id) {
          <button matButton (click)="studio.select('node', above.id)">{{ above.name }}</button><span
            class="quiet"
            aria-hidden="true"
            >›</span
          >
        } @empty {
          <span class="quiet">At the top of the tree</span>
        }
      </span>
      <zr-small-button icon="earlier" label="Part before (B)" (press)="things.stepParts(-1)" />
      <zr-small-button icon="later" label="Next part (N)" (press)="things.stepParts(1)" />
    </nav>
  `,
  styles: `
    nav {
      display: flex;
      align-items: center;
    }
    .way {
      display: flex;
      flex: 1;
      align-items: center;
      min-width: 0;
      overflow: hidden;
    }
    button {
      min-width: 0;
      flex-shrink: 1;
      overflow: hidden;
    }
  `,
})
export class TreePlaceComponent {
  readonly studio = inject(Studio);
  readonly things = inject(Things);
  readonly node = input.required<string>();

  /** What it hangs under, the outermost first. */
  readonly way = computed(() => {
    const { nodes } = this.studio.document();
    const way: { id: string; name: string }[] = [];
    for (let at = nodes[this.node()]?.parent ?? null; at !== null; at = nodes[at]?.parent ?? null) {
      way.unshift({ id: at, name: nodes[at]?.name ?? '' });
    }
    return way;
  });
}
