import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatRippleModule } from '@angular/material/core';
import { MatTooltipModule } from '@angular/material/tooltip';
import { hexFromLinear } from '@zippy/core/optics';
import { blobUrl } from '../api/urls';
import { chosenFinish, finishOptions } from '../fields/finish-options';
import { labelFields } from '../fields/label-fields';
import { PropertyFieldComponent } from '../fields/property-field.component';
import { Labels } from '../store/edits/labels';
import { Notices } from '../store/notices';
import { Studio } from '../store/studio';
import { drawSvg, drawText } from '../tasks/import/draw-picture';
import { Importer } from '../tasks/import/importer';
import { FILMS, PICTURES } from '../tasks/import/picture-rows';
import { ChoiceComponent } from '../ui/choice.component';
import { ColorFieldComponent } from '../ui/color-field.component';
import { FileButtonComponent } from '../ui/file-button.component';
import { FoldComponent } from '../ui/fold.component';
import { IconComponent } from '../ui/icon.component';
import { WordsFieldComponent } from '../ui/words-field.component';

/** What is printed and stuck on a part: pictures and words, placed by a click, each with a finish of its own. */
@Component({
  selector: 'zr-part-labels',
  imports: [
    ChoiceComponent,
    ColorFieldComponent,
    FileButtonComponent,
    FoldComponent,
    IconComponent,
    MatButtonModule,
    MatRippleModule,
    MatTooltipModule,
    PropertyFieldComponent,
    WordsFieldComponent,
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
        <zr-words label="Words to print" [value]="words()" (typed)="words.set($event)" />
        <zr-color small label="Colour of the words" [value]="ink()" (changed)="ink.set($event.value)" />
        <button matButton="tonal" [disabled]="words().trim() === ''" (click)="printWords()">Print</button>
      </div>
      <zr-file-button label="Picture to print" [accept]="accept" (files)="bring($event)"
        >Print a picture or film…</zr-file-button
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
      grid-template-columns: minmax(0, 1fr) auto auto;
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
  readonly accept = `${PICTURES},.svg,${FILMS}`;
  readonly words = signal('');
  /** Linear. */
  readonly ink = signal<[number, number, number]>([0, 0, 0]);
  readonly worn = computed(() =>
    Object.entries(this.studio.document().nodes[this.node()]?.labels ?? {})
      .sort(([, a], [, b]) => b.order - a.order)
      .map(([id, label]) => ({ id, label, fields: labelFields(this.node(), id) })),
  );
  readonly finishes = computed(() => [
    { value: '', label: 'Ink on what it wears' },
    ...finishOptions(this.studio.document()),
  ]);
  readonly pictures = computed(() =>
    Object.values(this.studio.document().assets).filter(({ kind }) => kind === 'picture' || kind === 'footage'),
  );

  makeOf(label: string, chosen: string): void {
    this.labels.makeOf(this.node(), label, chosen === '' ? null : chosenFinish(chosen));
  }

  async bring([file]: File[]): Promise<void> {
    if (file) await this.take(() => (/\.svg$/i.test(file.name) ? drawSvg(file) : Promise.resolve(file)));
  }

  async printWords(): Promise<void> {
    const words = this.words().trim();
    await this.take(() =>
      drawText(
        words,
        hexFromLinear(this.ink()),
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
      const [picture] = await this.importer.bringPictures([await draw()]);
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
