import { TextFieldComponent } from '../ui/text-field.component';
import { MatTooltipModule } from '@angular/material/tooltip';
import { MatButtonModule } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal, untracked } from '@angular/core';
import type { Pace } from '@zippy/core/document';
import { FieldUsage, withLeading } from '../fields/field-usage';
import { FieldGroupsComponent } from '../fields/field-groups.component';
import { finishFields } from '../fields/field-specs';
import type { FieldGroup } from '../kinds/field';
import { LookToolsComponent } from '../fields/look-tools.component';
import { PaceFieldComponent } from '../fields/pace-field.component';
import { fieldsCalled, sharedGroups } from '../fields/shared-fields';
import { IconComponent } from '../ui/icon.component';
import { many } from '../ui/many';
import { Studio } from '../store/studio';
import type { SelectionKind } from '../store/view/view.state';
import { Things } from '../store/edits/things';
import { CopiesComponent } from './copies.component';
import { FinishMapsComponent } from './finish-maps.component';
import { KeyToolsComponent } from './key-tools.component';
import { LightBalanceComponent } from './light-balance.component';
import { LampPartsComponent } from './lamp-parts.component';
import { LampShineComponent } from './lamp-shine.component';
import { MeshReportComponent } from './mesh-report.component';
import { MoveToolsComponent } from './move-tools.component';
import { ModelUnitComponent } from './model-unit.component';
import { PartLabelsComponent } from './part-labels.component';
import { ProjectCardComponent } from './project-card.component';
import { TakeAboutComponent } from './take-about.component';
import { TakeChangesComponent } from './take-changes.component';
import { TakeFilesComponent } from './take-files.component';
import { ClipToolsComponent } from './clip-tools.component';
import { TitleToolsComponent } from './title-tools.component';
import { TreePlaceComponent } from './tree-place.component';
import { TurningPointComponent } from './turning-point.component';
import { paceKeys } from '../store/edits/strip-edits';

const COLLECTIONS = { node: 'nodes', finish: 'finishes', light: 'lights', camera: 'cameras', shot: 'shots' } as const;
/** What lies over and under the film, which has names of its own. */
const ON_REEL = { title: 'titles', sound: 'sounds' } as const;

/** Fields of a card that are found at a glance. */
const SHORT = 8;

const WORDS: Record<SelectionKind, string> = {
  node: 'part',
  finish: 'finish',
  light: 'light',
  camera: 'camera',
  shot: 'shot',
  move: 'move',
  take: 'take',
  clip: 'clip',
  title: 'title',
  sound: 'sound',
};

/** The card of whatever is selected. */
@Component({
  selector: 'zr-card',
  imports: [
    TreePlaceComponent,
    ClipToolsComponent,
    CopiesComponent,
    FieldGroupsComponent,
    FinishMapsComponent,
    IconComponent,
    KeyToolsComponent,
    LightBalanceComponent,
    MatButtonModule,
    LookToolsComponent,
    MatTooltipModule,
    LampPartsComponent,
    LampShineComponent,
    MeshReportComponent,
    ModelUnitComponent,
    MoveToolsComponent,
    PaceFieldComponent,
    PartLabelsComponent,
    ProjectCardComponent,
    TakeAboutComponent,
    TakeChangesComponent,
    TakeFilesComponent,
    TextFieldComponent,
    TitleToolsComponent,
    TurningPointComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (keyPace(); as pace) {
      <h2>{{ studio.keys().length }} {{ studio.keys().length === 1 ? 'key' : 'keys' }}</h2>
      <zr-key-tools />
      <p class="quiet">How the value travels from here to the next key</p>
      <zr-pace [pace]="pace" (changed)="setKeyPace($event.pace, $event.gesture)" />
    }
    @if (studio.primary(); as primary) {
      <header>
        @if (named()) {
          <zr-text class="title" label="Name" [value]="title()" (changed)="rename($event)" />
        } @else {
          <h2 class="title">{{ title() }}</h2>
        }
        <button matIconButton aria-label="Delete" matTooltip="Delete" (click)="things.deleteSelected()">
          <zr-icon name="trash" />
        </button>
      </header>
      @if (studio.selection().length > 1) {
        <p class="quiet">The fields they share are changed together.</p>
      }
      @if (primary.kind === 'node' && studio.selection().length === 1) {
        <zr-tree-place [node]="primary.id" />
      }
      @if (isLong()) {
        <zr-text
          search
          label="Find a field"
          placeholder="Find a field"
          [value]="sought()"
          (typed)="sought.set($event.trim())"
        />
      }
      @if (primary.kind === 'take') {
        <zr-take-about [take]="primary.id" />
        <zr-take-files [take]="primary.id" />
        <zr-take-changes [take]="primary.id" />
        <zr-light-balance [take]="primary.id" />
        <zr-look-tools [at]="$any('takeLooks/' + primary.id)" />
      }
      @if (primary.kind === 'light' && studio.selection().length === 1 && seeking() === '') {
        <zr-lamp-shine [light]="primary.id" />
        <zr-lamp-parts [light]="primary.id" />
      }
      @if (primary.kind === 'clip' && studio.selection().length === 1) {
        <zr-clip-tools [clip]="primary.id" />
      }
      @if (primary.kind === 'title' && studio.selection().length === 1) {
        <zr-title-tools [title]="primary.id" />
      }
      @if (movesPicked().length > 0) {
        <zr-move-tools [ids]="movesPicked()" />
      }
      <zr-field-groups [groups]="ordered()" [allOpen]="seeking() !== ''" />
      @if (primary.kind === 'node' && studio.selection().length === 1 && seeking() === '') {
        <zr-model-unit [node]="primary.id" />
        <zr-turning-point [node]="primary.id" />
        @if (studio.document().nodes[primary.id]?.mesh) {
          <zr-part-labels [node]="primary.id" />
        }
        <zr-copies [node]="primary.id" />
        <zr-mesh-report [node]="primary.id" />
      }
      @if (called().finish.length > 0) {
        <h2>{{ finishName() }}</h2>
        <zr-field-groups [groups]="orderedOfFinish()" [allOpen]="seeking() !== ''" />
      }
      @if (seeking() !== '') {
        @if (called().own.length + called().finish.length === 0) {
          <p class="quiet">No field here is called that.</p>
        }
      } @else if (finishId(); as finish) {
        <zr-finish-maps [finish]="finish" />
      }
    } @else if (!keyPace()) {
      <zr-project-card />
    }
  `,
  styles: `
    header {
      display: flex;
      gap: 6px;
      align-items: center;
    }
    .title {
      flex: 1;
      min-width: 0;
      font-weight: 600;
      font-size: 14px;
    }
  `,
})
export class CardComponent {
  readonly studio = inject(Studio);
  readonly things = inject(Things);
  private readonly collection = computed(() => {
    const kind = this.studio.primary()?.kind;
    return kind && kind in COLLECTIONS ? COLLECTIONS[kind as keyof typeof COLLECTIONS] : null;
  });
  readonly movesPicked = computed(() =>
    this.studio.selection().flatMap(({ kind, id }) => (kind === 'move' ? [id] : [])),
  );
  readonly named = computed(
    () =>
      (this.collection() !== null || (this.studio.primary()?.kind ?? '') in ON_REEL) &&
      this.studio.selection().length === 1,
  );
  readonly title = computed(() => {
    const primary = this.studio.primary()!;
    const selection = this.studio.selection();
    const alike = selection.every(({ kind }) => kind === primary.kind);
    if (selection.length > 1) return many(selection.length, alike ? WORDS[primary.kind] : 'thing');
    const collection = this.collection();
    if (collection) return this.studio.document()[collection][primary.id]?.name ?? '';
    if (primary.kind === 'take')
      return `Take ${this.studio.takes().find((take) => take.id === primary.id)?.number ?? ''}`;
    if (primary.kind === 'title' || primary.kind === 'sound')
      return this.studio.document().reel[ON_REEL[primary.kind]][primary.id]?.name ?? '';
    return primary.kind === 'move' ? (this.studio.shot()?.moves[primary.id]?.name ?? 'Move') : 'Clip';
  });
  readonly groups = computed((): FieldGroup[] =>
    sharedGroups(this.studio.document(), this.studio.selection(), this.takes()),
  );
  /** Only clips ask for them: a take tells often how far it is. */
  private readonly takes = computed(() => (this.studio.primary()?.kind === 'clip' ? this.studio.takes() : []));
  private readonly finish = computed(() => {
    const { nodes } = this.studio.document();
    const dressed = this.studio.dressed();
    // Of several parts, only where all wear the same one.
    const worn = new Set(
      this.studio.selection().map(({ kind, id }) => (kind === 'node' && nodes[id] ? dressed(nodes[id]) : null)),
    );
    const [id] = worn.size === 1 ? worn : [null];
    return id ? this.studio.document().finishes[id] : undefined;
  });
  /** The finish whose fields are shown: that of the part, or the one that is selected itself. */
  readonly finishId = computed((): string | null => {
    const primary = this.studio.primary();
    return primary?.kind === 'finish' ? primary.id : (this.finish()?.id ?? null);
  });
  readonly finishName = computed(() => {
    const finish = this.finish();
    const parts = Object.values(this.studio.document().nodes).filter((node) => node.finish === finish?.id).length;
    return finish ? `${finish.name} · on ${parts} ${parts === 1 ? 'part' : 'parts'}` : '';
  });
  readonly finishGroups = computed((): FieldGroup[] => {
    const finish = this.finish();
    return finish ? finishFields(`finishes/${finish.id}`, finish) : [];
  });

  /** Pace of the key that was picked last; null where none is. */
  readonly keyPace = computed((): Pace | null => {
    const mark = this.studio.keys().at(-1);
    const track = mark && this.studio.keysOf(mark.path);
    return track?.find((key) => key.frame === mark?.frame)?.pace ?? null;
  });

  /** What is typed to find a field; it stays while one thing after another is selected. */
  readonly sought = signal('');
  readonly isLong = computed(
    () => [...this.groups(), ...this.finishGroups()].flatMap(({ fields }) => fields).length > SHORT,
  );
  readonly seeking = computed(() => (this.isLong() ? this.sought() : ''));

  readonly called = computed(() => {
    const seeking = this.seeking();
    return { own: fieldsCalled(this.groups(), seeking), finish: fieldsCalled(this.finishGroups(), seeking) };
  });

  private readonly usage = inject(FieldUsage);
  /** What leads changes places only when something else is selected, and never under the hand that changes it. */
  private readonly leading = linkedSignal({
    source: () => this.studio.selection(),
    computation: () => untracked(() => [this.usage.leading(this.groups()), this.usage.leading(this.finishGroups())]),
  });
  readonly ordered = computed(() => this.inOrder(this.called().own, 0));
  readonly orderedOfFinish = computed(() => this.inOrder(this.called().finish, 1));

  private inOrder(groups: FieldGroup[], which: 0 | 1): FieldGroup[] {
    return this.seeking() === '' && this.isLong() ? withLeading(groups, this.leading()[which]!) : groups;
  }

  setKeyPace(pace: Pace, gesture: string): void {
    const [keys, shot] = [this.studio.keys(), this.studio.shotId()];
    this.studio.edit(
      'Pace',
      (draft) => {
        paceKeys(draft.reel, keys, pace);
        if (shot) paceKeys(draft.shots[shot]!, keys, pace);
      },
      gesture,
    );
  }

  rename(name: string): void {
    const primary = this.studio.primary()!;
    if (primary.kind === 'title' || primary.kind === 'sound') {
      const all = ON_REEL[primary.kind];
      this.studio.edit('Rename', ({ reel }) => void (reel[all][primary.id] && (reel[all][primary.id]!.name = name)));
      return;
    }
    const collection = this.collection();
    if (collection) this.things.rename(collection, this.studio.primary()!.id, name);
  }
}
