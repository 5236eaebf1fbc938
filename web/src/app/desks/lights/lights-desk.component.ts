import { ThingDirective } from '../../menu/thing.directive';
import { RowComponent } from '../../ui/row.component';
import { SmallButtonComponent } from '../../ui/small-button.component';
import { MatButtonModule } from '@angular/material/button';
import { MatTooltipModule } from '@angular/material/tooltip';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { inOrder, type Light } from '@zippy/core/document';
import { LAMP_KINDS, STATIONS, type StationName } from '@zippy/core/optics';
import { ChoiceComponent } from '../../ui/choice.component';
import { IconComponent } from '../../ui/icon.component';
import { NumberFieldComponent, type NumberChange } from '../../ui/number-field.component';
import { SceneBounds } from '../../store/scene-bounds';
import { SmallPictures } from '../small-pictures/small-pictures';
import { LIGHT_PICTURE_WIDTH, lightWishes, sceneStamp } from './light-wishes';
import { Studio } from '../../store/studio';
import { Things } from '../../store/edits/things';

/** Milliseconds without a change after which pictures are drawn. */
const CALM = 1200;

const SYMBOLS: Record<Light['unit'], string> = { lumen: 'lm', watt: 'W', nit: 'cd/m²', candela: 'cd', lux: 'lx' };

/** All lights with what each does alone, its power, on/off and solo. */
@Component({
  selector: 'zr-lights-desk',
  imports: [
    ChoiceComponent,
    ThingDirective,
    IconComponent,
    MatButtonModule,
    MatTooltipModule,
    NumberFieldComponent,
    RowComponent,
    SmallButtonComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="where">
      <span class="quiet">New lamps</span>
      <zr-choice
        label="Where new lamps go"
        [options]="stations"
        [value]="station()"
        (chosen)="station.set($any($event))"
      />
    </div>
    <div class="kinds">
      @for (kind of kinds; track kind) {
        <button matButton="tonal" (click)="things.addLightBeside(kind, station() || undefined)">
          <zr-icon name="plus" /> {{ lamps[kind].title }}
        </button>
      }
    </div>
    @for (light of lights(); track light.id) {
      <div class="lamp">
        <zr-row
          [zrThing]="{ kind: 'light', id: light.id }"
          [picked]="studio.selectedIds().has(light.id)"
          [off]="!on(light)"
          (press)="studio.select('light', light.id, $event.ctrlKey || $event.metaKey || $event.shiftKey)"
        >
          <i
            class="alone"
            [style.background-image]="pictureOf(light)"
            [style.aspect-ratio]="aspect()"
            matTooltip="What it does alone"
          ></i>
          <span class="name">{{ light.name }}</span>
          <zr-small-button
            beside
            icon="solo"
            [label]="'Solo ' + light.name"
            [pressed]="light.solo"
            (press)="solo(light)"
          />
          <zr-small-button
            beside
            [icon]="on(light) ? 'eye' : 'eyeOff'"
            [label]="(on(light) ? 'Switch off ' : 'Switch on ') + light.name"
            (press)="toggle(light)"
          />
        </zr-row>
        <zr-number
          class="power"
          [label]="'Power of ' + light.name"
          [value]="power(light)"
          [unit]="symbols[light.unit]"
          [min]="0"
          [step]="5"
          (changed)="setPower(light, $event)"
        />
      </div>
    } @empty {
      <div class="empty">
        No lights yet. A large panel beside the camera is a good first one.<button
          matButton="tonal"
          (click)="things.addLightBeside('panel')"
        >
          Add a panel
        </button>
      </div>
    }
  `,
  styleUrl: '../desk.scss',
  styles: `
    .line {
      min-height: 44px;
    }
    .kinds {
      display: grid;
      grid-template-columns: repeat(2, minmax(0, 1fr));
      gap: 4px;
    }
    .where {
      display: grid;
      grid-template-columns: 92px minmax(0, 1fr);
      align-items: center;
      padding-bottom: 4px;
    }
    .lamp {
      padding-bottom: 4px;
      border-radius: 6px;
    }
    /* Picked as a whole, with its power. */
    .lamp:has(.picked) {
      background: color-mix(in srgb, var(--select) 24%, var(--panel));
    }
    .lamp zr-row.picked {
      background: none;
    }
    .alone {
      flex: none;
      width: 56px;
      border-radius: 4px;
      background: color-mix(in srgb, var(--quiet) 18%, var(--panel)) center / cover;
    }
    .name {
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .power {
      width: 108px;
      height: 26px;
      margin: -2px 0 0 70px;
    }
  `,
})
export class LightsDeskComponent {
  readonly stations = [
    { value: '', label: 'Where none is yet' },
    ...(Object.keys(STATIONS) as StationName[]).map((value) => ({ value, label: STATIONS[value].title })),
  ];
  readonly station = signal<StationName | ''>('');
  readonly lamps = LAMP_KINDS;
  readonly kinds = Object.keys(LAMP_KINDS) as Light['kind'][];
  readonly studio = inject(Studio);
  readonly things = inject(Things);
  readonly lights = computed(() => inOrder(this.studio.document().lights));

  private readonly bounds = inject(SceneBounds);
  private readonly pictures = inject(SmallPictures);
  readonly symbols = SYMBOLS;
  readonly aspect = computed(() => {
    const { width, height } = this.studio.shot()?.picture ?? this.studio.document().picture;
    return Math.min(2, Math.max(0.6, width / height));
  });
  /** What pictures show beside their light. */
  private readonly scene = computed(() => {
    const { nodes, finishes, cameras, set, colourway, look } = this.studio.document();
    const shot = this.studio.shot();
    const shown = [
      nodes,
      finishes,
      cameras,
      set.floor,
      set.air,
      colourway,
      look,
      shot?.changes,
      shot?.tracks,
      shot?.moves,
    ];
    return sceneStamp([...shown, this.studio.restFrame(), this.bounds.meshes().size]);
  });

  constructor() {
    effect((onCleanup) => {
      const [scene, lights] = [this.scene(), this.studio.document().lights];
      if (this.studio.frameStateAtRest().parts.length === 0 || Object.keys(lights).length === 0) return;
      const timer = setTimeout(() => untracked(() => this.draw(scene)), CALM);
      onCleanup(() => clearTimeout(timer));
    });
    inject(DestroyRef).onDestroy(() => this.pictures.rest('lights'));
  }

  on = (light: Light): boolean => this.studio.presentAtRest().lights[light.id]?.on ?? light.on;
  power = (light: Light): number => this.studio.presentAtRest().lights[light.id]?.power ?? light.power;

  setPower(light: Light, { value, gesture }: NumberChange): void {
    this.studio.setProperty('Power', `lights/${light.id}/power`, value, gesture);
  }

  pictureOf({ id }: Light): string | null {
    const address = this.pictures.of('lights', id);
    return address ? `url(${address})` : null;
  }

  private draw(scene: string): void {
    const height = Math.round(LIGHT_PICTURE_WIDTH / this.aspect());
    const { studio } = this;
    const look = studio.look();
    this.pictures.want(
      'lights',
      lightWishes(studio.document(), scene, look, height, studio.shotId(), studio.restFrame()),
    );
  }

  solo(light: Light): void {
    this.studio.edit('Solo', (draft) => void (draft.lights[light.id]!.solo = !light.solo));
  }

  toggle(light: Light): void {
    this.studio.setProperty('Switch light', `lights/${light.id}/on`, !this.on(light));
  }
}
