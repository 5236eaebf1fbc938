import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  signal,
  afterNextRender,
} from '@angular/core';
import { MatInputModule } from '@angular/material/input';
import { DialogComponent } from '../ui/dialog.component';
import { Commands, type Command } from './commands';
import { Everything } from './everything';

/** All commands, found by typing. */
@Component({
  selector: 'zr-palette',
  imports: [DialogComponent, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <zr-dialog label="Do anything" [width]="480" top="64px" (leave)="close()">
      <input
        #query
        matInput
        class="zr-field"
        placeholder="What shall be done?"
        aria-label="Search commands"
        role="combobox"
        aria-expanded="true"
        aria-controls="commands"
        [attr.aria-activedescendant]="'command-' + at()"
        autocomplete="off"
        (input)="search(query.value)"
        (keydown)="key($event)"
      />
      <ul id="commands" class="scroll" role="listbox" aria-label="Commands">
        @for (command of found(); track $index; let k = $index) {
          <li
            role="option"
            [id]="'command-' + k"
            [attr.aria-selected]="k === at()"
            (click)="run(command)"
            (pointerenter)="at.set(k)"
          >
            <span>{{ command.name }}</span>
            @if (command.keys) {
              <kbd class="mono">{{ command.keys }}</kbd>
            }
          </li>
        } @empty {
          <li class="quiet">Nothing is called that. Try an action, a desk, or the name of a part, light or shot.</li>
        }
      </ul>
    </zr-dialog>
  `,
  styles: `
    input {
      width: 100%;
    }
    ul {
      max-height: 360px;
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      justify-content: space-between;
      align-items: center;
      height: 32px;
      padding: 0 10px;
      border-radius: 6px;
      cursor: pointer;
    }
    li[aria-selected='true'] {
      background: color-mix(in srgb, var(--select) 22%, transparent);
    }
    kbd {
      color: var(--quiet);
      font-size: 11px;
    }
  `,
})
export class PaletteComponent {
  private readonly commands = inject(Commands);
  private readonly everything = inject(Everything);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly text = signal('');
  readonly at = signal(0);
  readonly found = computed((): Command[] => this.everything.find(this.text()));

  constructor() {
    afterNextRender(() => this.host.nativeElement.querySelector('input')?.focus());
  }

  search(text: string): void {
    this.text.set(text);
    this.at.set(0);
  }

  key(event: KeyboardEvent): void {
    event.stopPropagation();
    if (event.key === 'Escape') this.close();
    if (event.key === 'ArrowDown') this.at.update((k) => Math.min(this.found().length - 1, k + 1));
    if (event.key === 'ArrowUp') this.at.update((k) => Math.max(0, k - 1));
    const command = this.found()[this.at()];
    if (event.key === 'Enter' && command) this.run(command);
  }

  run(command: Command): void {
    this.close();
    command.run();
  }

  close(): void {
    this.commands.paletteOpen.set(false);
  }
}
