import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatTooltipModule } from '@angular/material/tooltip';
import { READY_LOOKS } from '@zippy/core/develop';
import {
  copyOf,
  defaultLook,
  inOrder,
  lastOrder,
  nearest,
  propertyAt,
  newId,
  type Look,
  type ProjectDocument,
} from '@zippy/core/document';
import { ExposureMeter } from '../store/exposure-meter';
import { Notices } from '../store/notices';
import { Studio } from '../store/studio';
import { Ask } from '../ui/ask/ask';
import { ChoiceComponent } from '../ui/choice.component';

const EXPOSURE = propertyAt('look/exposure')!;

/** What a look says besides what belongs to one take: its lights. */
type Laid = Omit<Look, 'lights' | 'lightsWritten'>;
function laidOf(look: Look): Laid {
  const { lights, lightsWritten, ...laid } = copyOf(look);
  void [lights, lightsWritten];
  return laid;
}
const same = (a: object, b: object): boolean =>
  Object.entries(a).every(([name, value]) => JSON.stringify(value) === JSON.stringify((b as Record<string, unknown>)[name])); // prettier-ignore

/** Looks that are ready, or were kept, and the exposure that the picture wants. */
@Component({
  selector: 'zr-look-tools',
  imports: [ChoiceComponent, MatButtonModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <zr-choice
      label="Ready look"
      placeholder="Own look"
      [options]="options()"
      [value]="worn()"
      (chosen)="wear($event)"
    />
    @if (says(); as words) {
      <p class="quiet">{{ words }}</p>
    }
    <div class="row">
      <button
        matButton="tonal"
        matTooltip="Sets exposure once by what is seen now; it stays fixed from then on"
        [disabled]="metering()"
        (click)="expose()"
      >
        Expose by the picture
      </button>
      @if (own(); as look) {
        <button matButton (click)="forget(look.id)">Forget "{{ look.name }}"</button>
      } @else if (worn() === null) {
        <button matButton (click)="keep()">Keep this look</button>
      }
      @if (at() !== 'look' && differs()) {
        <button matButton matTooltip="The next takes begin with it" (click)="give()">Look of the project</button>
      }
    </div>
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
      margin-bottom: 6px;
    }
    p {
      margin: 0;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
    }
  `,
})
export class LookToolsComponent {
  private readonly studio = inject(Studio);
  private readonly meter = inject(ExposureMeter);
  private readonly notices = inject(Notices);
  private readonly ask = inject(Ask);
  /** Where the look stands. */
  readonly at = input.required<'look' | `takeLooks/${string}` | `shots/${string}/look` | `reel/clips/${string}/look`>();
  readonly metering = signal(false);
  private readonly look = computed(() => this.lookIn(this.studio.document()) ?? defaultLook());
  private readonly kept = computed(() => inOrder(this.studio.document().looks));
  readonly options = computed(() => [
    ...READY_LOOKS.map(({ id, name }) => ({ value: id, label: name })),
    ...this.kept().map(({ id, name }) => ({ value: id, label: name })),
  ]);
  /** Which of them it is; null where it is none. */
  readonly worn = computed(() => {
    const laid = laidOf(this.look());
    const own = this.kept().find((each) => same(laid, each));
    return own?.id ?? READY_LOOKS.find(({ look }) => same(laid, { ...laidOf(defaultLook()), ...look }))?.id ?? null;
  });
  readonly own = computed(() => this.kept().find(({ id }) => id === this.worn()) ?? null);
  readonly says = computed(() => READY_LOOKS.find(({ id }) => id === this.worn())?.says ?? '');
  readonly differs = computed(() => !same(laidOf(this.look()), this.studio.document().look));

  private lookIn(document: ProjectDocument): Look | undefined {
    const at = this.at();
    const [room, id, clip] = at.split('/') as [string, string?, string?];
    if (room === 'reel') return document.reel.clips[clip!]?.look ?? undefined;
    if (room === 'look') return document.look;
    return (room === 'shots' ? document.shots[id!]?.look : document.takeLooks[id!]) ?? undefined;
  }

  private edit(label: string, change: (look: Look, draft: ProjectDocument) => void): void {
    this.studio.edit(label, (draft) => {
      const look = this.lookIn(draft);
      if (look) change(look, draft);
    });
  }

  wear(id: string): void {
    const ready = READY_LOOKS.find((each) => each.id === id)?.look;
    const kept = this.studio.document().looks[id];
    this.edit('Look', (look) => {
      if (ready) Object.assign(look, laidOf(defaultLook()), copyOf(ready));
      else if (kept) for (const name of Object.keys(laidOf(look))) Object.assign(look, { [name]: copyOf(kept[name as keyof Laid]) }); // prettier-ignore
    });
  }

  async keep(): Promise<void> {
    const name = await this.ask.name('Name of the look', 'Keep');
    if (!name) return;
    this.edit('Keep a look', (look, draft) => {
      const id = newId();
      draft.looks[id] = { id, name, order: lastOrder(draft.looks), ...copyOf(look), lights: {}, lightsWritten: {} };
    });
  }

  forget(id: string): void {
    this.studio.edit('Forget a look', (draft) => void delete draft.looks[id]);
  }

  give(): void {
    this.edit('Look of the project', (look, draft) => void Object.assign(draft.look, laidOf(look)));
  }

  async expose(): Promise<void> {
    this.metering.set(true);
    try {
      const look = this.look();
      const stops = await this.meter.ask(look);
      if (stops === null) return this.notices.tell('There is no picture to expose by yet. Wait until one is seen.');
      const exposure = nearest(EXPOSURE, Number((look.exposure + stops).toFixed(2))) as number;
      this.edit('Exposure by the picture', (own) => void (own.exposure = exposure));
    } catch (error) {
      this.notices.tell(error);
    } finally {
      this.metering.set(false);
    }
  }
}
