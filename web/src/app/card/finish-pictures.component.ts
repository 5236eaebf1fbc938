import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { blobUrl } from '../api/urls';
import { isColorSlot, MAP_SLOTS, newMap, type MapSlot } from '@zippy/core/document';
import { Importer } from '../dialogs/importer';
import { mapFields, SLOT_NAMES } from '../fields/field-specs';
import { PropertyFieldComponent } from '../fields/property-field.component';
import { IconComponent } from '../shell/icon.component';
import { Studio } from '../state/studio';

/** Pictures that a finish wears, each on one of its parameters. */
@Component({
  selector: 'zr-finish-pictures',
  imports: [PropertyFieldComponent, IconComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (worn of worn(); track worn.slot) {
      <details open>
        <summary>
          <span>Picture on: {{ names[worn.slot] }}</span>
          <button
            class="control plain"
            [attr.aria-label]="'Take the picture off ' + names[worn.slot]"
            title="Take the picture off"
            (click)="takeOff(worn.slot, $event)"
          >
            <zr-icon name="trash" />
          </button>
        </summary>
        @for (field of worn.fields; track field.path) {
          <zr-property [spec]="field" />
        }
      </details>
    }
    <div class="add">
      <select #slot class="control" aria-label="Put a picture on" (change)="chosen.set($any(slot.value))">
        @for (free of free(); track free) {
          <option [value]="free" [selected]="free === chosen()">{{ names[free] }}</option>
        }
      </select>
      <button class="control" (click)="file.click()">Picture…</button>
      <input
        #file
        type="file"
        hidden
        accept=".png,.jpg,.jpeg,.webp,.tif,.tiff,.avif,.gif"
        (change)="bring(file, slot.value)"
      />
    </div>
    @if (pictures().length > 0) {
      <div class="known">
        @for (picture of pictures(); track picture.id) {
          <button class="control" [title]="'Put ' + picture.name + ' on it'" (click)="wear(slot.value, picture.id)">
            <img [src]="urlOf(picture.hash)" alt="" />
            <span>{{ picture.name }}</span>
          </button>
        }
      </div>
    }
  `,
  styles: `
    summary {
      display: flex;
      justify-content: space-between;
      align-items: center;
      font-weight: 600;
      font-size: 12px;
      cursor: pointer;
      list-style: none;
    }
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
      height: auto;
      padding: 4px;
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
  readonly free = computed(() => MAP_SLOTS.filter((slot) => !this.maps()[slot]));
  readonly pictures = computed(() =>
    Object.values(this.studio.document().assets).filter((asset) => asset.kind === 'picture'),
  );

  wear(slot: string, picture: string): void {
    const known = MAP_SLOTS.find((each) => each === slot);
    if (!known) return;
    this.studio.edit(`Picture on ${SLOT_NAMES[known].toLowerCase()}`, (draft) => {
      const finish = draft.finishes[this.finish()];
      if (!finish) return;
      finish.maps[known] = newMap(known, picture);
      // The picture multiplies: what is nothing would stay nothing, and the picture shall come in its own colours.
      if (isColorSlot(known)) finish[known as 'baseColor'] = [1, 1, 1];
      else if (known !== 'normal' && finish[known] === 0) finish[known as 'coatWeight'] = 1;
    });
    this.chosen.set(this.free()[0] ?? 'baseColor');
  }

  async bring(field: HTMLInputElement, slot: string): Promise<void> {
    const [file] = field.files ?? [];
    field.value = '';
    const picture = file && (await this.importer.bringPicture(file));
    if (picture) this.wear(slot, picture);
  }

  takeOff(slot: MapSlot, event: Event): void {
    event.preventDefault();
    this.studio.edit('Take picture off', (draft) => void delete draft.finishes[this.finish()]?.maps[slot]);
  }
}
