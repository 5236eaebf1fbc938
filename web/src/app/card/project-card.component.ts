import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FieldGroupsComponent } from '../fields/field-groups.component';
import { projectFields, type Kept } from '../fields/project-fields';
import { Studio } from '../store/studio';
import { ChoiceComponent } from '../ui/choice.component';

const KEPT = 'zippy-rate-keeps';

/** The card of the project, where nothing else is selected: what is said once for all its shots. */
@Component({
  selector: 'zr-project-card',
  imports: [ChoiceComponent, FieldGroupsComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>{{ studio.document().name }}</h2>
    <zr-field-groups [groups]="groups()" />
    <p class="quiet">
      Another number of frames a second keeps
      <zr-choice label="Another frame rate keeps" [options]="keeps" [value]="kept()" (chosen)="keep($event)" />
    </p>
    <div class="empty">
      Nothing is selected, so this is the project. Click a part in the picture, or a light, camera, shot or take on its
      desk, for its card.
    </div>
  `,
  styles: `
    p {
      display: grid;
      gap: 6px;
      margin: 0 0 10px;
    }
  `,
})
export class ProjectCardComponent {
  readonly studio = inject(Studio);
  readonly keeps = [
    { value: 'times', label: 'The seconds at which things happen' },
    { value: 'frames', label: 'The frames: all goes faster or slower' },
  ];
  readonly kept = signal<Kept>(localStorage.getItem(KEPT) === 'frames' ? 'frames' : 'times');
  readonly groups = computed(() => projectFields(this.studio.document(), this.kept()));

  keep(kept: string): void {
    this.kept.set(kept === 'frames' ? 'frames' : 'times');
    localStorage.setItem(KEPT, this.kept());
  }
}
