import { FieldMovesComponent } from '../fields/field-moves.component';
import { ThingMenuComponent } from '../menu/thing-menu.component';
import { MatButtonModule } from '@angular/material/button';
import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  HostListener,
  inject,
  signal,
} from '@angular/core';
import { SplitAreaComponent, SplitComponent, SplitGutterDirective, type SplitAreaSize } from 'angular-split';
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
import { ProjectFiles } from '../store/project-files';
import { Session } from '../store/session';
import { ShotSurvey } from '../tasks/survey/shot-survey';
import { Studio } from '../store/studio';
import { ReelFilm } from '../store/reel/reel-film';
import { ReelStripComponent } from '../strip/reel/reel-strip.component';
import { StripComponent } from '../strip/strip.component';
import { HeaderComponent } from './header.component';
import { IconComponent } from '../ui/icon.component';
import { ProjectsDialogComponent } from './projects-dialog.component';
import { RailComponent } from './rail.component';
import { releaseDisabled } from './release-disabled';

/** Milliseconds after which a hint is gone that Escape closes. */
const HINT_GOES = 60;

/** The one page: header, rail, desk, picture, card, time strip. */
@Component({
  selector: 'zr-root',
  imports: [
    AskDialogComponent,
    FieldMovesComponent,
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
    ProjectsDialogComponent,
    RailComponent,
    RevisionDialogComponent,
    SplitAreaComponent,
    SplitComponent,
    SplitGutterDirective,
    ReelStripComponent,
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
  readonly reel = inject(ReelFilm);
  readonly commands = inject(Commands);
  readonly importer = inject(Importer);
  private readonly projectFiles = inject(ProjectFiles);
  /** Pixels that the panels about the picture have. */
  readonly panels = {
    left: signal(stored('left', 244)),
    right: signal(stored('right', 284)),
    bottom: signal(stored('bottom', 250)),
  };
  readonly dropping = signal(false);
  readonly opened = computed(() => this.studio.document() !== null);

  constructor() {
    inject(ShotSurvey);
    document.documentElement.dataset['theme'] = localStorage.getItem('zippy-theme') ?? 'dark';
    inject(DestroyRef).onDestroy(releaseDisabled(document.body));
    void this.openFirst();
    this.passEscapeOn();
    // Handles tell assistive tools the size of the panel before them; of the picture, which takes what is left, there is none.
    afterRenderEffect(() => {
      const [left, right, bottom] = [this.panels.left(), this.panels.right(), this.panels.bottom()];
      if (!this.opened()) return;
      const sizes = this.commands.panelsFolded() ? [] : [left, right, bottom];
      const handles = document.querySelectorAll<HTMLElement>('as-split > .as-split-gutter');
      handles.forEach((handle, k) => handle.setAttribute('aria-valuenow', String(sizes[k] ?? 0)));
    });
  }

  /** A hint that is open keeps Escape for itself: once it is gone, the key does what it was pressed for. */
  private passEscapeOn(): void {
    const listen = (event: KeyboardEvent): void => {
      const overlays = [...document.querySelectorAll('.cdk-overlay-pane')];
      const hints = overlays.filter((each) => each.matches('.mat-mdc-tooltip-panel'));
      if (event.key !== 'Escape' || !event.isTrusted || hints.length === 0 || overlays.length > hints.length) return;
      const init = { key: 'Escape', code: 'Escape', keyCode: 27, bubbles: true, cancelable: true };
      setTimeout(() => event.target?.dispatchEvent(new KeyboardEvent('keydown', init)), HINT_GOES);
    };
    window.addEventListener('keydown', listen, { capture: true });
    inject(DestroyRef).onDestroy(() => window.removeEventListener('keydown', listen, { capture: true }));
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

  keep(sizes: Partial<Record<keyof typeof this.panels, SplitAreaSize>>): void {
    for (const [panel, size] of Object.entries(sizes)) {
      this.panels[panel as keyof typeof this.panels].set(Number(size));
      localStorage.setItem(`zippy-${panel}`, String(size));
    }
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
    const project = files.find(ProjectFiles.is);
    if (project) void this.projectFiles.open(project);
    else void this.importer.bring(files);
  }
}

function stored(name: string, fallback: number): number {
  const value = Number(localStorage.getItem(`zippy-${name}`));
  return value >= 120 && value <= 900 ? value : fallback;
}
