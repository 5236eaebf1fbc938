import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatRippleModule } from '@angular/material/core';
import { MatTooltipModule } from '@angular/material/tooltip';
import { MAP_SLOTS, layersOf, type FinishMap, type MapSlot } from '@zippy/core/document';
import { MADE_SOURCES, pictureOfSource } from '@zippy/core/optics';
import { blobUrl } from '../api/urls';
import { layerGroups, SLOT_NAMES } from '../fields/map-fields';
import { PropertyFieldComponent } from '../fields/property-field.component';
import { SOURCE_VIEWS } from '../kinds/maps';
import { FinishMaps } from '../store/edits/finish-maps';
import { Studio } from '../store/studio';
import { Importer } from '../tasks/import/importer';
import { FILMS, PICTURES } from '../tasks/import/picture-rows';
import { ChoiceComponent } from '../ui/choice.component';
import { FileButtonComponent } from '../ui/file-button.component';
import { FoldComponent } from '../ui/fold.component';
import { SmallButtonComponent } from '../ui/small-button.component';
import { MapShadesComponent, type Shades } from './map-shades.component';

/** Maps of a finish: of each parameter a stack of layers, the uppermost first, as they lie over each other. */
@Component({
  selector: 'zr-finish-maps',
  imports: [
    ChoiceComponent,
    FileButtonComponent,
    FoldComponent,
    MatButtonModule,
    MatRippleModule,
    MatTooltipModule,
    PropertyFieldComponent,
    MapShadesComponent,
    SmallButtonComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (stack of stacks(); track stack.slot) {
      <h2>{{ names[stack.slot] }}, by maps</h2>
      @for (layer of stack.layers; track layer.id; let top = $first; let bottom = $last) {
        <div class="layer" [class.off]="layer.map.muted">
          <div class="switches">
            <zr-small-button
              [icon]="layer.map.muted ? 'eyeOff' : 'eye'"
              [label]="(layer.map.muted ? 'Use ' : 'Leave out ') + layer.title"
              (press)="maps.change(finish(), layer.id, layer.title, { muted: !layer.map.muted })"
            />
            @if (stack.layers.length > 1) {
              <zr-small-button
                icon="earlier"
                [label]="layer.title + ' further up'"
                (press)="top || maps.raise(finish(), layer.id, 1)"
              />
              <zr-small-button
                icon="later"
                [label]="layer.title + ' further down'"
                (press)="bottom || maps.raise(finish(), layer.id, -1)"
              />
            }
            <zr-small-button
              icon="trash"
              [label]="'Take ' + layer.title + ' off ' + names[stack.slot]"
              (press)="maps.takeOff(finish(), layer.id, layer.title)"
            />
          </div>
          <zr-fold [title]="layer.title" [open]="layer.id === opened()" (turned)="$event && opened.set(layer.id)">
            @for (group of layer.groups; track group.title) {
              <h3>{{ group.title }}</h3>
              @for (field of group.fields; track field.path) {
                <zr-property [spec]="field" />
              }
            }
            @if (layer.pictured && stack.slot !== 'geometryOpacity') {
              <div class="add">
                <button
                  matButton
                  matTooltip="The surface is there where it is bright"
                  (click)="cutOut(layer.id, 'brightness')"
                >
                  Cut out by brightness
                </button>
                <button
                  matButton
                  matTooltip="The surface is there where the picture is opaque"
                  (click)="cutOut(layer.id, 'alpha')"
                >
                  Cut out by opacity
                </button>
              </div>
            }
            @if (layer.colored) {
              <zr-map-shades [shades]="layer.map.shades" (changed)="setShades(layer.id, $event)" />
            }
          </zr-fold>
        </div>
      }
    }
    <h2>Add a map</h2>
    <div class="add">
      <zr-choice label="Drives" [options]="slots" [value]="slot()" (chosen)="slot.set($any($event))" />
      <zr-file-button label="Picture or film" [accept]="accept" multiple (files)="bring($event)"
        >Picture or film…</zr-file-button
      >
      @for (kind of made; track kind) {
        <button matButton [matTooltip]="views[kind].hint" (click)="opened.set(maps.add(finish(), slot(), kind))">
          {{ views[kind].label }}
        </button>
      }
    </div>
    @if (pictures().length > 0) {
      <div class="known">
        @for (picture of pictures(); track picture.id) {
          <button matRipple [matTooltip]="'Put ' + picture.name + ' on it'" (click)="wear(picture.id)">
            <img [src]="urlOf(picture.hash)" alt="" />
            <span>{{ picture.footage ? '▸ ' + picture.name : picture.name }}</span>
          </button>
        }
      </div>
    }
  `,
  styles: `
    h3 {
      margin: 8px 0 2px;
      color: var(--quiet);
      font-weight: 500;
      font-size: 12px;
    }
    .layer {
      position: relative;
    }
    .layer.off {
      opacity: 0.6;
    }
    .switches {
      position: absolute;
      z-index: 1;
      inset-block-start: 0;
      inset-inline-end: 28px;
      display: flex;
    }
    .add {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
      padding: 4px 0;
    }
    .add zr-choice {
      flex: 1 0 100%;
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
export class FinishMapsComponent {
  readonly finish = input.required<string>();
  private readonly studio = inject(Studio);
  private readonly importer = inject(Importer);
  readonly maps = inject(FinishMaps);
  readonly names = SLOT_NAMES;
  readonly views = SOURCE_VIEWS;
  readonly made = MADE_SOURCES;
  readonly accept = `${PICTURES},${FILMS}`;
  readonly urlOf = blobUrl;
  readonly slot = signal<MapSlot>('baseColor');
  readonly slots = MAP_SLOTS.map((value) => ({ value, label: SLOT_NAMES[value] }));
  /** The layer whose fields are seen. */
  readonly opened = signal('');
  readonly stacks = computed(() => {
    const document = this.studio.document();
    const finish = document.finishes[this.finish()];
    if (!finish) return [];
    return MAP_SLOTS.map((slot) => ({
      slot,
      layers: layersOf(finish, slot)
        .reverse()
        .map(([id, map]) => ({
          id,
          map,
          title: this.titleOf(map),
          colored: this.maps.isColored(map),
          pictured: pictureOfSource(map.source) !== null,
          groups: layerGroups(document, this.finish(), id),
        })),
    })).filter(({ layers }) => layers.length > 0);
  });
  readonly pictures = computed(() =>
    Object.values(this.studio.document().assets).filter(({ kind }) => kind === 'picture' || kind === 'footage'),
  );

  private titleOf({ source }: FinishMap): string {
    const picture = this.studio.document().assets[pictureOfSource(source) ?? ''];
    return picture?.name ?? SOURCE_VIEWS[source.kind].title?.(source) ?? SOURCE_VIEWS[source.kind].label;
  }

  wear(picture: string): void {
    this.opened.set(this.maps.wearPicture(this.finish(), this.slot(), picture));
  }

  async bring(files: File[]): Promise<void> {
    const [picture] = await this.importer.bringPictures(files);
    if (picture) this.wear(picture);
  }

  cutOut(id: string, by: 'brightness' | 'alpha'): void {
    this.opened.set(this.maps.cutOut(this.finish(), id, by));
  }

  setShades(id: string, { shades, gesture }: { shades: Shades | null; gesture: string }): void {
    this.maps.change(this.finish(), id, 'colours', { shades }, gesture);
  }
}
