import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Importer } from '../dialogs/importer';
import { FieldGroupsComponent } from '../fields/field-groups.component';
import { setFields } from '../fields/field-specs';
import { Studio } from '../state/studio';

/** Floor, surroundings, and what is seen behind. */
@Component({
  selector: 'zr-set-desk',
  imports: [FieldGroupsComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button class="control" (click)="file.click()">Own surroundings (.hdr, .exr)</button>
    <input #file type="file" hidden accept=".hdr,.exr" (change)="choose(file)" />
    <button
      class="control"
      title="A picture that fills the frame behind the product, lighting nothing"
      (click)="plate.click()"
    >
      Own plate (.png, .jpg, …)
    </button>
    <input #plate type="file" hidden accept="image/*,.tga,.tif,.tiff" (change)="showPlate(plate)" />
    <zr-field-groups [groups]="groups()" />
    @if (transparent()) {
      <p class="quiet">
        The picture is transparent where nothing stands. Glass counts as something: what is put behind later is not seen
        through it.
      </p>
    }
  `,
  styleUrl: './desk.scss',
})
export class SetDeskComponent {
  private readonly studio = inject(Studio);
  private readonly importer = inject(Importer);
  readonly transparent = computed(() => this.studio.document().set.behind.kind === 'transparent');
  readonly groups = computed(() => setFields(this.studio.document()));

  choose(field: HTMLInputElement): void {
    void this.importer.bring([...(field.files ?? [])]);
    field.value = '';
  }

  async showPlate(field: HTMLInputElement): Promise<void> {
    const [file] = field.files ?? [];
    field.value = '';
    const plate = file && (await this.importer.bringPicture(file));
    if (plate) this.studio.edit('Plate', (draft) => void Object.assign(draft.set.behind, { kind: 'plate', plate }));
  }
}
