import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatButtonModule } from '@angular/material/button';
import { FileButtonComponent } from '../../ui/file-button.component';
import { MatTooltipModule } from '@angular/material/tooltip';
import { FoldComponent } from '../../ui/fold.component';
import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { copyOf, inOrder, lastOrder, newId, type RenderWay } from '@zippy/core/document';
import { rangeOf } from '@zippy/core/motion';
import { RENDER_PRESETS, settingsOfShot, type Layer, type Prediction, type RenderSettings } from '@zippy/core/trace';
import { Api } from '../../api/api';
import type { Foreseen, ServerState } from '@zippy/core/wire';
import { Importer } from '../../tasks/import/importer';
import { FieldGroupsComponent } from '../../fields/field-groups.component';
import type { FieldGroup } from '../../kinds/field';
import { lookFields } from '../../fields/field-specs';
import { LookToolsComponent } from '../../fields/look-tools.component';
import { PropertyFieldComponent } from '../../fields/property-field.component';
import { ownLookField, patientFields, presetOf, renderGroups, renderPlace } from '../../fields/render-fields';
import { Ask } from '../../ui/ask/ask';
import { Notices } from '../../store/notices';
import { Session } from '../../store/session';
import { TakeOrders } from '../../store/edits/take-orders';
import { Colourways } from '../../store/edits/colourways';
import { Studio } from '../../store/studio';
import { ChoiceComponent } from '../../ui/choice.component';
import { many } from '../../ui/many';
import { sayDuration } from '../../ui/say-duration';
import { DiskComponent } from './disk.component';
import { TakeListComponent } from './take-list.component';

const LAYER_NAMES: { id: Layer; name: string }[] = [
  { id: 'lights', name: 'Each light' },
  { id: 'mattes', name: 'Mattes' },
  { id: 'emission', name: 'Emission' },
  { id: 'shadow', name: 'Shadow' },
  { id: 'behind', name: 'Product alone' },
  { id: 'occlusion', name: 'Occlusion' },
  { id: 'position', name: 'Position' },
  { id: 'motion', name: 'Motion' },
];

/** Stands for all colourways in the choice of what is rendered. */
const EVERY = '*';

/** Renders takes of the present shot, and lists those there are. */
@Component({
  selector: 'zr-render-desk',
  imports: [
    ChoiceComponent,
    DiskComponent,
    FieldGroupsComponent,
    FileButtonComponent,
    FoldComponent,
    MatButtonModule,
    MatCheckboxModule,
    LookToolsComponent,
    MatTooltipModule,
    PropertyFieldComponent,
    TakeListComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Render "{{ studio.shot()?.name }}"</h2>
    <p class="quiet result">
      {{ settings().width }} × {{ settings().height }} pixels, frames {{ range()[0] }} to {{ range()[1] }}
      @if (studio.shot()?.render) {
        · settings of this shot alone
      }
    </p>
    <div class="row">
      <button matButton="filled" (click)="renderTakes()">
        {{ which() === EVERY ? 'Render all shots' : 'Render take' }}
      </button>
      <button matButton="tonal" (click)="render(studio.frame(), studio.frame())">
        Still of frame {{ studio.restFrame() }}
      </button>
    </div>
    @if (shots().length > 2) {
      <zr-choice label="Shots rendered" [options]="shots()" [value]="which()" (chosen)="which.set($event)" />
    }
    @if (colourways.all().length > 0) {
      <zr-choice label="Rendered in" [options]="variants()" [value]="variant()" (chosen)="variant.set($event)" />
    }
    @if (studio.region(); as region) {
      <p class="quiet">
        Only the region marked in the picture is rendered.
        <button matButton (click)="studio.markRegion(null)">Whole picture</button>
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
          {{ many(each.frames, 'frame') }} in about <b>{{ time(each.seconds.expected) }}</b>{{ between(each.seconds) }},
          noise about <b>{{ percent(each.noise.expected) }}</b> before denoising ({{ percent(each.noise.low) }} to
          {{ percent(each.noise.high) }}).
        }
      </p>
      <div class="row" role="group" aria-label="Ways of rendering and what they take">
        @for (offer of offered(); track offer.name) {
          <button
            matButton="tonal"
            [matTooltip]="
              offer.settings.width +
              ' × ' +
              offer.settings.height +
              ', noise about ' +
              percent(offer.cost?.noise?.expected ?? 0)
            "
            (click)="chooseWay(offer.way)"
          >
            {{ offer.name }} · {{ time(offer.cost?.seconds?.expected ?? 0) }}
          </button>
        }
      </div>
    }
    <zr-field-groups [groups]="groups()" />
    <zr-fold title="Noise, time and layers" [open]="false">
      @for (field of patient(); track field.path) {
        <zr-property [spec]="field" />
      }
      <p class="quiet">0 is no limit: every pixel then gets all samples.</p>
      <div class="layers" role="group" aria-label="Layers kept">
        @for (layer of layerNames; track layer.id) {
          <mat-checkbox [checked]="settings().layers.includes(layer.id)" (change)="toggleLayer(layer.id)">{{
            layer.name
          }}</mat-checkbox>
        }
      </div>
    </zr-fold>
    <div class="row">
      @if (ownPreset(); as preset) {
        <button matButton (click)="forgetPreset(preset)">Forget the preset "{{ preset.name }}"</button>
      } @else {
        <button matButton (click)="keepPreset()">Keep as a preset</button>
      }
    </div>
    <zr-take-list />
    <zr-disk />
    @if (studio.primary()?.kind !== 'take') {
      <h2>Look of {{ ownLook() ? '"' + studio.shot()!.name + '"' : 'the project' }}</h2>
      @if (lookSwitch(); as field) {
        <zr-property [spec]="field" />
      }
      <zr-look-tools [at]="lookAt()" />
      <zr-field-groups [groups]="look()" />
    }
    <button
      matButton="tonal"
      matTooltip="The picture without denoising and removal of specks, to compare (U)"
      [attr.aria-pressed]="studio.uncleaned()"
      (click)="studio.leaveCleaningOut()"
    >
      Before cleaning
    </button>
    @if (filter(); as by) {
      <p class="quiet">
        Noise is filtered by
        {{
          by === 'learned'
            ? 'a learned filter and our own together'
            : 'our own filter: the learned one is not installed'
        }}.
      </p>
    }
    <zr-file-button label="Look-up table" accept=".cube" (files)="bringTable($event)"
      >Own look-up table (.cube)</zr-file-button
    >
    @if (studio.primary()?.kind === 'take') {
      <p class="quiet">The look of the selected take is on the card to the right.</p>
    }
  `,
  styleUrl: '../desk.scss',
  styles: `
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
  private readonly orders = inject(TakeOrders);
  private readonly session = inject(Session);
  private readonly notices = inject(Notices);
  private readonly ask = inject(Ask);
  private readonly importer = inject(Importer);
  readonly ownLook = computed(() => Boolean(this.studio.shot()?.look));
  /** Where the look stands by which the present shot is developed. */
  readonly lookAt = computed(() => (this.ownLook() ? (`shots/${this.studio.shotId()!}/look` as const) : 'look'));
  readonly look = computed(() => lookFields(this.studio.document(), this.lookAt()));
  readonly lookSwitch = computed(() => {
    const shot = this.studio.shotId();
    return shot === null ? null : ownLookField(shot);
  });
  readonly groups = computed((): FieldGroup[] => {
    const shot = this.studio.shot();
    return shot ? renderGroups(this.studio.document(), shot) : [];
  });
  private readonly place = computed(() => renderPlace(this.studio.shot()));
  readonly patient = computed(() => patientFields(this.place()));
  readonly colourways = inject(Colourways);
  readonly variant = signal('');
  readonly range = computed((): [number, number] => {
    const shot = this.studio.shot();
    return shot ? rangeOf(shot) : [1, 1];
  });
  /** The preset of the user that is set, if it is one. */
  readonly ownPreset = computed(() => {
    const document = this.studio.document();
    const found = presetOf(document, this.studio.shot()?.render ?? document.render);
    return found && found.id in document.presets ? found : null;
  });
  readonly layerNames = LAYER_NAMES;
  readonly predicting = signal(false);
  /** What takes the noise out of pictures on this server. */
  readonly filter = signal<ServerState['filter'] | null>(null);

  constructor() {
    // Without an answer nothing is said.
    this.api.state().then(
      ({ filter }) => this.filter.set(filter),
      () => undefined,
    );
  }

  readonly settings = computed((): RenderSettings => ({
    ...settingsOfShot(this.studio.document(), this.studio.shot()),
    region: this.studio.region(),
  }));
  /** Holds for what it was asked for only. */
  readonly prediction = linkedSignal<unknown, Foreseen | null>({
    source: () => [this.settings(), this.range(), this.studio.shotId(), this.studio.document()],
    computation: () => null,
  });

  /** The presets of every project, as they would render this shot. */
  private readonly offers = computed(() => {
    const [document, shot] = [this.studio.document(), this.studio.shot()];
    return RENDER_PRESETS.map(({ name, way }) => {
      const render = { ...(shot?.render ?? document.render), ...way };
      const settings = settingsOfShot({ ...document, render }, shot && { ...shot, render: null });
      return { name, way, settings: { ...settings, region: this.studio.region() } };
    });
  });
  /** The same with what each of them costs on this machine, once that has been measured. */
  readonly offered = computed(() => {
    const found = this.prediction();
    return found ? this.offers().map((offer, k) => ({ ...offer, cost: found.others[k] })) : [];
  });

  chooseWay(way: Partial<RenderWay>): void {
    const at = this.place();
    this.studio.edit('Way of rendering', (draft) => {
      const own = at === 'render' ? null : draft.shots[this.studio.shotId() ?? '']?.render;
      Object.assign(own ?? draft.render, copyOf(way));
    });
  }

  toggleLayer(layer: Layer): void {
    const at = this.place();
    const { layers } = this.settings();
    const kept = layers.includes(layer) ? layers.filter((each) => each !== layer) : [...layers, layer];
    this.studio.edit('Layers kept', (draft) => {
      const own = at === 'render' ? null : draft.shots[this.studio.shotId() ?? '']?.render;
      (own ?? draft.render).layers = kept;
    });
  }

  async keepPreset(): Promise<void> {
    const name = await this.ask.name('Name of the preset', 'Keep');
    if (!name) return;
    this.studio.edit('Keep a preset', (draft) => {
      const way = draft.shots[this.studio.shotId() ?? '']?.render ?? draft.render;
      const preset = { id: newId(), name, order: lastOrder(draft.presets), ...copyOf(way) };
      draft.presets[preset.id] = preset;
    });
  }

  forgetPreset({ id }: { id: string }): void {
    this.studio.edit('Forget a preset', (draft) => void delete draft.presets[id]);
  }

  readonly time = sayDuration;
  readonly many = many;

  /** In parentheses, where both ends are not said the same way. */
  between({ low, high }: Prediction['seconds']): string {
    const [from, to] = [this.time(low), this.time(high)];
    if (from === to) return '';
    const unit = / \S+$/.exec(to)![0];
    return ` (${from.endsWith(unit) ? from.slice(0, -unit.length) : from} to ${to})`;
  }

  percent = (part: number): string => `${(part * 100).toFixed(1)} %`;

  async predict(): Promise<void> {
    const [project, shot] = [this.studio.project(), this.studio.shotId()];
    if (!project || !shot) return;
    this.predicting.set(true);
    try {
      await this.session.save();
      const asked = this.settings();
      const [first, last] = this.range();
      const found = await this.api.predict(project, shot, first, last, asked, this.offers().map(({ settings }) => settings)); // prettier-ignore
      if (asked === this.settings()) this.prediction.set(found);
    } catch (error) {
      this.notices.tell(error);
    } finally {
      this.predicting.set(false);
    }
  }

  readonly variants = computed(() => [
    { value: '', label: 'The colourway that is shown' },
    { value: EVERY, label: `All ${this.colourways.all().length} colourways` },
    ...this.colourways.all().map(({ id, name }) => ({ value: id, label: name })),
  ]);
  /** Colourways that are rendered; undefined is the one that is shown. */
  private readonly rendered = computed((): (string | undefined)[] => {
    const [variant, all] = [this.variant(), this.colourways.all().map(({ id }) => id)];
    if (variant === EVERY) return all;
    return all.includes(variant) ? [variant] : [undefined];
  });

  async test(): Promise<void> {
    const shot = this.studio.shotId();
    const [[first, last], settings] = [this.range(), this.settings()];
    if (!shot) return;
    const frames = [...new Set([first, Math.round((first + last) / 2), last])];
    const of = (frame: number) => ({ shot, first: frame, last: frame, settings });
    await this.orders.place(
      frames.flatMap((frame) => this.rendered().map((colourway) => ({ ...of(frame), colourway }))),
    );
  }

  readonly EVERY = EVERY;
  /** Shots that are rendered: the present one, or all that are in the film. */
  readonly shots = computed(() => {
    const inFilm = inOrder(this.studio.document().shots).filter(({ included }) => included);
    return [
      { value: '', label: 'This shot' },
      { value: EVERY, label: `All ${inFilm.length} shots of the film` },
      ...inFilm.map(({ id, name }) => ({ value: id, label: name })),
    ];
  });
  readonly which = linkedSignal<string | null, string>({ source: () => this.studio.shotId(), computation: () => '' });

  /** The whole range of the shots that are meant, in the colourways that are meant. */
  async renderTakes(): Promise<void> {
    const [which, present] = [this.which(), this.studio.shotId()];
    if (which === '') return this.render(...this.range());
    const ids =
      which === EVERY
        ? this.shots()
            .slice(2)
            .map(({ value }) => value)
        : [which];
    const all = ids.flatMap((id) =>
      this.orders.whole(id).flatMap((order) =>
        this.rendered().map((colourway) => ({
          ...order,
          // A region is marked in the present shot's picture.
          settings: { ...order.settings, region: id === present ? this.studio.region() : null },
          colourway,
        })),
      ),
    );
    await this.orders.place(all);
  }

  async render(first: number, last: number): Promise<void> {
    const shot = this.studio.shotId();
    const settings = this.settings();
    if (shot) await this.orders.place(this.rendered().map((colourway) => ({ shot, first, last, settings, colourway })));
  }

  bringTable(files: File[]): void {
    void this.importer.bring(files);
  }
}
