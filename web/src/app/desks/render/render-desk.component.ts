import { ThingDirective } from '../../menu/thing.directive';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { ChoiceComponent } from '../../ui/choice.component';
import { RowComponent } from '../../ui/row.component';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatButtonModule } from '@angular/material/button';
import { FileButtonComponent } from '../../ui/file-button.component';
import { MatTooltipModule } from '@angular/material/tooltip';
import { FoldComponent } from '../../ui/fold.component';
import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { defaultRenderSettings, type Layer, type Prediction, type RenderSettings } from '@zippy/core/trace';
import { Api } from '../../api/api';
import type { Take } from '@zippy/core/wire';
import { Importer } from '../../dialogs/importer';
import { FieldGroupsComponent } from '../../fields/field-groups.component';
import { lookFields } from '../../fields/field-specs';
import { NumberFieldComponent } from '../../ui/number-field.component';
import { Session } from '../../state/session';
import { TakeWork } from '../../state/take-work';
import { Studio } from '../../state/studio';
import { many } from '../../state/many';

const SIZES = [
  { name: '640 × 360', width: 640, height: 360 },
  { name: '960 × 540', width: 960, height: 540 },
  { name: '1920 × 1080', width: 1920, height: 1080 },
  { name: '1080 × 1080', width: 1080, height: 1080 },
  { name: '1080 × 1920', width: 1080, height: 1920 },
  { name: '3840 × 2160', width: 3840, height: 2160 },
];

const LAYER_NAMES: { id: Layer; name: string }[] = [
  { id: 'lights', name: 'Each light' },
  { id: 'mattes', name: 'Mattes' },
  { id: 'emission', name: 'Emission' },
  { id: 'shadow', name: 'Shadow' },
  { id: 'occlusion', name: 'Occlusion' },
  { id: 'position', name: 'Position' },
  { id: 'motion', name: 'Motion' },
];

/** Renders takes of the present shot, and lists those there are. */
@Component({
  selector: 'zr-render-desk',
  imports: [
    ThingDirective,
    ChoiceComponent,
    FieldGroupsComponent,
    FileButtonComponent,
    FoldComponent,
    MatButtonModule,
    MatCheckboxModule,
    MatProgressBarModule,
    MatTooltipModule,
    NumberFieldComponent,
    RowComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Render "{{ studio.shot()?.name }}"</h2>
    <div class="pair">
      <span class="quiet">Size</span>
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
    </div>
    <div class="pair">
      <span class="quiet">Ready sizes</span>
      <zr-choice
        label="Ready sizes"
        placeholder="Own size"
        [options]="sizeOptions"
        [value]="ready()?.name ?? null"
        (chosen)="choose($event)"
      />
    </div>
    <div class="pair">
      <span class="quiet">Samples</span>
      <zr-number
        label="Samples"
        [value]="samples()"
        [min]="1"
        [max]="65536"
        (changed)="samples.set(round($event.value))"
      />
    </div>
    <div class="pair">
      <span class="quiet">Frames</span>
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
    </div>
    <zr-fold title="Noise, time and layers" [open]="false">
      <div class="pair">
        <span class="quiet">Enough at noise</span>
        <zr-number
          label="Enough at noise"
          [value]="noiseTarget()"
          [min]="0"
          [max]="50"
          [step]="0.1"
          unit="%"
          (changed)="noiseTarget.set($event.value)"
        />
      </div>
      <div class="pair">
        <span class="quiet">Longest per frame</span>
        <zr-number
          label="Longest per frame"
          [value]="seconds()"
          [min]="0"
          [max]="86400"
          unit="s"
          (changed)="seconds.set($event.value)"
        />
      </div>
      <p class="quiet">0 is no limit: every pixel then gets all samples.</p>
      <div class="layers" role="group" aria-label="Layers kept">
        @for (layer of layerNames; track layer.id) {
          <mat-checkbox [checked]="layers().includes(layer.id)" (change)="toggleLayer(layer.id)">{{
            layer.name
          }}</mat-checkbox>
        }
      </div>
    </zr-fold>
    @if (studio.state().region; as region) {
      <p class="quiet">
        Only the region marked in the picture is rendered.
        <button matButton (click)="studio.view({ region: null })">Whole picture</button>
      </p>
    }
    <div class="row">
      <button matButton="tonal" [disabled]="predicting()" (click)="predict()">
        {{ predicting() ? 'Measuring…' : 'How long, how noisy?' }}
      </button>
      <button matButton="tonal" matTooltip="First, middle and last frame, each as a take" (click)="test()">
        Test frames
      </button>
    </div>
    @if (prediction(); as each) {
      <p class="told" role="status">
        @if (each.frames === 0) {
          Every frame of this range is there already.
        } @else {
          {{ many(each.frames, 'frame') }} in about <b>{{ time(each.seconds.expected) }}</b> {{ range(each.seconds) }},
          noise about <b>{{ percent(each.noise.expected) }}</b> before denoising ({{ percent(each.noise.low) }} to
          {{ percent(each.noise.high) }}).
        }
      </p>
    }
    <div class="row">
      <button matButton="filled" (click)="render(first(), last())">Render take</button>
      <button matButton="tonal" (click)="render(studio.frame(), studio.frame())">
        Still of frame {{ studio.frame() }}
      </button>
    </div>
    <h2>Takes</h2>
    @for (take of takes(); track take.id) {
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
            >&ngsp;<span class="quiet"
              >{{ take.shotName }} · {{ take.settings.width }} × {{ take.settings.height }} ·
              {{ many(take.settings.samples, 'sample') }}</span
            ></span
          >
        </zr-row>
        <mat-progress-bar
          [aria-label]="'Frames of take ' + take.number"
          [value]="(100 * take.done.length) / (take.last - take.first + 1)"
        />
        <span class="quiet">{{ told(take) }}</span>
        @if (take.failure) {
          <span class="warn">{{ take.failure }}</span>
        }
        <div class="row">
          @if (take.state === 'rendering' || take.state === 'waiting') {
            <button matButton="tonal" (click)="takeWork.stop(take)">Stop</button>
          } @else if (take.state !== 'done') {
            <button matButton="tonal" (click)="takeWork.continue(take)">Continue</button>
          }
          @if (take.done.length > 0) {
            <button matButton="tonal" (click)="takeWork.putOnReel(take)">Put on the reel</button>
          }
          <button matButton (click)="takeWork.remove(take)">Delete</button>
        </div>
      </div>
    } @empty {
      <div class="empty">No takes yet. Render a still of this frame to see its true light.</div>
    }
    @if (studio.primary()?.kind !== 'take') {
      <h2>Look of the project</h2>
      <zr-field-groups [groups]="look()" />
    }
    <button
      matButton="tonal"
      matTooltip="The picture without denoising and removal of specks, to compare (U)"
      [attr.aria-pressed]="studio.state().uncleaned"
      (click)="studio.view({ uncleaned: !studio.state().uncleaned })"
    >
      Before cleaning
    </button>
    <zr-file-button label="Look-up table" accept=".cube" (files)="bringTable($event)"
      >Own look-up table (.cube)</zr-file-button
    >
    @if (studio.primary()?.kind === 'take') {
      <p class="quiet">The look of the selected take is on the card to the right.</p>
    }
  `,
  styleUrl: '../desk.scss',
  styles: `
    .two zr-number {
      flex: 1;
      min-width: 60px;
    }
    .layers {
      display: grid;
      grid-template-columns: 1fr 1fr;
    }
    .told {
      margin: 4px 0 8px;
      line-height: 1.4;
    }
  `,
})
export class RenderDeskComponent {
  readonly studio = inject(Studio);
  private readonly api = inject(Api);
  readonly takeWork = inject(TakeWork);
  private readonly session = inject(Session);
  readonly sizeOptions = SIZES.map(({ name }) => ({ value: name, label: name }));
  private readonly importer = inject(Importer);
  readonly look = computed(() => lookFields(this.studio.document(), 'look'));
  readonly width = signal(960);
  readonly height = signal(540);
  readonly samples = signal(32);
  readonly length = computed(() => this.studio.shot()?.length ?? 1);
  readonly first = linkedSignal({ source: this.studio.shotId, computation: () => 1 });
  readonly last = linkedSignal({ source: this.length, computation: (length) => length });
  readonly takes = computed(() => [...this.studio.takes()].reverse());
  readonly round = Math.round;
  /** The ready size that is set, if it is one. */
  readonly ready = computed(() => SIZES.find((each) => each.width === this.width() && each.height === this.height()));

  readonly layerNames = LAYER_NAMES;
  readonly noiseTarget = signal(0);
  readonly seconds = signal(0);
  readonly layers = signal<Layer[]>(['motion', 'lights']);
  readonly predicting = signal(false);
  /** Holds for what it was asked for only. */
  readonly prediction = linkedSignal<unknown, Prediction | null>({
    source: () => [this.settings(), this.first(), this.last(), this.studio.shotId(), this.studio.document()],
    computation: () => null,
  });
  readonly settings = computed((): RenderSettings => ({
    ...defaultRenderSettings(),
    width: this.width(),
    height: this.height(),
    samples: this.samples(),
    noiseTarget: this.noiseTarget() / 100,
    secondsPerFrame: this.seconds(),
    region: this.studio.state().region,
    layers: this.layers(),
  }));

  toggleLayer(layer: Layer): void {
    this.layers.update((layers) =>
      layers.includes(layer) ? layers.filter((each) => each !== layer) : [...layers, layer],
    );
  }

  time(seconds: number): string {
    if (seconds < 90) return `${Math.max(1, Math.round(seconds))} s`;
    return seconds < 5400 ? `${Math.round(seconds / 60)} min` : `${(seconds / 3600).toFixed(1)} h`;
  }

  readonly many = many;

  /** In parentheses, where both ends are not said the same way. */
  range({ low, high }: Prediction['seconds']): string {
    const [from, to] = [this.time(low), this.time(high)];
    if (from === to) return '';
    const unit = / \S+$/.exec(to)![0];
    return `(${from.endsWith(unit) ? from.slice(0, -unit.length) : from} to ${to})`;
  }

  percent = (part: number): string => `${(part * 100).toFixed(1)} %`;

  async predict(): Promise<void> {
    const { project, shot } = this.studio.state();
    if (!project || !shot) return;
    this.predicting.set(true);
    try {
      await this.session.save();
      const asked = this.settings();
      const found = await this.api.predict(project, shot, this.first(), this.last(), asked);
      if (asked === this.settings()) this.prediction.set(found);
    } catch (error) {
      this.session.tell(error);
    } finally {
      this.predicting.set(false);
    }
  }

  async test(): Promise<void> {
    const [first, last] = [this.first(), this.last()];
    for (const frame of new Set([first, Math.round((first + last) / 2), last])) await this.render(frame, frame);
  }

  choose(name: string): void {
    const size = SIZES.find((each) => each.name === name);
    if (!size) return;
    this.width.set(size.width);
    this.height.set(size.height);
  }

  told(take: Take): string {
    const count = take.last - take.first + 1;
    const same = take.named - take.distinct;
    const state = { waiting: 'waiting', rendering: 'rendering', stopped: 'stopped', done: 'done', failed: 'failed' }[
      take.state
    ];
    return `${state} · ${take.done.length} of ${many(count, 'frame')}${same > 0 ? ` · ${same} repeat and are traced once` : ''}`;
  }

  async render(first: number, last: number): Promise<void> {
    const { project, shot } = this.studio.state();
    if (!project || !shot) return;
    try {
      await this.session.save();
      const take = await this.api.createTake(project, shot, first, last, this.settings());
      await this.session.refreshTakes();
      this.takeWork.show(take);
    } catch (error) {
      this.session.tell(error);
    }
  }

  bringTable(files: File[]): void {
    void this.importer.bring(files);
  }
}
