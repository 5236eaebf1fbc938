import { ThingDirective } from '../../menu/thing.directive';
import { RowComponent } from '../../ui/row.component';
import { SmallButtonComponent } from '../../ui/small-button.component';
import { MatButtonModule } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { inOrder, type Light } from '@zippy/core/document';
import { LAMP_KINDS, STATIONS, type StationName } from '@zippy/core/optics';
import { ChoiceComponent } from '../../ui/choice.component';
import { IconComponent } from '../../ui/icon.component';
import { Studio } from '../../store/studio';
import { Things } from '../../store/edits/things';

const SYMBOLS: Record<Light['unit'], string> = { lumen: 'lm', watt: 'W', nit: 'cd/m²', candela: 'cd', lux: 'lx' };

/** All lights with on/off and solo. */
@Component({
  selector: 'zr-lights-desk',
  imports: [ChoiceComponent, ThingDirective, IconComponent, MatButtonModule, RowComponent, SmallButtonComponent],
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
      <zr-row
        [zrThing]="{ kind: 'light', id: light.id }"
        [picked]="studio.selectedIds().has(light.id)"
        [off]="!on(light)"
        (press)="studio.select('light', light.id, $event.ctrlKey || $event.metaKey || $event.shiftKey)"
      >
        <zr-icon name="lamp" />
        <span class="name"
          >{{ light.name }}<br /><span class="mono quiet small">{{ power(light) }}</span></span
        >
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
    .small {
      font-size: 11px;
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

  on = (light: Light): boolean => this.studio.presentAtRest().lights[light.id]?.on ?? light.on;
  power(light: Light): string {
    const { power, unit } = this.studio.presentAtRest().lights[light.id] ?? light;
    return `${power >= 10 ? Math.round(power) : Number(power.toPrecision(2))} ${SYMBOLS[unit]}`;
  }

  solo(light: Light): void {
    this.studio.edit('Solo', (draft) => void (draft.lights[light.id]!.solo = !light.solo));
  }

  toggle(light: Light): void {
    this.studio.setProperty('Switch light', `lights/${light.id}/on`, !this.on(light));
  }
}
