import { FoldComponent } from '../ui/fold.component';
import { MatTooltipModule } from '@angular/material/tooltip';
import { MatButtonModule } from '@angular/material/button';
import { ChoiceComponent } from '../ui/choice.component';
import { FileButtonComponent } from '../ui/file-button.component';
import { MatRippleModule } from '@angular/material/core';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { blobUrl } from '../api/urls';
import { isColorSlot, MAP_SLOTS, newMap, type MapSlot } from '@zippy/core/document';
import { Importer } from '../tasks/import/importer';
import { mapFields, SLOT_NAMES } from '../fields/field-specs';
import { PropertyFieldComponent } from '../fields/property-field.component';
import { IconComponent } from '../ui/icon.component';
import { Studio } from '../store/studio';

/** Pictures that a finish wears, each on one of its parameters. */
@Component({
  selector: 'zr-finish-pictures',
  imports: [
    ChoiceComponent,
    FileButtonComponent,
    FoldComponent,
    IconComponent,
    MatButtonModule,
    MatRippleModule,
    MatTooltipModule,
    PropertyFieldComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (worn of worn(); track worn.slot) {
      <zr-fold [title]="'Picture on: ' + names[worn.slot]">
        <button matButton (click)="takeOff(worn.slot)">
          <zr-icon name="trash" /> Take the picture off {{ names[worn.slot] }}
        </button>
        @for (field of worn.fields; track field.path) {
          <zr-property [spec]="field" />
        }
      </zr-fold>
    }
    <div class="add">
      <zr-choice label="Put a picture on" [options]="free()" [value]="slot()" (chosen)="chosen.set($any($event))" />
      <zr-file-button label="Picture" accept=".png,.jpg,.jpeg,.webp,.tif,.tiff,.avif,.gif,.tga" (files)="bring($event)"
        >Picture…</zr-file-button
      >
    </div>
    @if (pictures().length > 0) {
      <div class="known">
        @for (picture of pictures(); track picture.id) {
          <button matRipple [matTooltip]="'Put ' + picture.name + ' on it'" (click)="wear(slot(), picture.id)">
            <img [src]="urlOf(picture.hash)" alt="" />
            <span>{{ picture.name }}</span>
          </button>
        }
      </div>
    }
  `,
  styles: `
    .add {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 6px;
      padding: 6px 0;
    }
    .known {
      display: grid;
      grid-template-columns: repeat(3, minmax(0, 1fr));
      gap: 6px;
    }
    .known button {
      display: grid;
      justify-items: center;
      gap: 2px;
      padding: 4px;
      border: 0;
      border-radius: 6px;
      background: var(--raised);
      color: var(--text);
      font: inherit;
      cursor: pointer;
    }
    .known img {
      width: 100%;
      height: 44px;
      object-fit: cover;
      border-radius: 4px;
    }
    .known span {
      max-width: 100%;
      overflow: hidden;
      font-size: 11px;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
  `,
})
export class FinishPicturesComponent {
  readonly finish = input.required<string>();
  private readonly studio = inject(Studio);
  private readonly importer = inject(Importer);
  readonly names = SLOT_NAMES;
  readonly urlOf = blobUrl;
  readonly chosen = signal<MapSlot>('baseColor');
  private readonly maps = computed(() => this.studio.document().finishes[this.finish()]?.maps ?? {});
  readonly worn = computed(() =>
    MAP_SLOTS.filter((slot) => this.maps()[slot]).map((slot) => ({
      slot,
      fields: mapFields(this.studio.document(), this.finish(), slot),
    })),
  );
  readonly free = computed(() =>
    MAP_SLOTS.filter((slot) => !this.maps()[slot]).map((value) => ({ value, label: SLOT_NAMES[value] })),
  );
  /** Where the next picture goes: where it was asked to, while that is free. */
  readonly slot = computed((): MapSlot => {
    const free = this.free();
    return (free.find(({ value }) => value === this.chosen()) ?? free[0])?.value ?? 'baseColor';
  });
  readonly pictures = computed(() =>
    Object.values(this.studio.document().assets).filter((asset) => asset.kind === 'picture'),
  );

  wear(known: MapSlot, picture: string): void {
    this.studio.edit(`Picture on ${SLOT_NAMES[known].toLowerCase()}`, (draft) => {
      const finish = draft.finishes[this.finish()];
      if (!finish) return;
      finish.maps[known] = newMap(known, picture);
      // The picture multiplies: what is nothing would stay nothing, and the picture shall come in its own colours.
      if (isColorSlot(known)) finish[known as 'baseColor'] = [1, 1, 1];
      else if (known !== 'normal' && finish[known] === 0) finish[known as 'coatWeight'] = 1;
    });
  }

  async bring([file]: File[]): Promise<void> {
    const slot = this.slot();
    const picture = file && (await this.importer.bringPicture(file));
    if (picture) this.wear(slot, picture);
  }

  takeOff(slot: MapSlot): void {
    this.studio.edit('Take picture off', (draft) => void delete draft.finishes[this.finish()]?.maps[slot]);
  }
}
