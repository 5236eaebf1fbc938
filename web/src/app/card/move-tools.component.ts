import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatTooltipModule } from '@angular/material/tooltip';
import type { Move } from '@zippy/core/document';
import { MovePicks } from '../store/edits/move-picks';
import type { Order } from '../store/edits/move-order';
import { Moves } from '../store/edits/moves';
import { WaysApart } from '../store/edits/ways-apart';
import { Studio } from '../store/studio';
import { ChoiceComponent } from '../ui/choice.component';
import { newGesture } from '../ui/gesture';
import { NumberFieldComponent } from '../ui/number-field.component';
import { MoveStationsComponent } from './move-stations.component';

const ORDERS: { value: Order; label: string }[] = [
  { value: 'picked', label: 'as picked' },
  { value: 'x', label: 'along X' },
  { value: 'y', label: 'along Y' },
  { value: 'z', label: 'along Z' },
  { value: 'middle', label: 'from the middle' },
  { value: 'random', label: 'at random' },
];
const KINDS = { nodes: 'node', lights: 'light', cameras: 'camera', finishes: 'finish' } as const;
const ALONG = [
  { value: 'middle', label: 'From the middle' },
  { value: 'x', label: 'Along X' },
  { value: 'y', label: 'Along Y' },
  { value: 'z', label: 'Along Z' },
] as const;

/** What can be done with moves besides their numbers. */
@Component({
  selector: 'zr-move-tools',
  imports: [ChoiceComponent, MatButtonModule, MatTooltipModule, MoveStationsComponent, NumberFieldComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (moves().length > 1) {
      <h2>One after the other</h2>
      <div class="row">
        <zr-number
          label="Frames from one to the next"
          unit="frames"
          [value]="gap()"
          [step]="1"
          [min]="0"
          (changed)="stagger($event.value, order(), $event.gesture)"
        />
        <zr-choice
          label="In which order"
          [options]="orders"
          [value]="order()"
          (chosen)="stagger(gap(), $any($event))"
        />
      </div>
    }
    @if (single(); as move) {
      @switch (move.kind) {
        @case ('route') {
          <zr-move-stations [move]="move" />
        }
        @case ('focusPull') {
          <div class="row" role="group" aria-label="What is sharp">
            <button matButton="tonal" (click)="picks.pull(move.id, 'from')">Click what is sharp first</button>
            <button matButton="tonal" (click)="picks.pull(move.id, 'to')">Click what is sharp then</button>
          </div>
        }
        @case ('aimPull') {
          <div class="row" role="group" aria-label="What it looks at">
            <button matButton="tonal" (click)="picks.pull(move.id, 'from')">Click what it looks at first</button>
            <button matButton="tonal" (click)="picks.pull(move.id, 'to')">Click what it looks at then</button>
          </div>
        }
        @case ('follow') {
          <div class="row">
            <button matButton="tonal" (click)="picks.leader(move.id)">Click what it follows</button>
          </div>
        }
        @case ('explode') {
          <div class="row" role="group" aria-label="Ways on which it comes apart">
            @for (way of along; track way.value) {
              <button matButton="tonal" (click)="apart(move, way.value)">{{ way.label }}</button>
            }
            <button
              matButton="tonal"
              [attr.aria-pressed]="everyPart()"
              (click)="everyPart.set(!everyPart()); apart(move, led())"
            >
              Every part
            </button>
          </div>
        }
        @case ('stops') {
          <div class="row" role="group" aria-label="Stops">
            <button matButton="tonal" matTooltip="Between the last two" (click)="addStop(move)">Add a stop</button>
            <button matButton="tonal" [disabled]="move.stops.length < 2" (click)="dropStop(move)">
              Take the last away
            </button>
            <button matButton="tonal" (click)="evenStops(move)">Even out</button>
          </div>
        }
      }
      @if (turns()) {
        <div class="row" role="group" aria-label="What it turns about">
          <button matButton="tonal" (click)="picks.axis(move.id)">Click a round face</button>
          <button matButton="tonal" (click)="picks.center(move.id)">Click the point</button>
        </div>
      }
    }
    @if (things(); as things) {
      <div class="on">
        <span class="quiet">Acts on</span>
        <zr-choice
          label="What it acts on"
          [options]="things.options"
          [value]="things.value"
          (chosen)="retarget($event)"
        />
      </div>
    }
    <div class="row">
      <button matButton="tonal" matTooltip="Writes keys that do the same" (click)="edits.unfold(ids())">
        Unfold into keys
      </button>
      <button matButton="tonal" [attr.aria-pressed]="muted()" (click)="edits.mute(ids())">Mute</button>
    </div>
  `,
  styles: `
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
      padding-block: 4px;
    }
    .on {
      display: grid;
      grid-template-columns: 86px 1fr;
      align-items: center;
      gap: 6px;
    }
    zr-number,
    zr-choice {
      flex: 1;
      min-width: 0;
    }
  `,
})
export class MoveToolsComponent {
  readonly studio = inject(Studio);
  readonly edits = inject(Moves);
  readonly picks = inject(MovePicks);
  private readonly waysApart = inject(WaysApart);
  readonly ids = input.required<string[]>();
  readonly orders = ORDERS;
  readonly along = ALONG;
  readonly moves = computed((): Move[] => this.ids().flatMap((id) => this.studio.shot()?.moves[id] ?? []));
  readonly single = computed(() => (this.moves().length === 1 ? this.moves()[0]! : null));
  /** What else the one that is picked could act on. */
  readonly things = computed(() => {
    const move = this.single();
    const [collection, id = ''] = move?.target.split('/') ?? [];
    const kind = KINDS[collection as keyof typeof KINDS];
    if (!move || !kind) return null;
    const record = this.studio.document()[collection as keyof typeof KINDS] as Record<
      string,
      { id: string; name: string }
    >;
    const options = Object.values(record)
      .filter((each) => this.edits.canActOn(move, { kind, id: each.id }))
      .map((each) => ({ value: each.id, label: each.name }));
    return { kind, options, value: id };
  });
  readonly turns = computed(() => ['turntable', 'hinge', 'tick'].includes(this.single()?.kind ?? ''));
  readonly muted = computed(() => this.moves().every(({ muted }) => muted));
  readonly order = signal<Order>('picked');
  /** Frames from one to the next, as they stand. */
  readonly gap = computed(() => {
    const starts = this.moves()
      .map(({ start }) => start)
      .sort((a, b) => a - b);
    return starts.length > 1 ? Math.round((starts.at(-1)! - starts[0]!) / (starts.length - 1)) : 0;
  });
  readonly everyPart = signal(false);
  readonly led = signal<(typeof ALONG)[number]['value']>('middle');

  retarget(id: string): void {
    const things = this.things();
    if (things) this.edits.retarget(this.ids(), { kind: things.kind, id });
  }

  stagger(frames: number, order: Order, gesture = newGesture()): void {
    this.order.set(order);
    this.edits.stagger(this.ids(), frames, order, gesture);
  }

  apart(move: Move, along: (typeof ALONG)[number]['value']): void {
    this.led.set(along);
    const ways = this.waysApart.of(move.target.split('/')[1]!, along, this.everyPart());
    this.edits.change('Ways apart', move.id, (draft) => void (draft.kind === 'explode' && (draft.ways = ways)));
  }

  addStop(move: Move): void {
    this.edits.change('Add a stop', move.id, (draft) => {
      if (draft.kind !== 'stops') return;
      const [last, before] = [draft.stops.at(-1)!, draft.stops.at(-2)];
      const at = before ? (last.at + before.at) / 2 : Math.min(1, last.at + 0.5);
      draft.stops.push({ at, value: structuredClone(move.kind === 'stops' ? move.stops.at(-1)!.value : 0) });
      draft.stops.sort((a, b) => a.at - b.at);
    });
  }

  dropStop(move: Move): void {
    this.edits.change('Take a stop away', move.id, (draft) => void (draft.kind === 'stops' && draft.stops.pop()));
  }

  evenStops(move: Move): void {
    this.edits.change('Even out stops', move.id, (draft) => {
      if (draft.kind !== 'stops') return;
      const spans = Math.max(1, draft.stops.length - 1);
      draft.stops.forEach((stop, k) => (stop.at = k / spans));
    });
  }
}
