import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import { CAPTURE_SHAPES, captureCount, type CaptureShape } from '@zippy/core/scene';
import { Capture, MOST_STATIONS } from '../../store/edits/capture';
import { CameraFiles } from '../../tasks/camera-files/camera-files';
import { Studio } from '../../store/studio';
import { ChoiceComponent } from '../../ui/choice.component';
import { FoldComponent } from '../../ui/fold.component';
import { many } from '../../ui/many';
import { NumberRowComponent } from '../../ui/number-row.component';

const SHAPES: Record<CaptureShape, string> = { sphere: 'All round, on a sphere', dome: 'Above, on a dome', rings: 'On rings' }; // prettier-ignore
const DEGREE = Math.PI / 180;

/** Cameras all round the product, rendered as one take, whose poses leave in open files. */
@Component({
  selector: 'zr-capture',
  imports: [ChoiceComponent, FoldComponent, MatButtonModule, MatSlideToggleModule, NumberRowComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <zr-fold title="All round the product" [open]="false">
      <p class="quiet">Pictures from every side with their poses, for reconstruction. It becomes a shot of its own.</p>
      <zr-choice label="Where cameras stand" [options]="shapes" [value]="shape()" (chosen)="shape.set($any($event))" />
      <zr-number-row name="Pictures" [value]="count()" [min]="4" [max]="MOST" (changed)="setCount($event)" />
      @if (shape() === 'rings') {
        <zr-number-row name="Rings" [value]="rings()" [min]="1" [max]="60" (changed)="rings.set(whole($event))" />
        <zr-number-row
          name="Lowest"
          label="Lowest ring"
          unit="°"
          [value]="lowest()"
          [min]="-89"
          [max]="89"
          (changed)="lowest.set($event)"
        />
        <zr-number-row
          name="Highest"
          label="Highest ring"
          unit="°"
          [value]="highest()"
          [min]="-89"
          [max]="89"
          (changed)="highest.set($event)"
        />
      } @else {
        <zr-number-row
          name="Overlap"
          unit="%"
          [value]="overlap()"
          [min]="20"
          [max]="97"
          (changed)="setOverlap($event)"
        />
      }
      <zr-number-row name="Lens" unit="mm" [value]="lens()" [min]="12" [max]="400" (changed)="lens.set($event)" />
      <mat-slide-toggle hideIcon [checked]="alone()" (change)="alone.set($event.checked)">
        Product alone, with alpha
      </mat-slide-toggle>
      <button matButton="tonal" (click)="make()">Make a shot of {{ many(count(), 'picture') }}</button>
      @if (posed(); as camera) {
        <div class="row">
          <button matButton (click)="files.save(camera, 'poses')">Poses as JSON</button>
          <button matButton (click)="files.save(camera, 'colmap')">Poses for COLMAP</button>
        </div>
      }
    </zr-fold>
  `,
  styles: `
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
    }
    p {
      margin: 0 0 6px;
    }
    button,
    mat-slide-toggle {
      margin-top: 6px;
    }
  `,
})
export class CaptureComponent {
  private readonly capture = inject(Capture);
  private readonly studio = inject(Studio);
  readonly files = inject(CameraFiles);
  readonly many = many;
  readonly MOST = MOST_STATIONS;
  readonly shapes = CAPTURE_SHAPES.map((value) => ({ value, label: SHAPES[value] }));
  readonly shape = signal<CaptureShape>('dome');
  private readonly overlapAsked = signal(80);
  /** Null is as many as the overlap asks for. */
  private readonly counted = signal<number | null>(null);
  readonly rings = signal(3);
  readonly lowest = signal(5);
  readonly highest = signal(60);
  readonly lens = signal(50);
  readonly alone = signal(true);
  readonly overlap = computed(() => this.overlapAsked());
  readonly count = computed(() => {
    const [counted, shape] = [this.counted(), this.shape()];
    const count = counted ?? (shape === 'rings' ? 72 : captureCount(shape, this.overlapAsked() / 100));
    return Math.min(MOST_STATIONS, count);
  });
  /** The camera of the present shot, where it goes from place to place. */
  readonly posed = computed(() => {
    const shot = this.studio.shot();
    const track = shot?.camera ? shot.tracks[`cameras/${shot.camera}/position`] : undefined;
    return shot?.camera && track && track.length > 3 && track.every(({ pace }) => pace === 'held') ? shot.camera : null;
  });

  whole = (value: number): number => Math.max(1, Math.round(value));
  setCount = (value: number): void => this.counted.set(this.whole(value));

  setOverlap(value: number): void {
    this.overlapAsked.set(value);
    this.counted.set(null);
  }

  make(): void {
    const [lowest, highest] = [this.lowest(), this.highest()].map((each) => each * DEGREE) as [number, number];
    this.capture.make({
      shape: this.shape(),
      count: this.count(),
      rings: this.rings(),
      lowest: Math.min(lowest, highest),
      highest: Math.max(lowest, highest),
      focalLength: this.lens(),
      alone: this.alone(),
    });
  }
}
