import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import type { Look } from '@zippy/core/document';
import { hexFromLinear, linearFromHex, writeBack } from '@zippy/core/optics';
import { Api } from '../api/api';
import { NumberFieldComponent } from '../fields/number-field.component';
import { Session } from '../state/session';
import { Studio } from '../state/studio';

const AS_IT_IS: Look['lights'][string] = { power: 1, tint: [1, 1, 1] };

/** Power and colour of each light of a take, changed on its finished frames, and written back to the lights themselves. */
@Component({
  selector: 'zr-light-balance',
  imports: [NumberFieldComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <details open>
      <summary>Lights of this take</summary>
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
          <input
            type="color"
            class="swatch"
            [attr.aria-label]="'Colour of ' + light.shown"
            [value]="light.hex"
            (focus)="begin()"
            (input)="setTint(light.name, $event)"
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
        <div class="row">
          <button class="control" title="The next take begins with this light" [disabled]="written()" (click)="write()">
            Write back to the lights
          </button>
          <button class="control plain" (click)="reset()">As rendered</button>
        </div>
      }
    </details>
  `,
  styleUrl: '../fields/fold.scss',
  styles: `
    .row {
      display: grid;
      grid-template-columns: 1fr 84px 32px;
      gap: 6px;
      align-items: center;
      min-height: 34px;
    }
    .row:has(button) {
      grid-template-columns: 1fr auto;
    }
    .swatch {
      width: 32px;
      height: 30px;
      padding: 0;
      border: 1px solid var(--line);
      border-radius: 6px;
      background: none;
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
  private readonly session = inject(Session);
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
      return { name, shown: name.replaceAll('_', ' '), power, hex: hexFromLinear(tint) };
    }),
  );
  private readonly given = computed(() => this.studio.document().takeLooks[this.take()]?.lightsWritten ?? {});
  readonly changed = computed(() => Object.keys({ ...this.balance(), ...this.given() }).length > 0);
  readonly written = computed(() => JSON.stringify(this.balance()) === JSON.stringify(this.given()));
  private gesture = '';

  constructor() {
    effect(() => {
      const wanted = this.wanted();
      if (!wanted) return this.names.set([]);
      const take = untracked(this.take);
      this.api.takeLights(take).then(
        (names) => this.wanted() === wanted && this.names.set(names),
        (error: unknown) => this.session.tell(error),
      );
    });
  }

  begin(): void {
    this.gesture = this.studio.newGesture();
  }

  setTint(name: string, event: Event): void {
    const tint = linearFromHex((event.target as HTMLInputElement).value);
    if (tint) this.set(name, { tint }, this.gesture);
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
    this.session.tell(
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
