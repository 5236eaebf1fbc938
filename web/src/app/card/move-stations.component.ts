import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatTooltipModule } from '@angular/material/tooltip';
import type { Move } from '@zippy/core/document';
import { Commands } from '../commands/commands';
import { Moves } from '../store/edits/moves';
import { Routes } from '../store/edits/routes';
import { Studio } from '../store/studio';
import { NumberFieldComponent } from '../ui/number-field.component';
import { SmallButtonComponent } from '../ui/small-button.component';

type Route = Extract<Move, { kind: 'route' }>;

/** The viewpoints of a route, in order, each with its lens. */
@Component({
  selector: 'zr-move-stations',
  imports: [MatButtonModule, MatTooltipModule, NumberFieldComponent, SmallButtonComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Viewpoints</h2>
    @for (station of move().stations; track $index; let k = $index) {
      <div class="station">
        <span class="mono quiet">{{ k + 1 }}</span>
        <zr-number
          [label]="'Focal length at viewpoint ' + (k + 1)"
          unit="mm"
          [value]="station.focalLength"
          [min]="4"
          [max]="2000"
          [step]="1"
          (changed)="setLens(k, $event.value, $event.gesture)"
        />
        <zr-small-button icon="play" [label]="'Go to viewpoint ' + (k + 1)" (press)="go(k)" />
        <zr-small-button icon="camera" [label]="'Put the view into viewpoint ' + (k + 1)" (press)="put(k)" />
        <zr-small-button icon="earlier" [label]="'Viewpoint ' + (k + 1) + ' earlier'" (press)="shift(k, -1)" />
        <zr-small-button icon="later" [label]="'Viewpoint ' + (k + 1) + ' later'" (press)="shift(k, 1)" />
        <zr-small-button icon="trash" [label]="'Take viewpoint ' + (k + 1) + ' away'" (press)="drop(k)" />
      </div>
    } @empty {
      <p class="quiet">No viewpoint yet. Turn the picture as you like it, then add the view.</p>
    }
    <button matButton="tonal" matTooltip="The view as it is becomes the next viewpoint" (click)="add()">
      Add the view
    </button>
  `,
  styles: `
    .station {
      display: grid;
      grid-template-columns: 16px 1fr repeat(5, 26px);
      align-items: center;
      gap: 2px;
    }
    button {
      width: 100%;
    }
  `,
})
export class MoveStationsComponent {
  private readonly studio = inject(Studio);
  private readonly moves = inject(Moves);
  private readonly routes = inject(Routes);
  private readonly commands = inject(Commands);
  readonly move = input.required<Route>();

  add(): void {
    this.commands.runOfPicture('Add the view to the route');
  }

  put(k: number): void {
    this.routes.station.set(k);
    this.commands.runOfPicture('Put the view into the viewpoint');
  }

  /** Goes to the frame that is nearest to a viewpoint. */
  go(k: number): void {
    this.studio.lookThroughCamera(true);
    this.studio.goTo(this.routes.frameOfStation(this.move(), k));
  }

  setLens(k: number, focalLength: number, gesture: string): void {
    this.change('Focal length of a viewpoint', (route) => void (route.stations[k]!.focalLength = focalLength), gesture);
  }

  shift(k: number, by: number): void {
    this.change('Order of viewpoints', ({ stations }) => {
      const to = k + by;
      if (to < 0 || to >= stations.length) return;
      [stations[k], stations[to]] = [stations[to]!, stations[k]!];
    });
  }

  drop(k: number): void {
    this.change('Take viewpoint away', ({ stations }) => void stations.splice(k, 1));
  }

  private change(label: string, recipe: (route: Route) => void, gesture?: string): void {
    this.moves.change(label, this.move().id, (draft) => void (draft.kind === 'route' && recipe(draft)), gesture);
  }
}
