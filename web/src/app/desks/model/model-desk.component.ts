import { SliderComponent } from '../../ui/slider.component';
import { SmallButtonComponent } from '../../ui/small-button.component';
import { MatButtonModule } from '@angular/material/button';
import { FileButtonComponent } from '../../ui/file-button.component';
import { MatTooltipModule } from '@angular/material/tooltip';
import { TextFieldComponent } from '../../ui/text-field.component';
import { SET_PIECES } from '@zippy/core/geometry';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type EffectCleanupRegisterFn,
  ElementRef,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { CdkFixedSizeVirtualScroll, CdkVirtualForOf, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import { MatDividerModule } from '@angular/material/divider';
import { MatMenuModule } from '@angular/material/menu';
import { childrenByParent, meshKey, meshOfModel, type SceneNode, type SetPiece } from '@zippy/core/document';
import { ACCEPTED, FORMAT_LIST } from '@zippy/core/intake';
import { Api } from '../../api/api';
import { Importer } from '../../tasks/import/importer';
import { IconComponent } from '../../ui/icon.component';
import { ThingMenu } from '../../menu/thing-menu';
import { Parts } from '../../store/edits/parts';
import { SceneBounds } from '../../store/scene-bounds';
import { Studio } from '../../store/studio';
import { Things } from '../../store/edits/things';

/** Kind of data that carries parts of the tree while they are dragged. */
const NODE_DRAG = 'application/x-zippy-node';

interface Row {
  node: SceneNode;
  depth: number;
  open: boolean | null;
}

/** Pixels of rows beside those that are seen: at first, at last, and by how much they grow after how many milliseconds. */
const BUFFER = { least: 0, most: 3200, step: 320, pause: 60 } as const;
/** New rows beyond which the tree is filled in a task of its own: what else a large model changes takes its time, too. */
const MANY = 100;

/** The parts as a tree: find, select, hide, isolate, rename. */
@Component({
  selector: 'zr-model-desk',
  imports: [
    CdkFixedSizeVirtualScroll,
    CdkVirtualForOf,
    CdkVirtualScrollViewport,
    FileButtonComponent,
    IconComponent,
    MatButtonModule,
    MatDividerModule,
    MatMenuModule,
    MatTooltipModule,
    SliderComponent,
    SmallButtonComponent,
    TextFieldComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="row">
      <zr-file-button look="filled" label="Model files" multiple [accept]="accepted" (files)="bring($event)"
        ><zr-icon name="plus" /> Bring in a model</zr-file-button
      >
      <button matButton="tonal" [matMenuTriggerFor]="more"><zr-icon name="plus" /> Add</button>
      <mat-menu #more>
        @for (kind of pieces; track kind) {
          <button mat-menu-item (click)="parts.addPiece(kind)">{{ pieceKinds[kind].title }}</button>
        }
        <mat-divider />
        <button mat-menu-item (click)="parts.addHelper()">Helper</button>
      </mat-menu>
    </div>
    @if (rows().length > 0 || query()) {
      <zr-text
        search
        label="Find a part"
        placeholder="Find: name, finish, > 50 mm"
        [value]="query()"
        (typed)="query.set($event)"
      />
      <div class="row">
        <button matButton (click)="things.stepParts(-1)" matTooltip="Lights the part before (B, arrow up)">
          ‹ Part
        </button>
        <button matButton (click)="things.stepParts(1)" matTooltip="Lights the next part (N, arrow down)">
          Part ›
        </button>
        <button matButton (click)="things.showAll()">Show all</button>
      </div>
      <div class="apart" matTooltip="Only in the sketch; nothing is moved">
        <span class="quiet">Drawn apart</span>
        <zr-slider
          label="Drawn apart"
          [max]="2"
          [step]="0.05"
          [value]="studio.apart()"
          (changed)="studio.drawApart($event.value)"
        />
      </div>
      @if (selected().size > 0) {
        <div class="row tools" role="toolbar" aria-label="Selected parts">
          <button matButton (click)="parts.group()" matTooltip="Into a new group (Ctrl+G)">Group</button>
          @if (parts.canUngroup()) {
            <button matButton (click)="parts.ungroup()" matTooltip="Take the group away (Ctrl+Shift+G)">Ungroup</button>
          }
          <button matButton (click)="parts.duplicate()" matTooltip="Copies that share meshes and finishes">
            Duplicate
          </button>
          @if (selected().size > 1) {
            <button matButton (click)="parts.join()" matTooltip="One part of all">Join</button>
          }
          @if (partSelected()) {
            <button matButton (click)="parts.split('shells')" matTooltip="A part for each loose shell">
              Split shells
            </button>
            <button matButton (click)="parts.split('faces')" matTooltip="A part for each face">Split faces</button>
            <button matButton (click)="parts.selectAlike('shape')" matTooltip="Select all of the same shape and size">
              Alike
            </button>
            <button matButton (click)="parts.selectAlike('finish')" matTooltip="Select all that wear the same finish">
              Same finish
            </button>
          }
          <button matButton (click)="parts.renameAll()" matTooltip="By a pattern (F2)">Rename…</button>
        </div>
      }
      <cdk-virtual-scroll-viewport
        role="tree"
        aria-label="Parts"
        itemSize="32"
        [minBufferPx]="buffer()"
        [maxBufferPx]="buffer() * 1.25"
        (dragover)="allowDrop($event)"
        (drop)="drop($event, null)"
      >
        <ng-container *cdkVirtualFor="let row of listed(); trackBy: byNode">
          <div
            class="line"
            role="treeitem"
            tabindex="0"
            [attr.aria-level]="row.depth + 1"
            [attr.aria-expanded]="row.open"
            [attr.aria-selected]="selected().has(row.node.id)"
            [class.off]="!shown(row.node)"
            [style.padding-left.px]="4 + row.depth * 12"
            draggable="true"
            [attr.data-node]="row.node.id"
            (contextmenu)="menu.openFor($event, { kind: 'node', id: row.node.id })"
            [class.target]="dropOn() === row.node.id"
            (dragstart)="drag($event, row.node.id)"
            (dragend)="dropOn.set(null)"
            (dragover)="allowDrop($event, row.node)"
            (drop)="drop($event, row.node)"
            (click)="studio.select('node', row.node.id, $event.ctrlKey || $event.shiftKey)"
            (keydown.enter)="studio.select('node', row.node.id)"
            (dblclick)="renaming.set(row.node.id)"
          >
            @if (row.open !== null) {
              <zr-small-button
                icon="chevron"
                [label]="row.open ? 'Fold' : 'Unfold'"
                [turned]="row.open"
                (press)="fold(row.node.id)"
              />
            } @else {
              @if (picture(row.node); as url) {
                <img
                  class="small"
                  [src]="url"
                  alt=""
                  loading="lazy"
                  width="24"
                  height="24"
                  [style.border-color]="swatch(row.node)"
                />
              } @else {
                <i class="swatch" [style.background]="swatch(row.node)"></i>
              }
            }
            @if (renaming() === row.node.id) {
              <zr-text
                #name
                class="name"
                label="New name"
                [value]="row.node.name"
                (left)="rename(row.node.id, $event)"
              />
            } @else {
              <span class="name" [title]="row.node.name">{{ row.node.name }}</span>
              <span class="mono count" title="Triangles">{{ triangles(row.node) }}</span>
            }
            <zr-small-button
              icon="solo"
              label="Show alone"
              [pressed]="studio.isolated() === row.node.id"
              (press)="isolate(row.node.id)"
            />
            <zr-small-button
              [icon]="shown(row.node) ? 'eye' : 'eyeOff'"
              [label]="shown(row.node) ? 'Hide' : 'Show'"
              (press)="toggle(row.node.id)"
            />
          </div>
        </ng-container>
      </cdk-virtual-scroll-viewport>
      @if (rows().length === 0) {
        <p class="quiet">No part is meant by that.</p>
      }
    } @else {
      <div class="empty">
        <span
          >No parts yet. Drop a {{ formats }} on the page, or choose one. Materials and pictures may come along.</span
        >
        <zr-file-button label="Model files" multiple [accept]="accepted" (files)="bring($event)"
          >Choose a file</zr-file-button
        >
      </div>
    }
  `,
  styleUrl: '../desk.scss',
  styles: `
    /* Rows out of sight are there for the keyboard and for scrolling, but not drawn: hundreds of them take tens of milliseconds. */
    .line {
      height: 32px;
      content-visibility: auto;
      contain-intrinsic-height: 32px;
    }
    /* Long names are cut off instead of widening the panel. */
    cdk-virtual-scroll-viewport ::ng-deep .cdk-virtual-scroll-content-wrapper {
      width: 100%;
    }
    .tools {
      gap: 2px;
    }
    .target {
      outline: 2px solid var(--select);
      outline-offset: -2px;
    }
    .small {
      flex: none;
      margin: 0 2px 0 -2px;
      border-left: 3px solid transparent;
      border-radius: 3px;
    }
    /* Where it would cut names short, a count waits until its row is looked at. */
    .line:not(:hover, [aria-selected='true']) .count {
      display: none;
    }
    .line[aria-selected='true'] .count {
      color: var(--text);
    }
    .count {
      color: var(--quiet);
      font-size: 10px;
    }
    .apart {
      display: grid;
      grid-template-columns: 86px minmax(0, 1fr);
      align-items: center;
      gap: 6px;
    }
    .swatch {
      width: 12px;
      height: 12px;
      margin: 0 6px;
      border-radius: 4px;
      border: 1px solid var(--line);
      flex: none;
    }
  `,
})
export class ModelDeskComponent {
  readonly studio = inject(Studio);
  readonly things = inject(Things);
  readonly parts = inject(Parts);
  readonly menu = inject(ThingMenu);
  private readonly importer = inject(Importer);
  private readonly bounds = inject(SceneBounds);
  private readonly api = inject(Api);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly viewport = viewChild(CdkVirtualScrollViewport);
  readonly byNode = (_: number, row: Row): string => row.node.id;
  readonly formats = FORMAT_LIST;
  readonly pieceKinds = SET_PIECES;
  readonly pieces = Object.keys(SET_PIECES) as SetPiece['kind'][];
  readonly accepted = ACCEPTED;
  readonly query = signal('');
  readonly renaming = signal<string | null>(null);
  private readonly folded = signal<ReadonlySet<string>>(new Set());
  readonly selected = computed(() => new Set(this.studio.selectedNodes()));

  readonly rows = computed((): Row[] => {
    const document = this.studio.document();
    const query = this.query().trim().toLowerCase();
    const children = childrenByParent(document);
    const rows: Row[] = [];
    const visit = (node: SceneNode, depth: number) => {
      const below = children.get(node.id) ?? [];
      const open = below.length > 0 ? !this.folded().has(node.id) : null;
      if (!query) rows.push({ node, depth, open });
      else if (this.found(node, query)) rows.push({ node, depth: 0, open: null });
      if (query || open) below.forEach((child) => visit(child, depth + 1));
    };
    (children.get('') ?? []).forEach((node) => visit(node, 0));
    return rows;
  });

  /** The rows as the tree has them. */
  readonly listed = signal<readonly Row[]>([]);

  private list(rows: readonly Row[], cleanUp: EffectCleanupRegisterFn): void {
    if (rows.length - this.listed().length <= MANY) return this.listed.set(rows);
    const timer = setTimeout(() => this.listed.set(rows));
    cleanUp(() => clearTimeout(timer));
  }

  /** Pixels of rows that are made above and below those that are seen. */
  readonly buffer = signal<number>(BUFFER.least);

  /** Many new rows at once would hold up the page: those farther away are made a few at a time. */
  private growBuffer(cleanUp: EffectCleanupRegisterFn): void {
    this.buffer.set(BUFFER.least);
    const timer = setInterval(() => {
      this.buffer.update((pixels) => pixels + BUFFER.step);
      if (this.buffer() >= BUFFER.most) clearInterval(timer);
    }, BUFFER.pause);
    cleanUp(() => clearInterval(timer));
  }

  constructor() {
    effect((cleanUp) => {
      const rows = this.rows();
      untracked(() => this.list(rows, cleanUp));
    });
    const count = computed(() => this.rows().length);
    effect((cleanUp) => {
      count();
      untracked(() => this.growBuffer(cleanUp));
    });
    // What was picked in the picture, or made just now, is shown in the tree.
    effect((cleanUp) => {
      const last = this.studio.selectedNodes().at(-1);
      this.rows();
      // Once the page is laid out, as it would else be laid out for this alone.
      const timer = last && setTimeout(() => this.showRow(last));
      if (timer) cleanUp(() => clearTimeout(timer));
    });
  }

  /** Whether a part is meant: by its name, by that of its finish, or by its longest side, as in `> 50`. */
  private found(node: SceneNode, query: string): boolean {
    const size = /^([<>])\s*(\d+(?:\.\d+)?)\s*(?:mm)?$/.exec(query);
    if (size) {
      const longest = node.mesh ? this.bounds.longest(node.id) : null;
      return longest !== null && (size[1] === '>' ? longest > Number(size[2]) : longest < Number(size[2]));
    }
    const finish = node.finish && this.studio.document().finishes[node.finish]?.name;
    return node.name.toLowerCase().includes(query) || !!finish?.toLowerCase().includes(query);
  }

  /** A small picture of a part's mesh; none of set pieces, groups and joined parts. */
  picture(node: SceneNode): string | null {
    const mesh = meshOfModel(node.mesh);
    return mesh && !node.mesh?.joined ? this.api.meshUrl(mesh.asset, mesh.index) : null;
  }

  /** How many triangles a part has, shortly. */
  triangles(node: SceneNode): string {
    const count = node.mesh && this.bounds.triangles().get(meshKey(node.mesh));
    if (!count) return '';
    return count < 1000 ? String(count) : count < 1e6 ? `${Math.round(count / 1000)}k` : `${(count / 1e6).toFixed(1)}M`;
  }

  private showRow(id: string): void {
    const row = this.host.nativeElement.querySelector(`[data-node="${id}"]`);
    if (row) return row.scrollIntoView({ block: 'nearest' });
    // Of long trees only the rows near what is seen are there.
    const at = this.rows().findIndex(({ node }) => node.id === id);
    if (at >= 0) this.viewport()?.scrollToIndex(Math.max(0, at - 3));
  }

  readonly partSelected = computed(() => {
    const last = this.studio.selectedNodes().at(-1);
    return !!last && !!this.studio.document().nodes[last]?.mesh;
  });
  /** The group over which dragged parts are. */
  readonly dropOn = signal<string | null>(null);

  drag(event: DragEvent, id: string): void {
    if (!this.selected().has(id)) this.studio.select('node', id);
    event.dataTransfer?.setData(NODE_DRAG, id);
  }

  /** Parts are dropped on groups, and beside parts into their group. */
  allowDrop(event: DragEvent, node?: SceneNode): void {
    if (!event.dataTransfer?.types.includes(NODE_DRAG)) return;
    event.preventDefault();
    event.stopPropagation();
    this.dropOn.set(node ? (node.mesh ? node.parent : node.id) : null);
  }

  drop(event: DragEvent, node: SceneNode | null): void {
    if (!event.dataTransfer?.types.includes(NODE_DRAG)) return;
    event.preventDefault();
    event.stopPropagation();
    this.dropOn.set(null);
    const parent = node && (node.mesh ? node.parent : node.id);
    this.parts.attach(
      this.studio.selectedNodes().filter((id) => id !== parent),
      parent,
    );
  }

  shown = (node: SceneNode): boolean => this.studio.presentAtRest().nodes[node.id]?.visible ?? node.visible;

  swatch(node: SceneNode): string {
    const finish = node.finish && this.studio.document().finishes[node.finish];
    return finish
      ? `rgb(${finish.baseColor.map((v) => Math.round(255 * Math.min(1, v) ** (1 / 2.2))).join()})`
      : 'none';
  }

  bring(files: File[]): void {
    void this.importer.bring(files);
  }

  fold(id: string): void {
    this.folded.update((folded) => {
      const next = new Set(folded);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  }

  isolate(id: string): void {
    this.things.isolate(id);
  }

  toggle(id: string): void {
    this.things.toggleShown(id);
  }

  rename(id: string, name: string): void {
    this.renaming.set(null);
    this.things.rename('nodes', id, name);
  }
}
