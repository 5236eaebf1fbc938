import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { openDocument, tellDifferences, type Difference } from '@zippy/core/document';
import { Api } from '../api/api';
import { TakeWork } from '../store/edits/take-work';
import { Notices } from '../store/notices';
import { Studio } from '../store/studio';
import { ChoiceComponent } from '../ui/choice.component';
import { FoldComponent } from '../ui/fold.component';

const NOW = '';
/** Lines that are shown before more are asked for. */
const AT_FIRST = 12;

/** What the scene of a take differs by from that of another one, or from the present one. */
@Component({
  selector: 'zr-take-changes',
  imports: [ChoiceComponent, FoldComponent, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <zr-fold title="What is different" [open]="false" (turned)="$event && look()">
      <zr-choice label="Compared with" [options]="others()" [value]="other()" (chosen)="other.set($event); look()" />
      @if (found(); as list) {
        @for (each of shown(); track $index) {
          <p>
            <b>{{ each.thing }}</b> {{ each.what }}
            <span class="quiet">{{ say(each) }}</span>
          </p>
        } @empty {
          <p class="quiet">Nothing that would change a picture of this shot.</p>
        }
        @if (list.length > shown().length) {
          <button matButton (click)="most.set(list.length)">Show {{ list.length - shown().length }} more</button>
        }
      } @else if (looking()) {
        <p class="quiet">Looking…</p>
      }
    </zr-fold>
  `,
  styles: `
    p {
      margin: 6px 0;
      overflow-wrap: anywhere;
    }
  `,
})
export class TakeChangesComponent {
  private readonly api = inject(Api);
  private readonly studio = inject(Studio);
  private readonly notices = inject(Notices);
  private readonly takeWork = inject(TakeWork);
  readonly take = input.required<string>();
  readonly other = linkedSignal<string, string>({ source: () => this.take(), computation: () => NOW });
  readonly found = linkedSignal<string, Difference[] | null>({ source: () => this.take(), computation: () => null });
  readonly most = signal(AT_FIRST);
  readonly looking = signal(false);
  readonly shown = computed(() => (this.found() ?? []).slice(0, this.most()));
  private readonly shot = computed(() => this.studio.takes().find(({ id }) => id === this.take())?.shot ?? '');
  readonly others = computed(() => [
    { value: NOW, label: 'The scene as it is now' },
    ...[...this.studio.takes()]
      .reverse()
      .filter(({ id, shot }) => id !== this.take() && shot === this.shot())
      .map(({ id, number }) => ({ value: id, label: `Take ${number} ${this.takeWork.noteOf(id).name}`.trim() })),
  ]);

  async look(): Promise<void> {
    const [take, other, shot] = [this.take(), this.other(), this.shot()];
    this.looking.set(true);
    this.found.set(null);
    this.most.set(AT_FIRST);
    try {
      const read = async (id: string) => openDocument(await this.api.takeDocument(id));
      const after = other === NOW ? this.studio.document() : await read(other);
      const found = tellDifferences(await read(take), after, shot);
      if (take === this.take() && other === this.other()) this.found.set(found);
    } catch (error) {
      this.notices.tell(error);
    } finally {
      this.looking.set(false);
    }
  }

  say({ before, after, what }: Difference): string {
    if (what === '') return after === null ? 'is gone' : 'is new';
    return `${before ?? 'nothing'} → ${after ?? 'nothing'}`;
  }
}
