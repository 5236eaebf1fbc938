import { CdkConnectedOverlay, CdkOverlayOrigin } from '@angular/cdk/overlay';
import { CdkTrapFocus } from '@angular/cdk/a11y';
import {
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatRippleModule } from '@angular/material/core';
import { hsl } from 'd3';
import { hexFromLinear, lightColor, linearFromHex } from '@zippy/core/optics';
import { newGesture } from './gesture';
import { NumberFieldComponent } from './number-field.component';
import { RecentColors } from './recent-colors';
import { SliderComponent } from './slider.component';
import { TextFieldComponent } from './text-field.component';

type Rgb = readonly [number, number, number];
interface Picked {
  hue: number;
  saturation: number;
  lightness: number;
}

/** The browser's own way to take a colour off the screen, where it has one. */
declare global {
  interface Window {
    EyeDropper?: new () => { open(): Promise<{ sRGBHex: string }> };
  }
}

/** A colour, linear Rec. 709: by hue, by temperature, by its code, off the screen, or one used before; brighter than white too. */
@Component({
  selector: 'zr-color',
  imports: [
    CdkConnectedOverlay,
    CdkOverlayOrigin,
    CdkTrapFocus,
    MatButtonModule,
    MatRippleModule,
    NumberFieldComponent,
    SliderComponent,
    TextFieldComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      type="button"
      matRipple
      class="swatch"
      cdkOverlayOrigin
      #origin="cdkOverlayOrigin"
      aria-haspopup="dialog"
      [attr.aria-expanded]="open()"
      [attr.aria-label]="label() + ': ' + said()"
      [style.background]="
        differs() ? 'repeating-linear-gradient(45deg, var(--raised) 0 5px, var(--line) 5px 10px)' : hex()
      "
      (click)="toggle()"
    ></button>
    @if (!small()) {
      <span class="mono quiet">{{ said() }}</span>
    }
    <ng-template
      cdkConnectedOverlay
      [cdkConnectedOverlayOrigin]="origin"
      [cdkConnectedOverlayOpen]="open()"
      [cdkConnectedOverlayHasBackdrop]="true"
      cdkConnectedOverlayBackdropClass="cdk-overlay-transparent-backdrop"
      (backdropClick)="close()"
      (detach)="close()"
    >
      <div
        class="panel"
        role="dialog"
        [attr.aria-label]="'Colour: ' + label()"
        cdkTrapFocus
        cdkTrapFocusAutoCapture
        (keydown)="$event.stopPropagation()"
        (keydown.escape)="close()"
      >
        <div class="shown" [style.background]="hex()"></div>
        @for (part of parts; track part.name) {
          <div class="part">
            <span class="quiet">{{ part.label }}</span>
            <zr-slider
              [label]="part.label"
              [max]="part.max"
              [step]="part.step"
              [value]="picked()[part.name]"
              (changed)="pick(part.name, $event.value, $event.gesture)"
            />
          </div>
        }
        <div class="part">
          <span class="quiet">Temperature</span>
          <zr-slider
            label="Temperature"
            [min]="1500"
            [max]="12000"
            [step]="50"
            [value]="kelvin()"
            (changed)="heat($event.value, $event.gesture)"
          />
        </div>
        <div class="part">
          <span class="quiet">Times white</span>
          <zr-number
            label="Times white"
            unit="×"
            [value]="strength()"
            [min]="1"
            [max]="1000"
            [step]="0.1"
            (changed)="strengthen($event.value, $event.gesture)"
          />
        </div>
        <div class="channels">
          @for (name of ['R', 'G', 'B']; track name; let k = $index) {
            <zr-number
              [label]="'Linear ' + name"
              [unit]="name"
              [value]="value()[k]!"
              [min]="0"
              [max]="1000"
              [step]="0.01"
              (changed)="channel(k, $event.value, $event.gesture)"
            />
          }
        </div>
        <div class="row">
          <zr-text label="Colour code" [value]="hex()" (changed)="code($event)" />
          @if (dropper) {
            <button matButton="tonal" (click)="fromScreen()">From the screen</button>
          }
        </div>
        @if (recent.all().length > 0) {
          <div class="recent" role="group" aria-label="Used before">
            @for (color of recent.all(); track $index) {
              <button
                type="button"
                matRipple
                class="swatch"
                [style.background]="codeOf(color)"
                [attr.aria-label]="codeOf(color)"
                (click)="send(color, gesture())"
              ></button>
            }
          </div>
        }
      </div>
    </ng-template>
  `,
  styles: `
    :host {
      display: flex;
      flex: 1;
      align-items: center;
      gap: 6px;
      min-width: 0;
    }
    .swatch {
      flex: none;
      width: 44px;
      height: 32px;
      padding: 0;
      border: 1px solid var(--line);
      border-radius: 6px;
      cursor: pointer;
    }
    .mono {
      min-width: 0;
      overflow: hidden;
      font-size: 11px;
      white-space: nowrap;
      text-overflow: ellipsis;
    }
    .panel {
      display: grid;
      gap: 6px;
      width: 260px;
      padding: 12px;
      border: 1px solid var(--line);
      border-radius: 10px;
      background: var(--panel);
      box-shadow: 0 6px 24px rgb(0 0 0 / 30%);
      font-size: 12px;
    }
    .shown {
      height: 40px;
      border-radius: 6px;
    }
    .part {
      display: grid;
      grid-template-columns: 82px minmax(0, 1fr);
      gap: 8px;
      align-items: center;
      min-height: 32px;
    }
    .channels {
      display: grid;
      grid-template-columns: repeat(3, minmax(0, 1fr));
      gap: 4px;
    }
    .row {
      display: flex;
      gap: 6px;
      align-items: center;
    }
    .row zr-text {
      flex: 1;
    }
    .recent {
      display: grid;
      grid-template-columns: repeat(6, 1fr);
      gap: 4px;
    }
    .recent .swatch {
      width: 100%;
    }
  `,
})
export class ColorFieldComponent {
  readonly recent = inject(RecentColors);
  readonly label = input.required<string>();
  readonly value = input.required<Rgb>();
  /** The value is that of one of several, which differ. */
  readonly differs = input(false);
  /** The swatch alone. */
  readonly small = input(false, { transform: booleanAttribute });
  readonly changed = output<{ value: [number, number, number]; gesture: string }>();

  readonly open = signal(false);
  readonly gesture = signal('');
  readonly dropper = 'EyeDropper' in window;
  readonly parts = [
    { name: 'hue', label: 'Hue', max: 360, step: 1 },
    { name: 'saturation', label: 'Saturation', max: 1, step: 0.01 },
    { name: 'lightness', label: 'Lightness', max: 1, step: 0.01 },
  ] as const;

  /** How many times white its strongest part is; 1 where it is none. */
  readonly strength = computed(() => Math.max(1, ...this.value()));
  readonly hex = computed(() => codeOf(this.value()));
  readonly said = computed(() => {
    if (this.differs()) return 'differs';
    return this.strength() > 1 ? `${this.hex()} × ${Number(this.strength().toFixed(2))}` : this.hex();
  });
  /** Hue and saturation are kept where the colour has none to show: white, black and grey have been set by them all the same. */
  private readonly kept = signal({ hue: 0, saturation: 0 });
  readonly picked = computed((): Picked => {
    const { h, s, l } = hsl(this.hex());
    const { hue, saturation } = this.kept();
    const plain = l < 0.003 || l > 0.997;
    return { hue: s > 0 && !plain ? h : hue, saturation: plain ? saturation : s || 0, lightness: l };
  });
  readonly kelvin = signal(6500);
  readonly codeOf = codeOf;

  toggle(): void {
    if (this.open()) return this.close();
    this.gesture.set(newGesture());
    this.open.set(true);
  }

  close(): void {
    if (!this.open()) return;
    this.open.set(false);
    this.recent.add(this.value());
  }

  pick(name: keyof Picked, value: number, gesture: string): void {
    const { hue, saturation, lightness }: Picked = { ...this.picked(), [name]: value };
    this.kept.set({ hue, saturation });
    const color = linearFromHex(hsl(hue, saturation, lightness).formatHex());
    if (color) this.sendStrong(color, gesture);
  }

  heat(kelvin: number, gesture: string): void {
    this.kelvin.set(kelvin);
    const color = lightColor(kelvin, [1, 1, 1]);
    const most = Math.max(...color);
    this.sendStrong(color.map((v) => v / most) as unknown as Rgb, gesture);
  }

  strengthen(times: number, gesture: string): void {
    const now = this.strength();
    this.send(this.value().map((v) => (v / now) * times) as unknown as Rgb, gesture);
  }

  channel(k: number, value: number, gesture: string): void {
    this.send(this.value().map((v, at) => (at === k ? value : v)) as unknown as Rgb, gesture);
  }

  code(text: string): void {
    const color = linearFromHex(text.startsWith('#') ? text : `#${text}`);
    if (color) this.sendStrong(color, newGesture());
  }

  async fromScreen(): Promise<void> {
    const taken = await new window.EyeDropper!().open().catch(() => null);
    if (taken) this.code(taken.sRGBHex);
  }

  private sendStrong(color: Rgb, gesture: string): void {
    const strength = this.strength();
    this.send(color.map((v) => v * strength) as unknown as Rgb, gesture);
  }

  send([r, g, b]: Rgb, gesture: string): void {
    this.changed.emit({ value: [r, g, b], gesture });
  }
}

/** The code of a colour as it is shown; what is brighter than white, without that. */
function codeOf(color: Rgb): string {
  const most = Math.max(1, ...color);
  return hexFromLinear([color[0] / most, color[1] / most, color[2] / most]);
}
