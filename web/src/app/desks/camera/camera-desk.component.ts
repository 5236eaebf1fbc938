import { ThingDirective } from '../../menu/thing.directive';
import { SmallButtonComponent } from '../../ui/small-button.component';
import { RowComponent } from '../../ui/row.component';
import { MatButtonModule } from '@angular/material/button';
import { MatTooltipModule } from '@angular/material/tooltip';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { inOrder } from '@zippy/core/document';
import { Commands } from '../../commands/commands';
import { IconComponent } from '../../ui/icon.component';
import { Things } from '../../store/edits/things';
import { Studio } from '../../store/studio';

/** The cameras, and which one the shot uses. */
@Component({
  selector: 'zr-camera-desk',
  imports: [ThingDirective, IconComponent, MatButtonModule, MatTooltipModule, RowComponent, SmallButtonComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button matButton="filled" (click)="run('Keep view as camera')"><zr-icon name="plus" /> Keep view as camera</button>
    <button matButton="tonal" (click)="run('Click what shall be sharp')">
      <zr-icon name="solo" /> Click what shall be sharp
    </button>
    <button matButton="tonal" (click)="run('Click what shall stay sharp')">
      <zr-icon name="keep" /> Click what shall stay sharp
    </button>
    <button
      matButton="tonal"
      matTooltip="Veils what is out of focus in the sketch, through the camera"
      [attr.aria-pressed]="studio.sharpness()"
      (click)="run('Show what is sharp')"
    >
      <zr-icon name="eye" /> Show what is sharp
    </button>
    @for (camera of cameras(); track camera.id) {
      <zr-row
        [zrThing]="{ kind: 'camera', id: camera.id }"
        [picked]="studio.selectedIds().has(camera.id)"
        (press)="studio.select('camera', camera.id, $event.ctrlKey || $event.metaKey || $event.shiftKey)"
      >
        <zr-icon name="camera" />
        <span class="name">{{ camera.name }}</span>
        <span class="mono quiet">{{ camera.focalLength }} mm</span>
        <zr-small-button
          beside
          icon="film"
          [label]="'Use ' + camera.name + ' in this shot'"
          [pressed]="studio.shot()?.camera === camera.id"
          (press)="things.useCamera(camera.id)"
        />
      </zr-row>
    } @empty {
      <div class="empty">No camera yet. Turn the picture as you like it, then keep the view.</div>
    }
  `,
  styleUrl: '../desk.scss',
})
export class CameraDeskComponent {
  readonly studio = inject(Studio);
  private readonly commands = inject(Commands);
  readonly things = inject(Things);
  readonly cameras = computed(() => inOrder(this.studio.document().cameras));

  run = (name: string): void => this.commands.runOfPicture(name);
}
