import { ThingDirective } from '../../menu/thing.directive';
import { RowComponent } from '../../ui/row.component';
import { MatButtonModule } from '@angular/material/button';
import { MatTooltipModule } from '@angular/material/tooltip';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { entityName, type ProjectDocument } from '@zippy/core/document';
import { findSeamFaults, type SeamFault } from '@zippy/core/motion';
import { Folds } from '../../fields/folds';
import { MOVE_STARTS } from '../../kinds/moves';
import { ChoiceComponent } from '../../ui/choice.component';
import { FoldComponent } from '../../ui/fold.component';
import { SmallButtonComponent } from '../../ui/small-button.component';
import { Studio } from '../../store/studio';
import { Moves } from '../../store/edits/moves';
import { Shines } from '../../store/edits/shines';
import { Shots } from '../../store/edits/shots';
import { MoveButtonComponent } from './move-button.component';
import { saySeamFault } from './seam-words';

const COLLECTIONS = { node: 'nodes', light: 'lights', camera: 'cameras', finish: 'finishes' } as const;
const TIMES = [
  { value: 'shot', label: 'Fill the shot' },
  { value: 'playhead', label: 'From the playhead on' },
];
const FAMILIES = (
  [
    ['turn', 'Turn'],
    ['place', 'Go'],
    ['camera', 'Camera'],
    ['light', 'Light, colour, on and off'],
  ] as const
).map(([of, title]) => ({ of, title, starts: MOVE_STARTS.filter(({ family }) => family === of) }));

/** Puts things in motion by moves with plain numbers. */
@Component({
  selector: 'zr-motion-desk',
  imports: [
    ChoiceComponent,
    FoldComponent,
    MatButtonModule,
    MatTooltipModule,
    MoveButtonComponent,
    RowComponent,
    SmallButtonComponent,
    ThingDirective,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>
      Put in motion <span class="quiet">{{ targetName() }}</span>
    </h2>
    <div class="when">
      <span class="quiet">New moves</span>
      <zr-choice
        label="When new moves happen"
        [options]="times"
        [value]="moveEdits.time()"
        (chosen)="moveEdits.setTime($any($event))"
      />
    </div>
    @for (family of families(); track family.title) {
      <zr-fold
        [title]="family.title"
        [open]="!folds.has('moves: ' + family.of)"
        (turned)="folds.set('moves: ' + family.of, !$event)"
      >
        <div class="grid">
          @for (each of family.starts; track each.start.title) {
            <zr-move-button [kind]="each.kind" [start]="each.start" />
          }
          @if (family.of === 'light') {
            <button
              matButton="tonal"
              disabledInteractive
              class="more"
              [disabled]="!lamp()"
              [matTooltip]="lamp() ? 'Drag along the product: the highlight runs that way' : 'Select a light'"
              (click)="shines.sweep(lamp()!)"
            >
              <svg viewBox="0 0 34 16" aria-hidden="true"><path d="M3 13c8-10 20-10 28 0M9 8l2-3m6 1V2m8 6 2-3" /></svg>
              Sweep
            </button>
          }
        </div>
      </zr-fold>
    }
    @if (!studio.primary()) {
      <div class="empty">
        Nothing is selected: turns are of the whole product, camera moves of the camera of this shot. Select parts,
        lights or finishes for the others. The wave sign beside a field sets keys; its menu puts moves on that value.
      </div>
    }
    @if (own().length > 0) {
      <h2>In this shot</h2>
      @for (move of own(); track move.id) {
        <zr-row
          [zrThing]="{ kind: 'move', id: move.id }"
          [picked]="studio.selectedIds().has(move.id)"
          [off]="move.muted"
          (press)="studio.select('move', move.id, $event.ctrlKey || $event.metaKey || $event.shiftKey)"
        >
          <span class="name">{{ move.name }}</span>
          <span class="quiet">{{ nameOf(move.target) }}</span>
          <zr-small-button
            beside
            [icon]="move.muted ? 'eyeOff' : 'eye'"
            [label]="(move.muted ? 'Let act: ' : 'Mute: ') + move.name + ' of ' + nameOf(move.target)"
            [pressed]="move.muted"
            (press)="moveEdits.mute([move.id])"
          />
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
        @if (found.length > 0) {
          <button
            matButton="tonal"
            matTooltip="Turns become whole, and what goes away comes back"
            (click)="shotEdits.mendLoop(); checkLoop()"
          >
            Make it loop
          </button>
        }
      } @else if (still()) {
        <p class="quiet" role="status">Nothing moves in "{{ shot.name }}".</p>
      }
    }
  `,
  styleUrl: '../desk.scss',
  styles: `
    .when {
      display: grid;
      grid-template-columns: auto 1fr;
      align-items: center;
      gap: 8px;
    }
    .more {
      padding: 0 6px;
      justify-content: flex-start;
    }
    .more svg {
      width: 24px;
      flex: none;
    }
    .more path {
      fill: none;
      stroke: var(--motion);
      stroke-width: 1.8;
      stroke-linecap: round;
    }
    .more[aria-disabled='true'] path {
      stroke: currentcolor;
    }
  `,
})
export class MotionDeskComponent {
  readonly studio = inject(Studio);
  readonly moveEdits = inject(Moves);
  readonly shines = inject(Shines);
  readonly shotEdits = inject(Shots);
  readonly folds = inject(Folds);
  readonly times = TIMES;
  /** What can be used of what is selected comes first. */
  readonly families = computed(() => {
    const can = (family: (typeof FAMILIES)[number]) =>
      family.starts.filter(({ kind }) => this.moveEdits.targets(kind).length > 0).length / family.starts.length;
    return FAMILIES.map((family) => ({ family, share: can(family) }))
      .sort((a, b) => b.share - a.share)
      .map(({ family }) => family);
  });
  readonly lamp = computed(() => {
    const primary = this.studio.primary();
    return primary?.kind === 'light' ? primary.id : null;
  });
  readonly own = computed(() => Object.values(this.studio.shot()?.moves ?? {}).sort((a, b) => a.start - b.start));
  readonly targetName = computed(() => {
    const meant = this.moveEdits.meant().filter(({ kind }) => kind in COLLECTIONS);
    const [first] = meant;
    if (!first) return '';
    const name = this.nameOf(`${COLLECTIONS[first.kind as keyof typeof COLLECTIONS]}/${first.id}`);
    return meant.length > 1 ? `${name} and ${meant.length - 1} more` : name;
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

  nameOf = (path: string): string => entityName(this.studio.document(), path);
}
