import { FileButtonComponent } from '../../ui/file-button.component';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Importer } from '../../tasks/import/importer';
import { FieldGroupsComponent } from '../../fields/field-groups.component';
import { setFields } from '../../fields/field-specs';
import { Studio } from '../../store/studio';
import { ReadySetsComponent } from './ready-sets.component';

/** Floor, surroundings, and what is seen behind. */
@Component({
  selector: 'zr-set-desk',
  imports: [FieldGroupsComponent, FileButtonComponent, ReadySetsComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <zr-ready-sets />
    <zr-file-button label="Surroundings" accept=".hdr,.exr" (files)="bring($event)"
      >Own surroundings (.hdr, .exr)</zr-file-button
    >
    <zr-file-button
      label="Plate"
      hint="A picture, a film or numbered pictures that fill the frame behind the product, lighting nothing"
      accept="image/*,video/*,.tga,.tif,.tiff,.mov,.mkv"
      multiple
      (files)="showPlate($event)"
      >Own plate (picture or film)</zr-file-button
    >
    <zr-field-groups [groups]="groups()" />
    @if (transparent()) {
      <p class="quiet">
        The picture is transparent where nothing stands. Glass counts as something: what is put behind later is not seen
        through it.
      </p>
    }
  `,
  styleUrl: '../desk.scss',
})
export class SetDeskComponent {
  private readonly studio = inject(Studio);
  private readonly importer = inject(Importer);
  readonly transparent = computed(() => this.studio.document().set.behind.kind === 'transparent');
  readonly groups = computed(() => setFields(this.studio.document()));

  bring(files: File[]): void {
    void this.importer.bring(files);
  }

  async showPlate(files: File[]): Promise<void> {
    const [plate] = await this.importer.bringPictures(files, true);
    if (plate) this.studio.edit('Plate', (draft) => void Object.assign(draft.set.behind, { kind: 'plate', plate }));
  }
}
