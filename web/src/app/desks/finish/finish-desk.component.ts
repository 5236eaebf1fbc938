import { ThingDirective } from '../../menu/thing.directive';
import { MatRippleModule } from '@angular/material/core';
import { MatTooltipModule } from '@angular/material/tooltip';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { Finish } from '@zippy/core/document';
import { hexFromLinear, lightColor } from '@zippy/core/optics';
import { FINISH_DRAG, FINISH_SHELF } from '../../store/edits/finish-shelf';
import { Studio } from '../../store/studio';
import { Things } from '../../store/edits/things';

/** The shelf: drag a finish onto a part in the picture, or select parts and click. */
@Component({
  selector: 'zr-finish-desk',
  imports: [ThingDirective, MatRippleModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="quiet hint">Drag a finish onto a part in the picture, or select parts and click it.</p>
    @if (own().length > 0) {
      <h2>In this project</h2>
      <div class="shelf">
        @for (finish of own(); track finish.id) {
          <button
            matRipple
            draggable="true"
            [class.worn]="finish.id === selectedFinish()"
            [matTooltip]="finish.name"
            (dragstart)="drag($event, finish.id)"
            [zrThing]="{ kind: 'finish', id: finish.id }"
            (click)="take(finish.id)"
            (dblclick)="studio.select('finish', finish.id)"
          >
            <i [style.background]="ball(finish)"></i><span>{{ finish.name }}</span>
          </button>
        }
      </div>
    }
    @for (family of shelf; track family.family) {
      <h2>{{ family.family }}</h2>
      <div class="shelf">
        @for (finish of family.finishes; track finish.name) {
          <button
            matRipple
            draggable="true"
            [matTooltip]="finish.name"
            (dragstart)="drag($event, finish)"
            (click)="take(finish)"
          >
            <i [style.background]="ball(finish)"></i><span>{{ finish.name }}</span>
          </button>
        }
      </div>
    }
  `,
  styleUrl: '../desk.scss',
  styles: `
    .hint {
      margin: 0;
    }
    .shelf {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(58px, 1fr));
      gap: 4px;
    }
    .shelf button {
      display: grid;
      justify-items: center;
      gap: 4px;
      padding: 6px 2px;
      border: 0;
      border-radius: 6px;
      background: none;
      color: var(--quiet);
      font: 11px/1.15 var(--font);
      cursor: grab;
    }
    .shelf button:hover,
    .shelf .worn {
      background: var(--raised);
      color: var(--text);
    }
    i {
      width: 38px;
      height: 38px;
      border-radius: 50%;
      box-shadow: inset -4px -6px 10px rgb(0 0 0 / 35%);
    }
  `,
})
export class FinishDeskComponent {
  readonly studio = inject(Studio);
  private readonly things = inject(Things);
  readonly shelf = FINISH_SHELF;
  readonly own = computed(() => Object.values(this.studio.document().finishes));
  readonly selectedFinish = computed(() => {
    const node = this.studio.selectedNodes().at(-1);
    return node ? this.studio.document().nodes[node]?.finish : null;
  });

  /** A small ball that hints at colour, gloss and glow; the rendered thumbnail comes with the tracer in the page. */
  ball(finish: Partial<Finish>): string {
    const lit = (finish.emissionPower ?? 0) > 0;
    const color = lit
      ? lightColor(finish.emissionKelvin ?? 4000, finish.emissionColor ?? [1, 1, 1])
      : (finish.transmissionWeight ?? 0) > 0.5
        ? (finish.transmissionColor ?? [1, 1, 1])
        : (finish.baseColor ?? [0.5, 0.5, 0.5]);
    const hex = hexFromLinear(color);
    const gloss =
      1 - Math.min(finish.specularRoughness ?? 0.35, finish.coatWeight ? (finish.coatRoughness ?? 0.03) : 1);
    const edge = 12 + (1 - gloss) * 50;
    if (lit) return `radial-gradient(circle, #fff 5%, ${hex} 55%)`;
    if ((finish.transmissionWeight ?? 0) > 0.5)
      return `radial-gradient(circle at 35% 30%, #fff 6%, transparent 22%), radial-gradient(circle, ${hex}55, ${hex}cc)`;
    return `radial-gradient(circle at 34% 28%, rgb(255 255 255 / ${0.25 + gloss * 0.6}) 0, transparent ${edge}%), ${hex}`;
  }

  take(finish: string | Partial<Finish>): void {
    const nodes = this.studio.selectedNodes();
    if (nodes.length > 0) this.things.wear(nodes, finish);
    else if (typeof finish === 'string') this.studio.select('finish', finish);
  }

  drag(event: DragEvent, finish: string | Partial<Finish>): void {
    event.dataTransfer?.setData(FINISH_DRAG, JSON.stringify(finish));
    if (event.dataTransfer) event.dataTransfer.effectAllowed = 'copy';
  }
}
