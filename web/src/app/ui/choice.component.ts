import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  Injector,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { MatAutocompleteModule, type MatAutocompleteSelectedEvent } from '@angular/material/autocomplete';
import { MatInputModule } from '@angular/material/input';
import { MatSelect, MatSelectModule, type MatSelectChange } from '@angular/material/select';

export interface Option {
  value: string;
  label: string;
}

/** Options beyond which one is found by typing. */
const MANY = 40;
/** Most that are listed of those found. */
const MOST = 60;

/** One of several, from a list that opens; of very many, found by typing. */
@Component({
  selector: 'zr-choice',
  imports: [MatAutocompleteModule, MatInputModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (many()) {
      <input
        #field
        matInput
        class="zr-field"
        autocomplete="off"
        [attr.aria-label]="label()"
        [disabled]="disabled()"
        [placeholder]="placeholder()"
        [value]="shown()"
        [matAutocomplete]="list"
        (focus)="near.set(true); field.select()"
        (input)="sought.set(field.value)"
        (blur)="list.isOpen || leave()"
      />
      <mat-autocomplete
        #list
        panelWidth="220px"
        hideSingleSelectionIndicator
        (optionSelected)="take($event)"
        (closed)="leave()"
      >
        @for (option of found(); track option.value) {
          <mat-option [value]="option.value">{{ option.label }}</mat-option>
        }
      </mat-autocomplete>
    } @else {
      <mat-select
        [aria-label]="label()"
        [disabled]="disabled()"
        [placeholder]="placeholder()"
        [value]="value()"
        panelWidth=""
        panelClass="zr-options"
        hideSingleSelectionIndicator
        (selectionChange)="choose($event)"
      >
        @for (option of options(); track option.value) {
          <mat-option [value]="option.value">{{ option.label }}</mat-option>
        }
      </mat-select>
    }
  `,
  styles: `
    :host {
      display: block;
      min-width: 0;
    }
    input {
      width: 100%;
    }
  `,
})
export class ChoiceComponent {
  private readonly injector = inject(Injector);
  private readonly select = viewChild(MatSelect);
  private readonly field = viewChild<ElementRef<HTMLInputElement>>('field');
  readonly label = input.required<string>();
  readonly options = input.required<readonly Option[]>();
  /** Null where none of them is chosen. */
  readonly value = input.required<string | null>();
  readonly placeholder = input('');
  readonly disabled = input(false);
  readonly chosen = output<string>();

  readonly many = computed(() => this.options().length > MANY);
  readonly shown = computed(() => this.options().find(({ value }) => value === this.value())?.label ?? '');
  readonly sought = signal('');
  /** Options are made when the field is first entered: a table may hold hundreds of such lists. */
  readonly near = signal(false);
  readonly found = computed(() => {
    if (!this.near()) return [];
    const sought = this.sought().toLowerCase();
    return this.options()
      .filter(({ label }) => label.toLowerCase().includes(sought))
      .slice(0, MOST);
  });

  choose({ value }: MatSelectChange): void {
    this.chosen.emit(value as string);
    this.showWhatIs();
  }

  take({ option }: MatAutocompleteSelectedEvent): void {
    this.chosen.emit(option.value as string);
    // Nothing more is typed: keys are shortcuts again. The list gives the focus back to its field before that.
    setTimeout(() => this.field()?.nativeElement.blur());
  }

  /** The list that is open keeps what was found: it is pressed on while the field has been left already. */
  leave(): void {
    this.sought.set('');
    this.showWhatIs();
  }

  /** What was chosen may have been refused, or undone before it was drawn: the list shows what is, not what was asked for. */
  private showWhatIs(): void {
    afterNextRender(
      () => {
        const select = this.select();
        if (select) select.value = this.value();
        const field = this.field()?.nativeElement;
        if (field && field !== document.activeElement) field.value = this.shown();
      },
      { injector: this.injector },
    );
  }
}
