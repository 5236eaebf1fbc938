import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatRippleModule } from '@angular/material/core';
import { MatTooltipModule } from '@angular/material/tooltip';
import { FINISH_SHELF } from '@zippy/core/shelf';
import { blobUrl } from '../api/urls';
import { labelFields } from '../fields/label-fields';
import { PropertyFieldComponent } from '../fields/property-field.component';
import { Labels } from '../store/edits/labels';
import { Notices } from '../store/notices';
import { Studio } from '../store/studio';
import { drawSvg, drawText } from '../tasks/import/draw-picture';
import { Importer } from '../tasks/import/importer';
import { ChoiceComponent } from '../ui/choice.component';
import { FileButtonComponent } from '../ui/file-button.component';
import { FoldComponent } from '../ui/fold.component';
import { IconComponent } from '../ui/icon.component';
import { TextFieldComponent } from '../ui/text-field.component';

const SHELF = FINISH_SHELF.flatMap(({ finishes }) => finishes);
/** Before the name of a finish that is not in the project yet. */
const FROM_SHELF = 'shelf: ';

/** What is printed and stuck on a part: pictures and words, placed by a click, each with a finish of its own. */
@Component({
  selector: 'zr-part-labels',
  imports: [
    ChoiceComponent,
    FileButtonComponent,
    FoldComponent,
    IconComponent,
    MatButtonModule,
    MatRippleModule,
    MatTooltipModule,
    PropertyFieldComponent,
    TextFieldComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <zr-fold title="Labels and prints">
      @for (each of worn(); track each.id) {
        <zr-fold [title]="each.label.name" [open]="false">
          <button matButton (click)="labels.move(node(), each.id)"><zr-icon name="move" /> Place it anew</button>
          <button matButton (click)="labels.takeOff(node(), each.id, each.label.name)">
            <zr-icon name="trash" /> Take it off
          </button>
          <div class="made">
            <span class="quiet">Made of</span>
            <zr-choice
              label="Made of"
              [options]="finishes()"
              [value]="each.label.finish ?? ''"
              (chosen)="makeOf(each.id, $event)"
            />
          </div>
          @for (field of each.fields; track field.path) {
            <zr-property [spec]="field" />
          }
        </zr-fold>
      }
      <div class="words">
        <zr-text label="Words to print" placeholder="Words to print" [value]="words()" (typed)="words.set($event)" />
        <button matButton="tonal" [disabled]="words().trim() === ''" (click)="printWords()">Print</button>
      </div>
      <zr-file-button
        label="Picture to print"
        accept=".png,.jpg,.jpeg,.webp,.tif,.tiff,.avif,.gif,.tga,.svg"
        (files)="bring($event)"
        >Print a picture…</zr-file-button
      >
      @if (pictures().length > 0) {
        <div class="known">
          @for (picture of pictures(); track picture.id) {
            <button matRipple [matTooltip]="'Print ' + picture.name" (click)="print(picture.id)">
              <img [src]="urlOf(picture.hash)" [alt]="picture.name" />
            </button>
          }
        </div>
      }
    </zr-fold>
  `,
  styles: `
    .made,
    .words {
      display: grid;
      grid-template-columns: 92px minmax(0, 1fr);
      align-items: center;
      gap: 6px;
      padding-block: 3px;
    }
    .words {
      grid-template-columns: minmax(0, 1fr) auto;
    }
    .known {
      display: grid;
      grid-template-columns: repeat(4, minmax(0, 1fr));
      gap: 4px;
      padding-top: 6px;
    }
    .known button {
      padding: 2px;
      border: 0;
      border-radius: 6px;
      background: var(--raised);
      cursor: pointer;
    }
    .known img {
      width: 100%;
      height: 36px;
      object-fit: contain;
    }
  `,
})
export class PartLabelsComponent {
  readonly node = input.required<string>();
  private readonly studio = inject(Studio);
  private readonly importer = inject(Importer);
  private readonly notices = inject(Notices);
  readonly labels = inject(Labels);
  readonly urlOf = blobUrl;
  readonly words = signal('');
  readonly worn = computed(() =>
    Object.entries(this.studio.document().nodes[this.node()]?.labels ?? {})
      .sort(([, a], [, b]) => b.order - a.order)
      .map(([id, label]) => ({ id, label, fields: labelFields(this.node(), id) })),
  );
  readonly finishes = computed(() => [
    { value: '', label: 'Ink on what it wears' },
    ...Object.values(this.studio.document().finishes).map(({ id, name }) => ({ value: id, label: name })),
    ...SHELF.map(({ name }) => ({ value: `${FROM_SHELF}${name}`, label: `${name}, from the shelf` })),
  ]);
  readonly pictures = computed(() =>
    Object.values(this.studio.document().assets).filter((asset) => asset.kind === 'picture'),
  );

  makeOf(label: string, chosen: string): void {
    const shelf = SHELF.find(({ name }) => `${FROM_SHELF}${name}` === chosen);
    this.labels.makeOf(this.node(), label, shelf ?? (chosen || null));
  }

  async bring([file]: File[]): Promise<void> {
    if (file) await this.take(() => (/\.svg$/i.test(file.name) ? drawSvg(file) : Promise.resolve(file)));
  }

  async printWords(): Promise<void> {
    const words = this.words().trim();
    await this.take(() =>
      drawText(
        words,
        `${
          words
            .slice(0, 40)
            .replace(/[^\p{L}\p{N}]+/gu, ' ')
            .trim() || 'Words'
        }.png`,
      ),
    );
    this.words.set('');
  }

  private async take(draw: () => Promise<File>): Promise<void> {
    try {
      const picture = await this.importer.bringPicture(await draw());
      if (picture) await this.print(picture);
    } catch (error) {
      this.notices.tell(error);
    }
  }

  /** Asks for a place, in proportion to the picture. */
  async print(id: string): Promise<void> {
    const asset = this.studio.document().assets[id];
    if (!asset) return;
    const image = new Image();
    image.src = blobUrl(asset.hash);
    try {
      await image.decode();
    } catch {
      return this.notices.tell(`The picture "${asset.name}" cannot be shown, so it cannot be printed.`);
    }
    this.labels.print(id, asset.name, image.naturalWidth / image.naturalHeight);
  }
}
