import { ThingDirective } from '../../menu/thing.directive';
import { RowComponent } from '../../ui/row.component';
import { MatButtonModule } from '@angular/material/button';
import { MatTooltipModule } from '@angular/material/tooltip';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { entityName, type MoveKind, type ProjectDocument } from '@zippy/core/document';
import { findSeamFaults, MOVE_KINDS, type SeamFault } from '@zippy/core/motion';
import { MOVE_VIEWS } from '../../kinds/moves';
import { Studio } from '../../store/studio';
import { Things } from '../../store/edits/things';
import { saySeamFault } from './seam-words';

/** Puts things in motion by moves with plain numbers. */
@Component({
  selector: 'zr-motion-desk',
  imports: [ThingDirective, MatButtonModule, MatTooltipModule, RowComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>
      Put in motion <span class="quiet">{{ targetName() }}</span>
    </h2>
    <div class="grid">
      @for (move of moves; track move.kind) {
        <button
          matButton="tonal"
          disabledInteractive
          [disabled]="things.targets(move.kind).length === 0"
          [matTooltip]="things.targets(move.kind).length > 0 ? move.does : move.needs"
          (click)="things.addMoves(move.kind, things.targets(move.kind))"
        >
          <svg viewBox="0 0 34 16" aria-hidden="true"><path [attr.d]="move.drawing" /></svg>{{ move.name }}
        </button>
      }
    </div>
    @if (!studio.primary()) {
      <div class="empty">
        Select a part, light or camera in the picture first. Every field with a wave sign can also have keys.
      </div>
    }
    @if (own().length > 0) {
      <h2>In this shot</h2>
      @for (move of own(); track move.id) {
        <zr-row
          [zrThing]="{ kind: 'move', id: move.id }"
          [picked]="studio.selectedIds().has(move.id)"
          (press)="studio.select('move', move.id, $event.ctrlKey || $event.metaKey || $event.shiftKey)"
        >
          <span class="name">{{ move.name }}</span>
          <span class="quiet">{{ nameOf(move.target) }}</span>
        </zr-row>
      }
    }
    @if (studio.shot(); as shot) {
      <button matButton="tonal" matTooltip="Whether the last frame runs into the first" (click)="checkLoop()">
        Does it loop?
      </button>
      @if (faults(); as found) {
        @for (fault of found; track $index) {
          <zr-row (press)="show(fault.path)">{{ say(fault) }}</zr-row>
        } @empty {
          <p class="quiet" role="status">"{{ shot.name }}" runs evenly from its last frame into its first.</p>
        }
      } @else if (still()) {
        <p class="quiet" role="status">Nothing moves in "{{ shot.name }}".</p>
      }
    }
  `,
  styleUrl: '../desk.scss',
  styles: `
    .grid .control {
      gap: 6px;
      padding: 0 6px;
    }
    svg {
      width: 24px;
      flex: none;
    }
    path {
      fill: none;
      stroke: var(--motion);
      stroke-width: 1.8;
      stroke-linecap: round;
      stroke-linejoin: round;
    }
  `,
})
export class MotionDeskComponent {
  readonly studio = inject(Studio);
  readonly things = inject(Things);
  readonly moves = (Object.keys(MOVE_VIEWS) as MoveKind[]).map((kind) => ({
    kind,
    name: MOVE_KINDS[kind].title,
    ...MOVE_VIEWS[kind],
  }));
  readonly own = computed(() => Object.values(this.studio.shot()?.moves ?? {}).sort((a, b) => a.start - b.start));
  readonly targetName = computed(() => {
    const primary = this.studio.primary();
    const acts = primary && ['node', 'light', 'camera', 'finish'].includes(primary.kind);
    return acts ? this.nameOf(`${primary.kind}s/${primary.id}`) : '';
  });

  /** What the loop was checked on; another state of the project is not checked yet. */
  private readonly checked = signal<{ document: ProjectDocument; shot: string; faults: SeamFault[] | null } | null>(
    null,
  );
  private readonly verdict = computed(() => {
    const checked = this.checked();
    const same = checked?.document === this.studio.document() && checked.shot === this.studio.shot()?.id;
    return same ? checked : null;
  });
  readonly faults = computed(() => this.verdict()?.faults ?? null);
  readonly still = computed(() => this.verdict()?.faults === null);

  checkLoop(): void {
    const shot = this.studio.shot();
    const document = this.studio.document();
    if (shot) this.checked.set({ document, shot: shot.id, faults: findSeamFaults(document, shot) });
  }

  say = (fault: SeamFault): string => saySeamFault(this.studio.document(), fault);

  show(path: string): void {
    const [collection, id] = path.split('/') as [string, string];
    const kinds = { nodes: 'node', cameras: 'camera', lights: 'light', finishes: 'finish' } as const;
    const kind = kinds[collection as keyof typeof kinds];
    if (kind) this.studio.select(kind, id);
    else this.studio.openDesk('set');
  }

  nameOf = (path: string): string => entityName(this.studio.document(), path.replace('finishs/', 'finishes/'));
}
