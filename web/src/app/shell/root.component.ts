import { ThingMenuComponent } from '../menu/thing-menu.component';
import { MatButtonModule } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, DestroyRef, HostListener, inject, signal } from '@angular/core';
import { Api } from '../api/api';
import { CardComponent } from '../card/card.component';
import { Commands } from '../commands/commands';
import { PaletteComponent } from '../commands/palette.component';
import { DeskPanelComponent } from '../desks/desk-panel.component';
import { AskDialogComponent } from '../ui/ask/ask-dialog.component';
import { ConflictDialogComponent } from '../tasks/conflict/conflict-dialog.component';
import { CdkVirtualScrollableElement } from '@angular/cdk/scrolling';
import { ImportDialogComponent } from '../tasks/import/import-dialog.component';
import { RevisionDialogComponent } from '../tasks/revision/revision-dialog.component';
import { Importer } from '../tasks/import/importer';
import { PictureComponent } from '../picture/picture.component';
import { Notices } from '../store/notices';
import { Session } from '../store/session';
import { Studio } from '../store/studio';
import { StripComponent } from '../strip/strip.component';
import { HeaderComponent } from './header.component';
import { IconComponent } from '../ui/icon.component';
import { RailComponent } from './rail.component';
import { releaseDisabled } from './release-disabled';
import { SplitterDirective } from './splitter.directive';

/** The one page: header, rail, desk, picture, card, time strip. */
@Component({
  selector: 'zr-root',
  imports: [
    AskDialogComponent,
    ThingMenuComponent,
    CardComponent,
    CdkVirtualScrollableElement,
    ConflictDialogComponent,
    DeskPanelComponent,
    HeaderComponent,
    IconComponent,
    ImportDialogComponent,
    MatButtonModule,
    PaletteComponent,
    PictureComponent,
    RailComponent,
    RevisionDialogComponent,
    SplitterDirective,
    StripComponent,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './root.component.html',
  styleUrl: './root.component.scss',
})
export class RootComponent {
  private readonly api = inject(Api);
  readonly session = inject(Session);
  readonly notices = inject(Notices);
  readonly studio = inject(Studio);
  readonly commands = inject(Commands);
  readonly importer = inject(Importer);
  readonly left = signal(stored('left', 244));
  readonly right = signal(stored('right', 284));
  readonly bottom = signal(stored('bottom', 250));
  readonly dropping = signal(false);
  readonly opened = computed(() => this.studio.document() !== null);
  readonly columns = computed(() =>
    this.commands.panelsFolded() ? '1fr' : `72px ${this.left()}px minmax(240px, 1fr) ${this.right()}px`,
  );
  readonly rows = computed(() => (this.commands.panelsFolded() ? '1fr' : `44px minmax(160px, 1fr) ${this.bottom()}px`));

  constructor() {
    document.documentElement.dataset['theme'] = localStorage.getItem('zippy-theme') ?? 'dark';
    inject(DestroyRef).onDestroy(releaseDisabled(document.body));
    void this.openFirst();
  }

  private async openFirst(): Promise<void> {
    const asked = /^\/p\/([\w-]+)/.exec(location.pathname)?.[1];
    if (asked) return this.session.open(asked);
    try {
      const projects = await this.api.projects();
      const first = projects.find((project) => project.id === 'demo') ?? projects[0];
      if (first) await this.session.open(first.id);
      else await this.session.create('New project');
    } catch (error) {
      this.notices.tell(error);
    }
  }

  keep(name: string, value: number): void {
    localStorage.setItem(`zippy-${name}`, String(value));
  }

  @HostListener('window:keydown', ['$event'])
  key(event: KeyboardEvent): void {
    if (this.opened() && !event.defaultPrevented && this.commands.press(event)) event.preventDefault();
  }

  @HostListener('window:dragover', ['$event'])
  dragOver(event: DragEvent): void {
    if (!event.dataTransfer?.types.includes('Files')) return;
    event.preventDefault();
    this.dropping.set(true);
  }

  @HostListener('window:dragleave', ['$event'])
  dragLeave(event: DragEvent): void {
    if (event.relatedTarget === null) this.dropping.set(false);
  }

  @HostListener('window:drop', ['$event'])
  drop(event: DragEvent): void {
    this.dropping.set(false);
    const files = [...(event.dataTransfer?.files ?? [])];
    if (files.length === 0) return;
    event.preventDefault();
    void this.importer.bring(files);
  }
}

function stored(name: string, fallback: number): number {
  const value = Number(localStorage.getItem(`zippy-${name}`));
  return value >= 120 && value <= 900 ? value : fallback;
}
