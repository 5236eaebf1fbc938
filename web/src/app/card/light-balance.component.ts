import { MatTooltipModule } from '@angular/material/tooltip';
import { MatButtonModule } from '@angular/material/button';
import { ColorFieldComponent } from '../ui/color-field.component';
import { FoldComponent } from '../ui/fold.component';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import type { Look } from '@zippy/core/document';
import { writeBack } from '@zippy/core/optics';
import { Api } from '../api/api';
import { NumberFieldComponent } from '../ui/number-field.component';
import { Notices } from '../store/notices';
import { Studio } from '../store/studio';

/** Names of the lights among the layers of a take. */
const lightsAmong = (layers: readonly string[]): string[] =>
  layers.flatMap((layer) => (layer.startsWith('light:') ? [layer.slice('light:'.length)] : []));

const AS_IT_IS: Look['lights'][string] = { power: 1, tint: [1, 1, 1] };

/** Power and colour of each light of a take, changed on its finished frames, and written back to the lights themselves. */
@Component({
  selector: 'zr-light-balance',
  imports: [ColorFieldComponent, FoldComponent, MatButtonModule, MatTooltipModule, NumberFieldComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <zr-fold title="Lights of this take">
      @for (light of lights(); track light.name) {
        <div class="row">
          <span class="name" [title]="light.shown">{{ light.shown }}</span>
          <zr-number
            [label]="'Power of ' + light.shown"
            unit="×"
            [value]="light.power"
            [min]="0"
            [max]="100"
            [step]="0.01"
            (changed)="set(light.name, { power: $event.value }, $event.gesture)"
          />
          <zr-color
            small
            [label]="'Colour of ' + light.shown"
            [value]="light.tint"
            (changed)="set(light.name, { tint: $event.value }, $event.gesture)"
          />
        </div>
      } @empty {
        <p class="quiet">
          @if (apart()) {
            They are here with the first frame.
          } @else {
            This take keeps no light apart. Choose the layer "Each light" before the next one, to change lamps on its
            finished frames.
          }
        </p>
      }
      @if (changed()) {
        <div class="row ends">
          <button
            matButton="tonal"
            matTooltip="The next take begins with this light"
            [disabled]="written()"
            (click)="write()"
          >
            Write back to the lights
          </button>
          <button matButton (click)="reset()">As rendered</button>
        </div>
      }
    </zr-fold>
  `,
  styles: `
    .row {
      display: grid;
      grid-template-columns: 1fr 84px 44px;
      gap: 6px;
      align-items: center;
      min-height: 34px;
    }
    .row.ends {
      grid-template-columns: 1fr auto;
    }
    .name {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
  `,
})
export class LightBalanceComponent {
  private readonly studio = inject(Studio);
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  readonly take = input.required<string>();
  private readonly names = signal<string[]>([]);
  private readonly shown = computed(() => this.studio.takes().find(({ id }) => id === this.take()) ?? null);
  readonly apart = computed(() => this.shown()?.settings.layers.includes('lights') ?? false);
  /** Changes with the take, with its first frame and when its state changes: a server that was lost is asked again. */
  private readonly wanted = computed(() => {
    const take = this.shown();
    return take && this.apart() && take.done.length > 0 ? `${take.id} ${take.state}` : null;
  });
  private readonly balance = computed(() => this.studio.document().takeLooks[this.take()]?.lights ?? {});
  readonly lights = computed(() =>
    this.names().map((name) => {
      const { power, tint } = this.balance()[name] ?? AS_IT_IS;
      return { name, shown: name.replaceAll('_', ' '), power, tint };
    }),
  );
  private readonly given = computed(() => this.studio.document().takeLooks[this.take()]?.lightsWritten ?? {});
  readonly changed = computed(() => Object.keys({ ...this.balance(), ...this.given() }).length > 0);
  readonly written = computed(() => JSON.stringify(this.balance()) === JSON.stringify(this.given()));

  constructor() {
    effect(() => {
      const wanted = this.wanted();
      if (!wanted) return this.names.set([]);
      const take = untracked(this.take);
      this.api.takeLayers(take).then(
        (layers) => this.wanted() === wanted && this.names.set(lightsAmong(layers)),
        (error: unknown) => this.notices.tell(error),
      );
    });
  }

  set(name: string, over: Partial<Look['lights'][string]>, gesture: string): void {
    this.edit(
      'Balance of lights',
      (lights) => void (lights[name] = { ...(lights[name] ?? AS_IT_IS), ...over }),
      gesture,
    );
  }

  reset(): void {
    this.edit('Lights as rendered', (lights) => {
      for (const name of Object.keys(lights)) delete lights[name];
    });
  }

  write(): void {
    let missing: string[] = [];
    this.studio.edit('Write light back', (draft) => {
      const look = draft.takeLooks[this.take()];
      if (look) missing = writeBack(draft, look);
    });
    const left = missing.map((name) => `"${name.replaceAll('_', ' ')}"`).join(', ');
    this.notices.tell(
      left
        ? `The lights are as balanced now, except ${left}, which the project does not have any more.`
        : 'The lights are as balanced now. The next take begins with them.',
    );
  }

  private edit(label: string, change: (lights: Look['lights']) => void, gesture?: string): void {
    this.studio.edit(
      label,
      (draft) => {
        const look = draft.takeLooks[this.take()];
        if (look) change(look.lights);
      },
      gesture,
    );
  }
}
