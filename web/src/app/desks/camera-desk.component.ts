import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { inOrder } from '@zippy/core/document';
import { Commands } from '../commands/commands';
import { IconComponent } from '../shell/icon.component';
import { Studio } from '../state/studio';

/** The cameras, and which one the shot uses. */
@Component({
  selector: 'zr-camera-desk',
  imports: [IconComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button class="control primary" (click)="run('Keep view as camera')">
      <zr-icon name="plus" /> Keep view as camera
    </button>
    <button class="control" (click)="run('Click what shall be sharp')">
      <zr-icon name="solo" /> Click what shall be sharp
    </button>
    <button class="control" (click)="run('Click what shall stay sharp')">
      <zr-icon name="keep" /> Click what shall stay sharp
    </button>
    <button
      class="control"
      title="Veils what is out of focus in the sketch, through the camera"
      [attr.aria-pressed]="studio.state().sharpness"
      (click)="run('Show what is sharp')"
    >
      <zr-icon name="eye" /> Show what is sharp
    </button>
    @for (camera of cameras(); track camera.id) {
      <div
        class="line"
        role="button"
        tabindex="0"
        [attr.aria-selected]="studio.selectedIds().has(camera.id)"
        (click)="studio.select('camera', camera.id, $event.ctrlKey || $event.metaKey || $event.shiftKey)"
        (keydown.enter)="studio.select('camera', camera.id)"
      >
        <zr-icon name="camera" />
        <span class="name">{{ camera.name }}</span>
        <span class="mono quiet">{{ camera.focalLength }} mm</span>
        <button
          [attr.aria-pressed]="studio.shot()?.camera === camera.id"
          [attr.aria-label]="'Use ' + camera.name + ' in this shot'"
          title="Use in this shot"
          (click)="use(camera.id, $event)"
        >
          <zr-icon name="film" />
        </button>
      </div>
    } @empty {
      <div class="empty">No camera yet. Turn the picture as you like it, then keep the view.</div>
    }
  `,
  styleUrl: './desk.scss',
})
export class CameraDeskComponent {
  readonly studio = inject(Studio);
  private readonly commands = inject(Commands);
  readonly cameras = computed(() => inOrder(this.studio.document().cameras));

  run(name: string): void {
    this.commands
      .ofPicture()
      .find((command) => command.name === name)
      ?.run();
  }

  use(id: string, event: Event): void {
    event.stopPropagation();
    const shot = this.studio.shotId();
    if (!shot) return;
    this.studio.edit('Camera of the shot', (draft) => void (draft.shots[shot]!.camera = id));
    this.studio.view({ throughCamera: true });
  }
}
