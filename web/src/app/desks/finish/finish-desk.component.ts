import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatRippleModule } from '@angular/material/core';
import { MatTooltipModule } from '@angular/material/tooltip';
import { pictureFiles, type Finish, type PictureFile } from '@zippy/core/document';
import { FINISH_SHELF, type ShelfFinish } from '@zippy/core/shelf';
import Fuse from 'fuse.js';
import { ThingDirective } from '../../menu/thing.directive';
import { FINISH_DRAG, fromShelf } from '../../store/edits/finish-shelf';
import { FinishSwap } from '../../store/edits/finish-swap';
import { OwnShelf, type OwnFinish } from '../../store/edits/own-shelf';
import { Things } from '../../store/edits/things';
import { Notices } from '../../store/notices';
import { Studio } from '../../store/studio';
import { Importer } from '../../tasks/import/importer';
import { Ask } from '../../ui/ask/ask';
import { ChoiceComponent } from '../../ui/choice.component';
import { FileButtonComponent } from '../../ui/file-button.component';
import { IconComponent } from '../../ui/icon.component';
import { SmallButtonComponent } from '../../ui/small-button.component';
import { TextFieldComponent } from '../../ui/text-field.component';
import { ColourwayTableComponent } from './colourway-table.component';
import { SmallPictures, type Wish } from '../small-pictures/small-pictures';
import { finishWish, lookOf } from './finish-look';
import { FinishTileComponent } from './finish-tile.component';
import { SHELF_COLORS, shelfColor, shelfPicture, type ShelfColor } from './shelf/shelf-pictures';

/** Width of small pictures that are drawn here, and of those that are compared. */
const SMALL = 168;
const LARGE = 300;
/** Finishes that are held beside each other at once. */
const MOST_COMPARED = 3;

const SHELF = FINISH_SHELF.flatMap(({ family, finishes }) => finishes.map((finish) => ({ family, finish })));
const words = new Fuse(SHELF, {
  keys: [{ name: 'finish.name', weight: 2 }, 'family'],
  threshold: 0.3,
  ignoreLocation: true,
});

/**
 * The shelf: what the project wears comes first, as it is at present, then all that there is to start from. It is narrowed by words,
 * by what things are made of and by colour; two or three finishes are held beside each other on a bright and a dark ground.
 */
@Component({
  selector: 'zr-finish-desk',
  imports: [
    ChoiceComponent,
    ColourwayTableComponent,
    FileButtonComponent,
    FinishTileComponent,
    IconComponent,
    MatButtonModule,
    MatRippleModule,
    MatTooltipModule,
    SmallButtonComponent,
    TextFieldComponent,
    ThingDirective,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (replaced(); as name) {
      <p class="swap" role="status">
        Click the finish that shall take the place of "{{ name }}" wherever it is worn.
        <button matButton (click)="swap.waiting.set(null)">Leave it</button>
      </p>
    } @else {
      <p class="quiet hint">Drag a finish onto a part in the picture, or select parts and click it.</p>
    }
    @if (compared().length > 0) {
      <section class="held" aria-label="Held beside each other">
        @for (each of compared(); track $index) {
          <figure>
            @for (ground of grounds; track ground) {
              @if (pictureOf(each, ground); as address) {
                <img [src]="address" [alt]="each.name + ', ' + ground + ' ground'" />
              } @else {
                <i class="waits"></i>
              }
            }
            <figcaption>
              <span>{{ each.name }}</span>
              <zr-small-button icon="close" [label]="'Put ' + each.name + ' back'" (press)="hold(each)" />
            </figcaption>
          </figure>
        }
      </section>
    }
    <header>
      <h2>In this project</h2>
      <zr-file-button
        look="text"
        label="Finishes"
        accept=".mtlx,.zip,.glb,.gltf,.bin,.png,.jpg,.jpeg,.webp,.tif,.tiff,.exr"
        multiple
        hint="MaterialX with its pictures or zipped, or the finishes of a glTF file"
        (files)="importer.bringFinishes($event)"
      >
        <zr-icon name="plus" /> From a file
      </zr-file-button>
    </header>
    @if (own().length > 0) {
      <div class="shelf own">
        @for (finish of own(); track finish.id) {
          <zr-finish-tile
            draggable
            [name]="finish.name"
            [picture]="ownPicture(finish)"
            [worn]="finish.id === selectedFinish()"
            [zrThing]="{ kind: 'finish', id: finish.id }"
            [held]="isHeld(finish)"
            (dragstart)="drag($event, finish.id)"
            (dragover)="over($event)"
            (drop)="dropOn($event, finish.id)"
            (press)="take(finish.id)"
            (dblclick)="studio.select('finish', finish.id)"
            (hold)="hold(finish)"
          />
        }
      </div>
    }
    <zr-colourway-table [pictures]="pictureUrl" />
    @if (ownShelf.all().length > 0) {
      <h2>My shelf</h2>
      @for (folder of ownShelf.folders(); track folder) {
        @if (folder !== '') {
          <h3>{{ folder }}</h3>
        }
        <div class="shelf own">
          @for (each of ownShelf.all(); track each.id) {
            @if (each.folder === folder) {
              <zr-finish-tile
                [name]="each.name"
                [picture]="ownPicture(each.finish)"
                [held]="isHeld(each.finish)"
                (press)="takeOwn(each)"
                (contextmenu)="askOwn($event, each)"
                (hold)="hold(each.finish)"
              >
                <zr-small-button
                  icon="trash"
                  [label]="'Take ' + each.name + ' off my shelf'"
                  (press)="ownShelf.remove(each.id)"
                />
              </zr-finish-tile>
            }
          }
        </div>
      }
    }
    <h2>Shelf</h2>
    <zr-text
      search
      label="Find a finish"
      placeholder="Find a finish"
      [value]="sought()"
      (typed)="sought.set($event.trim())"
    />
    <zr-choice label="Made of" [options]="families" [value]="family()" (chosen)="family.set($event)" />
    <div class="colors" role="group" aria-label="Colour">
      @for (each of colors; track each.id) {
        <button
          matRipple
          [attr.aria-label]="each.label"
          [matTooltip]="each.label"
          [attr.aria-pressed]="color() === each.id"
          [style.background]="each.patch"
          (click)="color.set(color() === each.id ? null : each.id)"
        ></button>
      }
    </div>
    <div class="shelf">
      @for (each of found(); track each.finish.name) {
        <zr-finish-tile
          draggable
          [name]="each.finish.name"
          [told]="each.finish.name + ', ' + each.family.toLowerCase()"
          [picture]="shelfPicture(each.finish.name)"
          [held]="isHeld(each.finish)"
          (dragstart)="drag($event, each.finish)"
          (press)="take(each.finish)"
          (hold)="hold(each.finish)"
        />
      }
    </div>
    @if (found().length === 0) {
      <p class="quiet">
        Nothing on the shelf is like that.
        <button matButton (click)="sought.set(''); family.set(''); color.set(null)">
          <zr-icon name="close" /> Show all {{ all }}
        </button>
      </p>
    }
  `,
  styleUrl: '../desk.scss',
  styles: `
    .hint {
      margin: 0;
    }
    header {
      display: flex;
      align-items: center;
      justify-content: space-between;
    }
    .swap {
      margin: 0;
      padding: 6px 8px;
      border-radius: 6px;
      background: color-mix(in srgb, var(--select) 18%, var(--panel));
    }
    .shelf {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(88px, 1fr));
      gap: 6px;
    }
    .own {
      grid-template-columns: repeat(auto-fill, minmax(62px, 1fr));
    }
    figure i {
      display: block;
      width: 100%;
      aspect-ratio: 1.2;
    }
    .waits {
      background: linear-gradient(100deg, var(--raised), var(--panel), var(--raised));
    }
    .colors {
      display: grid;
      grid-template-columns: repeat(9, minmax(0, 1fr));
      gap: 4px;
    }
    .colors button {
      height: 24px;
      padding: 0;
      border: 1px solid var(--raised);
      border-radius: 4px;
      cursor: pointer;
    }
    .colors button[aria-pressed='true'] {
      outline: 2px solid var(--select);
      outline-offset: 1px;
    }
    .held {
      position: sticky;
      z-index: 2;
      inset-block-start: 0;
      display: grid;
      grid-auto-columns: minmax(0, 1fr);
      grid-auto-flow: column;
      gap: 4px;
      padding-block: 4px;
      background: var(--panel);
    }
    figure {
      display: grid;
      margin: 0;
    }
    figure img {
      width: 100%;
      aspect-ratio: 1.2;
    }
    figcaption {
      display: flex;
      align-items: center;
      font-size: 11px;
    }
    figcaption span {
      flex: 1;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
  `,
})
export class FinishDeskComponent {
  readonly studio = inject(Studio);
  private readonly things = inject(Things);
  private readonly pictures = inject(SmallPictures);
  private readonly ask = inject(Ask);
  private readonly notices = inject(Notices);
  readonly ownShelf = inject(OwnShelf);
  readonly swap = inject(FinishSwap);
  readonly importer = inject(Importer);
  readonly shelfPicture = shelfPicture;
  readonly grounds = ['bright', 'dark'] as const;
  readonly all = SHELF.length;
  readonly families = [
    { value: '', label: 'Anything' },
    ...FINISH_SHELF.map(({ family, finishes }) => ({ value: family, label: `${family} (${finishes.length})` })),
  ];
  readonly colors = (Object.keys(SHELF_COLORS) as ShelfColor[]).map((id) => ({ id, ...SHELF_COLORS[id] }));
  readonly sought = signal('');
  readonly family = signal('');
  readonly color = signal<ShelfColor | null>(null);
  readonly compared = signal<readonly (Partial<Finish> & { name: string })[]>([]);
  readonly found = computed(() => {
    const [sought, family, color] = [this.sought(), this.family(), this.color()];
    const named = sought === '' ? SHELF : words.search(sought).map(({ item }) => item);
    return named.filter(
      (each) => (family === '' || each.family === family) && (color === null || shelfColor(each.finish.name) === color),
    );
  });
  /** Name of the finish in whose place the next one comes. */
  readonly replaced = computed(() => this.studio.document().finishes[this.swap.waiting() ?? '']?.name);
  readonly own = computed(() => Object.values(this.studio.document().finishes));
  readonly selectedFinish = computed(() => {
    const node = this.studio.selectedNodes().at(-1);
    const part = node ? this.studio.document().nodes[node] : undefined;
    return part ? this.studio.dressed()(part) : null;
  });

  constructor() {
    this.ownShelf.load();
    effect(() => {
      const documents = [this.studio.document(), ...this.ownShelf.all().map(({ document }) => document)];
      const pictures: Record<string, PictureFile> = Object.assign(
        {},
        ...documents.map(({ assets }) => pictureFiles(assets)),
      );
      const wishes = new Map<string, Wish>();
      for (const each of this.compared()) {
        const finish = fromShelf(each);
        for (const ground of this.grounds)
          wishes.set(lookOf(finish, ground), finishWish(finish, ground, LARGE, pictures));
      }
      for (const finish of [...this.own(), ...this.ownShelf.all().map((each) => each.finish)])
        if (!wishes.has(lookOf(finish))) wishes.set(lookOf(finish), finishWish(finish, 'bright', SMALL, pictures));
      untracked(() => this.pictures.want('finishes', wishes));
    });
    inject(DestroyRef).onDestroy(() => this.pictures.rest('finishes'));
  }

  pictureOf(finish: Partial<Finish>, ground: 'bright' | 'dark'): string | undefined {
    return this.pictures.of('finishes', lookOf(fromShelf(finish), ground));
  }

  readonly pictureUrl = (finish: Finish): string | null => {
    const address = this.pictures.of('finishes', lookOf(finish));
    return address ? `url(${address})` : null;
  };

  ownPicture(finish: Finish): Record<string, string> | null {
    const address = this.pictureUrl(finish);
    return address === null ? null : { 'background-image': address };
  }

  isHeld(finish: Finish | ShelfFinish): boolean {
    return this.compared().includes(finish);
  }

  /**
   * Holds a finish beside the others, or puts it back; the one that was held first makes room. One of the project is held as it is at
   * this moment: changed later, it is seen before and after.
   */
  hold(finish: Partial<Finish> & { name: string }): void {
    this.compared.update((held) =>
      held.includes(finish) ? held.filter((each) => each !== finish) : [...held, finish].slice(-MOST_COMPARED),
    );
  }

  /** Brings a finish of the user's own shelf into the project, onto what is selected. */
  takeOwn(own: OwnFinish): void {
    const [nodes, waiting] = [this.studio.selectedNodes(), this.swap.waiting()];
    const id = this.ownShelf.bring(own);
    if (waiting !== null) this.swap.replace(waiting, id);
    else if (nodes.length > 0) this.things.wear(nodes, id);
    else this.studio.select('finish', id);
  }

  /** Asks for another name and folder. */
  async askOwn(event: Event, { id, name, folder }: OwnFinish): Promise<void> {
    event.preventDefault();
    const answer = await this.ask.name(
      `Name of "${name}", its folder before it`,
      'Rename',
      [folder, name].filter(Boolean).join(' / '),
    ); // prettier-ignore
    if (answer === null) return;
    const parts = answer.split('/').map((each) => each.trim());
    await this.ownShelf.change(id, parts.at(-1) || name, parts.slice(0, -1).join(' / '));
  }

  take(finish: string | Partial<Finish>): void {
    const [nodes, waiting] = [this.studio.selectedNodes(), this.swap.waiting()];
    if (waiting !== null) this.swap.replace(waiting, finish);
    else if (nodes.length > 0) this.things.wear(nodes, finish);
    else if (typeof finish === 'string') this.studio.select('finish', finish);
    else
      this.notices.say(`Select the parts that shall wear "${finish.name}" first, or drag it onto one in the picture.`);
  }

  over(event: DragEvent): void {
    if (event.dataTransfer?.types.includes(FINISH_DRAG)) event.preventDefault();
  }

  /** One that is dropped onto another takes its place everywhere. */
  dropOn(event: DragEvent, id: string): void {
    const data = event.dataTransfer?.getData(FINISH_DRAG);
    if (!data) return;
    event.preventDefault();
    this.swap.replace(id, JSON.parse(data) as string | Partial<Finish>);
  }

  drag(event: DragEvent, finish: string | Partial<Finish>): void {
    event.dataTransfer?.setData(FINISH_DRAG, JSON.stringify(finish));
    if (event.dataTransfer) event.dataTransfer.effectAllowed = 'copy';
  }
}
