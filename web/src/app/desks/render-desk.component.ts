import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { defaultRenderSettings } from '@zippy/core/trace';
import { Api } from '../api/api';
import type { TakeView } from '../api/types';
import { Ask } from '../dialogs/ask';
import { FieldGroupsComponent } from '../fields/field-groups.component';
import { lookFields } from '../fields/field-specs';
import { NumberFieldComponent } from '../fields/number-field.component';
import { Session } from '../state/session';
import { Studio } from '../state/studio';
import { Things } from '../state/things';

const SIZES = [
  { name: '640 × 360', width: 640, height: 360 },
  { name: '960 × 540', width: 960, height: 540 },
  { name: '1920 × 1080', width: 1920, height: 1080 },
  { name: '1080 × 1080', width: 1080, height: 1080 },
  { name: '1080 × 1920', width: 1080, height: 1920 },
  { name: '3840 × 2160', width: 3840, height: 2160 },
];

/** Renders takes of the present shot, and lists those there are. */
@Component({
  selector: 'zr-render-desk',
  imports: [NumberFieldComponent, FieldGroupsComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Render "{{ studio.shot()?.name }}"</h2>
    <label
      >Size
      <span class="row two"
        ><zr-number
          label="Width"
          [value]="width()"
          [min]="16"
          [max]="8192"
          (changed)="width.set(round($event.value))" /><zr-number
          label="Height"
          [value]="height()"
          [min]="16"
          [max]="8192"
          unit="px"
          (changed)="height.set(round($event.value))"
      /></span>
    </label>
    <label
      >Ready sizes
      <select class="control" aria-label="Ready sizes" #size (change)="choose(size.value)">
        @for (each of sizes; track each.name) {
          <option [value]="each.name" [selected]="each.width === width() && each.height === height()">
            {{ each.name }}
          </option>
        }
      </select>
    </label>
    <label
      >Samples
      <zr-number
        label="Samples"
        [value]="samples()"
        [min]="1"
        [max]="65536"
        (changed)="samples.set(round($event.value))"
    /></label>
    <label
      >Frames
      <span class="row two"
        ><zr-number
          label="First frame"
          [value]="first()"
          [min]="1"
          [max]="length()"
          (changed)="first.set(round($event.value))" /><zr-number
          label="Last frame"
          [value]="last()"
          [min]="1"
          [max]="length()"
          (changed)="last.set(round($event.value))"
      /></span>
    </label>
    <div class="row">
      <button class="control primary" (click)="render(first(), last())">Render take</button>
      <button class="control" (click)="render(studio.frame(), studio.frame())">
        Still of frame {{ studio.frame() }}
      </button>
    </div>
    <h2>Takes</h2>
    @for (take of takes(); track take.id) {
      <div
        class="box"
        role="button"
        tabindex="0"
        [attr.aria-label]="'Take ' + take.number"
        [attr.aria-selected]="studio.primary()?.id === take.id"
        (click)="show(take)"
        (keydown.enter)="show(take)"
      >
        <span
          ><b>Take {{ take.number }}</b
          >&ngsp;<span class="quiet"
            >{{ take.shotName }} · {{ take.settings.width }} × {{ take.settings.height }} ·
            {{ take.settings.samples }} samples</span
          ></span
        >
        <progress [value]="take.done.length" [max]="take.last - take.first + 1"></progress>
        <span class="quiet">{{ told(take) }}</span>
        @if (take.failure) {
          <span class="warn">{{ take.failure }}</span>
        }
        <div class="row">
          @if (take.state === 'rendering' || take.state === 'waiting') {
            <button class="control" (click)="act($event, api.stopTake(take.id))">Stop</button>
          } @else if (take.state !== 'done') {
            <button class="control" (click)="act($event, api.continueTake(take.id))">Continue</button>
          }
          @if (take.done.length > 0) {
            <button class="control" (click)="reel($event, take)">Put on the reel</button>
          }
          <button class="control plain" (click)="remove($event, take)">Delete</button>
        </div>
      </div>
    } @empty {
      <div class="empty">No takes yet. Render a still of this frame to see its true light.</div>
    }
    @if (studio.primary()?.kind !== 'take') {
      <h2>Look of the project</h2>
      <zr-field-groups [groups]="look" />
    }
  `,
  styleUrl: './desk.scss',
  styles: `
    .two zr-number {
      flex: 1;
      min-width: 60px;
    }
  `,
})
export class RenderDeskComponent {
  readonly studio = inject(Studio);
  readonly api = inject(Api);
  private readonly ask = inject(Ask);
  private readonly session = inject(Session);
  private readonly things = inject(Things);
  readonly sizes = SIZES;
  readonly look = lookFields('look');
  readonly width = signal(960);
  readonly height = signal(540);
  readonly samples = signal(32);
  readonly length = computed(() => this.studio.shot()?.length ?? 1);
  readonly first = linkedSignal({ source: this.studio.shotId, computation: () => 1 });
  readonly last = linkedSignal({ source: this.length, computation: (length) => length });
  readonly takes = computed(() => [...this.studio.takes()].reverse());
  readonly round = Math.round;

  choose(name: string): void {
    const size = SIZES.find((each) => each.name === name)!;
    this.width.set(size.width);
    this.height.set(size.height);
  }

  told(take: TakeView): string {
    const count = take.last - take.first + 1;
    const same = count - take.distinct;
    const state = { waiting: 'waiting', rendering: 'rendering', stopped: 'stopped', done: 'done', failed: 'failed' }[
      take.state
    ];
    return `${state} · ${take.done.length} of ${count} frames${same > 0 ? ` · ${same} repeat and are traced once` : ''}`;
  }

  async render(first: number, last: number): Promise<void> {
    const { project, shot } = this.studio.state();
    if (!project || !shot) return;
    try {
      await this.session.save();
      const settings = {
        ...defaultRenderSettings(),
        width: this.width(),
        height: this.height(),
        samples: this.samples(),
      };
      const take = await this.api.createTake(project, shot, first, last, settings);
      await this.session.refreshTakes();
      this.show(take);
    } catch (error) {
      this.session.tell(error);
    }
  }

  /** Shows a take where its shot stands; its own look begins as the project's. */
  show(take: TakeView): void {
    if (take.shot !== this.studio.shotId() && this.studio.document().shots[take.shot]) this.studio.openShot(take.shot);
    const frame = Math.min(take.last, Math.max(take.first, this.studio.frame()));
    if (!this.studio.document().takeLooks[take.id]) {
      this.studio.edit('Look of the take', (draft) => void (draft.takeLooks[take.id] = { ...draft.look }));
    }
    this.studio.view({ shownTake: take.id, grade: 'take', frame });
    this.studio.select('take', take.id);
  }

  reel(event: Event, take: TakeView): void {
    event.stopPropagation();
    this.things.addClip(take.id, take.first, take.last);
    this.studio.view({ desk: 'reel' });
  }

  async remove(event: Event, take: TakeView): Promise<void> {
    event.stopPropagation();
    const text = 'Frames that other takes show too are kept.';
    if (await this.ask.sure(`Delete take ${take.number}?`, text, 'Delete'))
      await this.act(event, this.api.removeTake(take.id));
  }

  async act(event: Event, action: Promise<unknown>): Promise<void> {
    event.stopPropagation();
    try {
      await action;
      await this.session.refreshTakes();
    } catch (error) {
      this.session.tell(error);
    }
  }
}
