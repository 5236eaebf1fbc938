import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { MatTooltipModule } from '@angular/material/tooltip';
import { shotsInOrder } from '@zippy/core/document';
import { newestTake } from '@zippy/core/reel';
import { FieldGroupsComponent } from '../../fields/field-groups.component';
import { filmFields } from '../../fields/reel-fields';
import { ReelEdits } from '../../store/edits/reel-edits';
import { ReelFilm } from '../../store/reel/reel-film';
import { Studio } from '../../store/studio';
import { BringToReel } from '../../tasks/reel/bring-to-reel';
import { FileButtonComponent } from '../../ui/file-button.component';
import { IconComponent } from '../../ui/icon.component';
import { many } from '../../ui/many';
import { FilmListComponent } from './film-list.component';
import { MakeFileComponent } from './make-file.component';

const SOUNDS = '.wav,.mp3,.flac,.ogg,.oga,.opus,.m4a,.aac,.aif,.aiff,.mka,audio/*';
const CLIPS = 'video/*,image/*,.mov,.mkv,.webm,.exr,.hdr,.tga,.apng';

/** What the film is put together of, and the files that are made of it. */
@Component({
  selector: 'zr-reel-desk',
  imports: [
    FieldGroupsComponent,
    FileButtonComponent,
    FilmListComponent,
    IconComponent,
    MakeFileComponent,
    MatButtonModule,
    MatMenuModule,
    MatTooltipModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>
      Reel <span class="quiet mono">{{ many(reel.frames(), 'frame') }} · {{ seconds() }} s</span>
    </h2>
    @if (empty()) {
      <div class="empty">
        {{
          studio.takes().length > 0
            ? 'The reel is empty. Put the shots on it in the order of the film.'
            : 'Nothing is rendered yet. Render takes of the shots first, or bring clips.'
        }}
        @if (studio.takes().length > 0) {
          <button matButton="filled" (click)="edits.addAllShots()">All shots, in their order</button>
        } @else {
          <button matButton="tonal" (click)="studio.openDesk('render')">To the takes</button>
        }
      </div>
    }
    <div class="row">
      <button matButton="tonal" [matMenuTriggerFor]="shotMenu"><zr-icon name="plus" /> Shot</button>
      <mat-menu #shotMenu>
        <button mat-menu-item (click)="edits.addAllShots()">All shots, in their order</button>
        @for (shot of shots(); track shot.id) {
          <button mat-menu-item (click)="edits.addShot(shot.id)">
            {{ shot.name }} <span class="quiet">{{ shot.says }}</span>
          </button>
        }
      </mat-menu>
      <zr-file-button
        label="Clips for the reel"
        hint="Films, pictures that are numbered one after another, and single pictures"
        multiple
        [accept]="clipKinds"
        (files)="bring.clips($event)"
      >
        <zr-icon name="plus" /> Clip…
      </zr-file-button>
      <button matButton="tonal" matTooltip="Words over the film, from the playhead on" (click)="edits.addTitle()">
        <zr-icon name="plus" /> Title
      </button>
      <zr-file-button
        label="Picture over the film"
        hint="A picture or a drawing (PNG, SVG) over the film"
        accept="image/*,.svg"
        (files)="bring.overlay($event[0]!)"
      >
        <zr-icon name="plus" /> Logo…
      </zr-file-button>
      <zr-file-button
        label="Sound under the film"
        hint="Music or any other sound under the film"
        [accept]="soundKinds"
        (files)="bring.sound($event[0]!)"
      >
        <zr-icon name="plus" /> Sound…
      </zr-file-button>
      <button matButton="tonal" matTooltip="A plain clip, as ground for titles" (click)="edits.addPlain()">
        <zr-icon name="plus" /> Plain
      </button>
    </div>
    @if (bring.busy(); as what) {
      <p class="quiet" role="status">Reading {{ what }}…</p>
    }
    @for (fault of faults(); track fault) {
      <p class="warn">{{ fault }}</p>
    }
    @for (note of notes(); track note) {
      <p class="quiet">{{ note }}</p>
    }
    <zr-make-file />
    <zr-film-list />
    <zr-field-groups [groups]="groups()" />
    <div class="row">
      <button
        matButton
        [disabled]="empty()"
        matTooltip="The cut as OpenTimelineIO, for other programs"
        (click)="bring.saveEditList()"
      >
        Save edit list
      </button>
      <zr-file-button
        label="Edit list"
        look="text"
        accept=".otio,application/json"
        hint="A cut of OpenTimelineIO"
        (files)="bring.editList($event[0]!)"
      >
        Bring edit list…
      </zr-file-button>
    </div>
  `,
  styleUrl: '../desk.scss',
  styles: `
    p {
      margin: 0;
    }
  `,
})
export class ReelDeskComponent {
  readonly studio = inject(Studio);
  readonly reel = inject(ReelFilm);
  readonly edits = inject(ReelEdits);
  readonly bring = inject(BringToReel);
  readonly many = many;
  readonly clipKinds = CLIPS;
  readonly soundKinds = SOUNDS;
  readonly empty = computed(() => this.reel.film().clips.length === 0);
  readonly seconds = computed(() => (this.reel.frames() / this.reel.film().rate).toFixed(1));
  readonly groups = computed(() => filmFields(this.studio.document()));
  readonly shots = computed(() =>
    shotsInOrder(this.studio.document()).map((shot) => {
      const take = newestTake(shot.id, this.studio.takes());
      return { ...shot, says: take ? `take ${take.number}` : 'not rendered yet' };
    }),
  );

  /** Why no film can be made yet. */
  readonly faults = computed((): string[] => {
    const { clips } = this.reel.film();
    const gone = clips.filter(({ source }) => source.fault === 'gone').length;
    const waiting = new Set(clips.flatMap(({ source }) => (source.fault === 'not-rendered' ? [source.name] : [])));
    const unfinished = new Set(
      clips.flatMap(({ source: { of, fault } }) => (fault === 'unfinished' && of && 'take' in of ? [of.take.number] : [])),
    ); // prettier-ignore
    return [
      ...(gone > 0
        ? [`${many(gone, 'clip')} on the reel ${gone === 1 ? 'is' : 'are'} of what is gone. Take ${gone === 1 ? 'it' : 'them'} off the reel.`]
        : []),
      ...[...waiting].map((name) => `${name} is not rendered yet: render a take of it.`),
      ...[...unfinished].map((number) => `Take ${number} is not finished: a film needs all of its frames. Go on with it, or trim its clip.`),
    ]; // prettier-ignore
  });

  /** What will be other than one might think. */
  readonly notes = computed((): string[] => {
    const { clips, size, rate } = this.reel.film();
    const sizes = new Set(clips.flatMap(({ source }) => (source.size ? [`${source.size.width} × ${source.size.height}`] : []))); // prettier-ignore
    const rates = new Set(clips.flatMap(({ source }) => (source.rate !== null && Math.abs(source.rate - rate) > 0.01 ? [Number(source.rate.toFixed(3))] : []))); // prettier-ignore
    const { kind } = this.studio.document().set.behind;
    return [
      ...(sizes.size > 1
        ? [`The clips are of ${sizes.size} sizes: each is fitted into ${size.width} × ${size.height}, as its card says.`]
        : []),
      ...(rates.size > 0
        ? [`Clips of ${[...rates].join(' and ')} frames a second keep their time in a film of ${Number(rate.toFixed(3))}.`]
        : []),
      ...(kind === 'transparent' && clips.length > 0
        ? ['Nothing stands behind the product: files that cannot stay open show the ground of each clip there.']
        : []),
    ]; // prettier-ignore
  });
}
