import { ThingDirective } from '../../menu/thing.directive';
import { SmallButtonComponent } from '../../ui/small-button.component';
import { RowComponent } from '../../ui/row.component';
import { MatButtonModule } from '@angular/material/button';
import { MatTooltipModule } from '@angular/material/tooltip';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import type { Surveyed } from '@zippy/core/checks';
import { inOrder } from '@zippy/core/document';
import { Commands } from '../../commands/commands';
import { IconComponent } from '../../ui/icon.component';
import { Things } from '../../store/edits/things';
import { CameraFiles } from '../../tasks/camera-files/camera-files';
import { CaptureComponent } from './capture.component';
import { MatchComponent } from './match.component';
import { FileButtonComponent } from '../../ui/file-button.component';
import { ShotFaults } from '../../store/shot-faults';
import { Studio } from '../../store/studio';
import { many } from '../../ui/many';

/** The cameras, and which one the shot uses. */
@Component({
  selector: 'zr-camera-desk',
  imports: [
    CaptureComponent,
    MatchComponent,
    FileButtonComponent,
    ThingDirective,
    IconComponent,
    MatButtonModule,
    MatTooltipModule,
    RowComponent,
    SmallButtonComponent,
  ],
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
    <zr-file-button
      label="Camera from a file"
      accept=".csv,.txt"
      multiple
      hint="A table with frame, x, y, z, qx, qy, qz, qw, and its lens; or cameras.txt and images.txt of COLMAP together. Animated cameras of glTF come in with a model."
      (files)="cameraFiles.read($event)"
    >
      Camera from a file
    </zr-file-button>
    <zr-match />
    <zr-capture />
    @if (studio.shot(); as shot) {
      <h2>Over all of "{{ shot.name }}"</h2>
      <p class="quiet">
        {{ shot.framed.length > 0 ? many(shot.framed.length, 'part') : 'The whole product' }} shall stay in the picture
        @if (survey(); as found) {
          · {{ room(found) }}
        }
      </p>
      <div class="row" role="group" aria-label="What shall stay in the picture">
        <button
          matButton="tonal"
          disabledInteractive
          [disabled]="studio.selectedNodes().length === 0"
          matTooltip="They have to stay in the picture, and sharp"
          (click)="keep(studio.selectedNodes())"
        >
          The selected parts
        </button>
        @if (shot.framed.length > 0) {
          <button matButton="tonal" (click)="keep([])">The whole product</button>
        }
        <button
          matButton="tonal"
          matTooltip="The camera of this shot goes just so far away that nothing is cut off on any frame"
          (click)="faults.fit(shot.id, 'distance')"
        >
          Fit by distance
        </button>
        <button
          matButton="tonal"
          matTooltip="The lens sees just so much more that nothing is cut off on any frame"
          (click)="faults.fit(shot.id, 'lens')"
        >
          Fit by lens
        </button>
      </div>
    }
  `,
  styleUrl: '../desk.scss',
})
export class CameraDeskComponent {
  readonly studio = inject(Studio);
  private readonly commands = inject(Commands);
  readonly things = inject(Things);
  readonly cameraFiles = inject(CameraFiles);
  readonly faults = inject(ShotFaults);
  readonly survey = this.faults.present;
  readonly many = many;
  readonly cameras = computed(() => inOrder(this.studio.document().cameras));

  /** How much of the picture is left at its edges, on the frame with the least. */
  room({ reach, faults }: Surveyed): string {
    const leaves = faults.some(({ kind }) => kind === 'leaves');
    if (reach > 1 && !leaves) return 'a close-up: it is never whole in it';
    if (!Number.isFinite(reach)) return 'some of it is behind the camera';
    if (reach > 1) return 'some of it is cut off';
    return `${Math.round((1 - reach) * 50)} % of the picture to spare at its edges`;
  }

  keep(parts: string[]): void {
    const shot = this.studio.shotId();
    if (shot) this.studio.edit('Stays in the picture', (draft) => void (draft.shots[shot]!.framed = parts));
  }

  run = (name: string): void => this.commands.runOfPicture(name);
}
