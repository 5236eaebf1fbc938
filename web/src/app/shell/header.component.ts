import { frameCount } from '@zippy/core/document';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatTooltipModule } from '@angular/material/tooltip';
import { MatButtonModule } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatDividerModule } from '@angular/material/divider';
import { MatMenuModule } from '@angular/material/menu';
import { Api } from '../api/api';
import { sceneUrl } from '../api/urls';
import { ProjectFiles } from '../store/project-files';
import type { ProjectEntry, VersionEntry } from '@zippy/core/wire';
import { Commands, toggleTheme } from '../commands/commands';
import { Ask } from '../ui/ask/ask';
import { Notices } from '../store/notices';
import { Session } from '../store/session';
import { Studio } from '../store/studio';
import { IconComponent } from '../ui/icon.component';

/** Project, saved state, undo, the palette and the render queue. */
@Component({
  selector: 'zr-header',
  imports: [IconComponent, MatButtonModule, MatDividerModule, MatMenuModule, MatProgressBarModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg class="mark" viewBox="0 0 20 20" aria-hidden="true">
      <circle cx="10" cy="10" r="7" fill="none" stroke="var(--select)" stroke-width="5" />
      <path d="M10 3a7 7 0 0 1 7 7" fill="none" stroke="var(--motion)" stroke-width="5" />
    </svg>
    <h1>zippy reel</h1>
    <button matButton [matMenuTriggerFor]="projects" (menuOpened)="listProjects()">
      {{ studio.document().name }}
    </button>
    <mat-menu #projects>
      <button mat-menu-item (click)="files.choosing.set(true)">All projects…</button>
      <button mat-menu-item (click)="start()">Start a new project</button>
      <button mat-menu-item (click)="files.copy(studio.project()!)">Duplicate this project</button>
      <button mat-menu-item (click)="studio.selectNothing()">Frame rate, size and units of this project</button>
      <button mat-menu-item (click)="rename()">Rename this project</button>
      <button mat-menu-item (click)="keepVersion()">Keep this state as a version</button>
      <button mat-menu-item (click)="files.save(studio.project()!, true)">Save all of it as one file</button>
      <button mat-menu-item (click)="files.save(studio.project()!, false)">Save it without frames and films</button>
      <a mat-menu-item [href]="sceneOf(studio.project()!)" download> Save parts and finishes as GLB </a>
      <button mat-menu-item (click)="remove()">Delete this project</button>
      @if (versions().length > 0) {
        <mat-divider />
      }
      @for (version of versions(); track version.id) {
        <button mat-menu-item (click)="session.restoreVersion(version.id)">Go back to "{{ version.name }}"</button>
      }
      <mat-divider />
      @for (entry of entries(); track entry.id) {
        <button mat-menu-item (click)="session.open(entry.id)">
          {{ entry.name }}{{ entry.id === studio.project() ? ' (open)' : '' }}
        </button>
      }
    </mat-menu>
    <span class="quiet saved" role="status">{{ savedText() }}</span>
    <span class="space"></span>
    <button
      matIconButton
      aria-label="Undo"
      [matTooltip]="'Undo ' + (undoLabel() ?? '')"
      [disabled]="!undoLabel()"
      (click)="studio.undo()"
    >
      <zr-icon name="undo" />
    </button>
    <button
      matIconButton
      aria-label="Redo"
      [matTooltip]="'Redo ' + (redoLabel() ?? '')"
      [disabled]="!redoLabel()"
      (click)="studio.redo()"
    >
      <zr-icon name="redo" />
    </button>
    <button matIconButton aria-label="Switch dark and light" matTooltip="Switch dark and light" (click)="theme()">
      <zr-icon name="theme" />
    </button>
    <button matButton="tonal" (click)="commands.openPalette()">Do anything <kbd class="mono quiet">Ctrl K</kbd></button>
    @if (rendering(); as take) {
      <button matButton="tonal" class="queue" (click)="studio.openDesk('render')">
        Take {{ take.number }}
        <mat-progress-bar aria-label="Frames rendered" [value]="(100 * take.done.length) / frameCount(take)" />
        <span class="mono">{{ take.done.length }} of {{ frameCount(take) }}</span>
      </button>
    } @else {
      <button matButton="tonal" (click)="studio.openDesk('render')">Nothing renders</button>
    }
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 8px;
      padding: 0 10px;
      border-radius: 10px;
      background: var(--panel);
    }
    h1 {
      margin: 0;
      font-size: 13px;
      font-weight: 600;
    }
    .mark {
      width: 20px;
    }
    .space {
      flex: 1;
    }
    .saved {
      font-size: 12px;
    }
    mat-progress-bar {
      width: 90px;
    }
    kbd {
      font-size: 11px;
    }
  `,
})
export class HeaderComponent {
  private readonly api = inject(Api);
  readonly sceneOf = sceneUrl;
  readonly files = inject(ProjectFiles);
  private readonly ask = inject(Ask);
  readonly session = inject(Session);
  readonly notices = inject(Notices);
  readonly studio = inject(Studio);
  readonly commands = inject(Commands);
  readonly theme = toggleTheme;
  readonly entries = signal<ProjectEntry[]>([]);
  readonly versions = signal<VersionEntry[]>([]);
  readonly savedText = computed(() => {
    switch (this.studio.saved()) {
      case 'saved':
        return 'saved';
      case 'waiting':
        return 'saving…';
      case 'offline':
        return 'server lost · changes are kept here';
      case 'conflict':
        return 'changed in another window';
    }
  });
  readonly frameCount = frameCount;
  readonly undoLabel = computed(() => this.studio.history().done.at(-1)?.label);
  readonly redoLabel = computed(() => this.studio.history().undone.at(-1)?.label);
  readonly rendering = computed(() =>
    this.studio.takes().find((take) => take.state === 'rendering' || take.state === 'waiting'),
  );

  async listProjects(): Promise<void> {
    try {
      this.entries.set(await this.api.projects());
      this.versions.set(await this.api.versions(this.studio.project()!));
    } catch (error) {
      this.notices.tell(error);
    }
  }

  async rename(): Promise<void> {
    const name = await this.ask.name('Name of the project', 'Rename', this.studio.document().name);
    if (name) this.studio.edit('Rename project', (draft) => void (draft.name = name));
  }

  async start(): Promise<void> {
    const name = await this.ask.name('Name of the new project', 'Start', 'New project');
    if (name) await this.session.create(name);
  }

  async keepVersion(): Promise<void> {
    const name = await this.ask.name('Name of the version', 'Keep');
    if (!name) return;
    try {
      await this.session.save();
      await this.api.keepVersion(this.studio.project()!, name);
    } catch (error) {
      this.notices.tell(error);
    }
  }

  async remove(): Promise<void> {
    const { name } = this.studio.document();
    const text = 'Its shots, versions and takes go with it. This cannot be undone.';
    if (await this.ask.sure(`Delete "${name}"?`, text, 'Delete')) await this.session.removeProject();
  }
}
