import { CdkDrag, CdkDropList, type CdkDragDrop } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { frameCount } from '@zippy/core/document';
import type { Take } from '@zippy/core/wire';
import { ThingDirective } from '../../menu/thing.directive';
import { queueOf, TakeWork } from '../../store/edits/take-work';
import { Studio } from '../../store/studio';
import { ChoiceComponent } from '../../ui/choice.component';
import { IconComponent } from '../../ui/icon.component';
import { many } from '../../ui/many';
import { RowComponent } from '../../ui/row.component';
import { sayDuration } from '../../ui/say-duration';
import { SmallButtonComponent } from '../../ui/small-button.component';

/** Takes that are listed before more are asked for. */
const AT_FIRST = 30;

const FINDS = {
  all: 'All takes',
  shot: 'Takes of this shot',
  starred: 'Starred takes',
  failed: 'Takes that failed or were paused',
} as const;
type Find = keyof typeof FINDS;

const STATES: Record<Take['state'], string> = {
  waiting: 'waiting',
  rendering: 'rendering',
  stopped: 'paused',
  done: 'done',
  failed: 'failed',
};

/** The queue in its order, and all takes, the newest first. */
@Component({
  selector: 'zr-take-list',
  imports: [
    CdkDrag,
    CdkDropList,
    ChoiceComponent,
    IconComponent,
    MatButtonModule,
    MatProgressBarModule,
    RowComponent,
    SmallButtonComponent,
    ThingDirective,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (queue().length > 0) {
      <h2>
        Queue <span class="quiet mono">{{ leftInAll() }}</span>
      </h2>
      <div class="queue" cdkDropList aria-label="Queue" (cdkDropListDropped)="drop($event)">
        @for (take of queue(); track take.id; let k = $index) {
          <div class="waits" cdkDrag [cdkDragData]="take">
            <zr-row [label]="'In the queue: take ' + take.number" (press)="takeWork.show(take)">
              <span class="name">Take {{ take.number }} · {{ take.shotName }}</span>
              <span class="quiet mono">{{ k === 0 ? atWork() : many(left(take), 'frame') }}</span>
            </zr-row>
            @if (k > 0) {
              <zr-small-button icon="earlier" [label]="'Take ' + take.number + ' earlier'" (press)="move(k, k - 1)" />
            }
            @if (k < queue().length - 1) {
              <zr-small-button icon="later" [label]="'Take ' + take.number + ' later'" (press)="move(k, k + 1)" />
            }
          </div>
        }
      </div>
      <div class="row"><button matButton="tonal" (click)="takeWork.stopAll()">Pause all</button></div>
    }
    <h2>Takes</h2>
    @if (studio.takes().length > 3) {
      <zr-choice label="Which takes" [options]="finds" [value]="find()" (chosen)="look($event)" />
    }
    @for (take of shown(); track take.id) {
      <div
        class="box"
        [zrThing]="{ kind: 'take', id: take.id }"
        [class.picked]="studio.selectedIds().has(take.id)"
        role="group"
        [attr.aria-label]="'Take ' + take.number"
      >
        <zr-row
          [picked]="studio.selectedIds().has(take.id)"
          [label]="'Show take ' + take.number"
          (press)="takeWork.show(take)"
        >
          <span
            ><b>Take {{ take.number }}</b
            >{{ nameOf(take) }}
            @if (takeWork.noteOf(take.id).starred) {
              <zr-icon class="starred" name="star" />
            }
            <span class="quiet"
              >{{ take.shotName }} · {{ take.settings.width }} × {{ take.settings.height }} ·
              {{ many(take.settings.samples, 'sample') }}</span
            ></span
          >
        </zr-row>
        <mat-progress-bar
          [attr.aria-label]="'Frames of take ' + take.number"
          [value]="(100 * doneOf(take)) / frameCount(take)"
        />
        <span class="quiet">{{ told(take) }}</span>
        @if (take.failure) {
          <span class="warn">{{ take.failure }}</span>
        }
        <div class="row">
          @if (take.state === 'rendering' || take.state === 'waiting') {
            <button matButton="tonal" (click)="takeWork.stop(take)">Pause</button>
          } @else if (take.state !== 'done') {
            <button matButton="tonal" (click)="takeWork.continue(take)">
              {{ take.state === 'failed' ? 'Try again' : 'Go on' }}
            </button>
          }
          @if (take.done.length > 0) {
            <button matButton="tonal" (click)="takeWork.putOnReel(take)">Put on the reel</button>
          }
          <button matButton (click)="takeWork.remove(take)">Delete</button>
        </div>
      </div>
    } @empty {
      @if (studio.takes().length === 0) {
        <div class="empty">No takes yet. Render a still of this frame to see its true light.</div>
      } @else {
        <p class="quiet">None of {{ many(studio.takes().length, 'take') }} is of that kind.</p>
      }
    }
    @if (more() > 0) {
      <button matButton (click)="most.set(most() + 100)">Show {{ many(more(), 'older take') }}</button>
    }
  `,
  styleUrl: '../desk.scss',
  styles: `
    .waits {
      display: flex;
      align-items: center;
      border-radius: 6px;
      background: var(--raised);
      margin-bottom: 2px;
    }
    .waits zr-row {
      flex: 1;
      min-width: 0;
    }
    .starred {
      color: var(--light);
    }
    .picked {
      outline: 1px solid var(--select);
    }
  `,
})
export class TakeListComponent {
  readonly studio = inject(Studio);
  readonly takeWork = inject(TakeWork);
  readonly many = many;
  readonly frameCount = frameCount;
  readonly finds = Object.entries(FINDS).map(([value, label]) => ({ value, label }));
  readonly find = signal<Find>('all');
  readonly most = signal(AT_FIRST);
  readonly queue = computed(() => queueOf(this.studio.takes()));
  private readonly found = computed(() => {
    const [find, shot, notes] = [this.find(), this.studio.shotId(), this.studio.document().takeNotes];
    const takes = [...this.studio.takes()].reverse();
    if (find === 'shot') return takes.filter((take) => take.shot === shot);
    if (find === 'starred') return takes.filter(({ id }) => notes[id]?.starred);
    if (find === 'failed') return takes.filter(({ state }) => state === 'failed' || state === 'stopped');
    return takes;
  });
  readonly shown = computed(() => this.found().slice(0, this.most()));
  readonly more = computed(() => this.found().length - this.shown().length);

  /** How far the frame at work is, and how long its take will be. */
  readonly atWork = computed(() => {
    const [working, first] = [this.studio.working(), this.queue()[0]];
    if (!working || working.take !== first?.id) return 'begins';
    const left = working.secondsLeft === null ? '' : ` · ${sayDuration(working.secondsLeft)} left`;
    return `frame ${working.frame}: ${Math.floor(working.part * 100)} %${left}`;
  });
  /** Of the whole queue, by what a frame of the take at work takes: others may be larger or smaller. */
  readonly leftInAll = computed(() => {
    const [working, queue] = [this.studio.working(), this.queue()];
    const [first, ...rest] = queue;
    if (!first || working?.take !== first.id || working.secondsLeft === null || rest.length === 0) return '';
    const each = working.secondsLeft / Math.max(1e-6, this.left(first) - working.part);
    const cost = ({ settings }: Take) => settings.width * settings.height * settings.samples;
    const seconds = rest.reduce((sum, take) => sum + (this.left(take) * each * cost(take)) / cost(first), working.secondsLeft); // prettier-ignore
    return `about ${sayDuration(seconds)} in all`;
  });

  look(find: string): void {
    this.find.set(find as Find);
    this.most.set(AT_FIRST);
  }

  nameOf(take: Take): string {
    const { name } = this.takeWork.noteOf(take.id);
    return name === '' ? ' ' : ` · ${name} `;
  }

  left = (take: Take): number => Math.max(0, frameCount(take) - take.done.length);

  /** Frames that are there, with the part of the one at work. */
  doneOf(take: Take): number {
    const working = this.studio.working();
    return take.done.length + (working?.take === take.id ? working.part : 0);
  }

  told(take: Take): string {
    const same = take.named - take.distinct;
    const older = this.studio.isOlder(take) ? ' · older than the scene' : '';
    return `${STATES[take.state]} · ${take.done.length} of ${many(frameCount(take), 'frame')}${same > 0 ? ` · ${same} repeat and are traced once` : ''}${older}`;
  }

  drop({ previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    this.move(previousIndex, currentIndex);
  }

  move(from: number, to: number): void {
    const queue = this.queue();
    const take = queue[from];
    if (!take || from === to) return;
    const others = queue.filter(({ id }) => id !== take.id);
    void this.takeWork.queueBefore(take, others[to] ?? null);
  }
}
