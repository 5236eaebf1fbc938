import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatChipsModule } from '@angular/material/chips';
import { nodeOptions } from '../fields/light-fields';
import { PickingTask } from '../store/picking';
import { Studio } from '../store/studio';
import { ChoiceComponent } from '../ui/choice.component';
import { IconComponent } from '../ui/icon.component';

/** Parts that a lamp lights alone, or leaves out. */
@Component({
  selector: 'zr-lamp-parts',
  imports: [ChoiceComponent, IconComponent, MatButtonModule, MatChipsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (lamp(); as lamp) {
      @if (lamp.reaches !== 'all') {
        <h2>{{ lamp.reaches === 'only' ? 'Lights these alone' : 'Lights all but these' }}</h2>
        <mat-chip-set [attr.aria-label]="lamp.reaches === 'only' ? 'Lit alone' : 'Left out'">
          @for (part of parts(); track part.id) {
            <mat-chip (removed)="take(part.id)">
              {{ part.name }}
              <button matChipRemove [attr.aria-label]="'Take ' + part.name + ' off'"><zr-icon name="close" /></button>
            </mat-chip>
          }
        </mat-chip-set>
        @if (parts().length === 0) {
          <p class="quiet">
            {{ lamp.reaches === 'only' ? 'Nothing yet, so it lights nothing.' : 'Nothing yet, so it lights all.' }}
          </p>
        }
        <div class="add">
          <zr-choice label="Add a part" placeholder="Add a part" [options]="others()" value="" (chosen)="add($event)" />
          <button matButton (click)="pick()">Pick</button>
        </div>
      }
    }
  `,
  styles: `
    .add {
      display: flex;
      gap: 4px;
      padding-block: 4px;
    }
    zr-choice {
      flex: 1;
      min-width: 0;
    }
    p {
      margin: 2px 0;
    }
  `,
})
export class LampPartsComponent {
  readonly light = input.required<string>();
  private readonly studio = inject(Studio);
  private readonly picking = inject(PickingTask);
  readonly lamp = computed(() => this.studio.present().lights[this.light()]);
  readonly parts = computed(() => {
    const { nodes, lights } = this.studio.document();
    return (lights[this.light()]?.parts ?? []).flatMap((id) => nodes[id] ?? []);
  });
  readonly others = computed(() => {
    const chosen = new Set(this.parts().map(({ id }) => id));
    return nodeOptions(this.studio.document(), 'Add a part').filter(({ value }) => !chosen.has(value));
  });

  add(node: string): void {
    if (node === '' || !this.studio.document().nodes[node]) return;
    this.studio.edit('Parts that a lamp lights', (draft) => {
      const { parts } = draft.lights[this.light()]!;
      if (!parts.includes(node)) parts.push(node);
    });
  }

  take(node: string): void {
    this.studio.edit('Parts that a lamp lights', (draft) => {
      const light = draft.lights[this.light()]!;
      light.parts = light.parts.filter((id) => id !== node);
    });
  }

  /** Takes the part that is clicked in the picture next. */
  pick(): void {
    this.picking.task.set({
      kind: 'part',
      say: 'Click the part',
      done: ({ node }) => this.add(node),
    });
  }
}
