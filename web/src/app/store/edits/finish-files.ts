import { inject, Injectable } from '@angular/core';
import { leftOutOfMaterialX } from '@zippy/core/intake';
import type { FinishForm } from '@zippy/core/wire';
import { finishUrl } from '../../api/urls';
import { many } from '../../ui/many';
import { saveAs } from '../../ui/save-as';
import { Notices } from '../notices';
import { Session } from '../session';
import { Studio } from '../studio';

/** Finishes that leave as open files. */
@Injectable({ providedIn: 'root' })
export class FinishFiles {
  private readonly studio = inject(Studio);
  private readonly session = inject(Session);
  private readonly notices = inject(Notices);

  /** Has the browser keep a finish of the project as a file, as it is now. What the form cannot hold is said. */
  async save(id: string, form: FinishForm): Promise<void> {
    const [project, finish] = [this.studio.project(), this.studio.document().finishes[id]];
    if (!project || !finish) return;
    try {
      await this.session.save();
    } catch (error) {
      return this.notices.tell(error);
    }
    saveAs(finishUrl(project, id, form));
    const lost = form === 'materialx' ? leftOutOfMaterialX(finish).length : 0;
    if (lost > 0)
      this.notices.say(
        `Patterns, stacks of maps and pictures that do not lie by the model's coordinates have no word there: ${many(lost, 'map')} stayed out.`,
      );
  }
}
