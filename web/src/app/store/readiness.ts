import { computed, inject, Injectable } from '@angular/core';
import { findFaults } from '@zippy/core/checks';
import { faultView } from '../kinds/checks';
import type { Desk } from '../desks/registry';
import { Studio } from './studio';

/** Something that will spoil the film, and the way to it. */
export interface Warning {
  desk: Desk;
  text: string;
  show: () => void;
}

@Injectable({ providedIn: 'root' })
export class Readiness {
  private readonly studio = inject(Studio);
  readonly warnings = computed((): Warning[] => {
    const document = this.studio.document();
    if (!document) return [];
    return findFaults(document, { takes: this.studio.takes() }).map((found) => {
      const { desk, says, show } = faultView(found);
      return { desk, text: says(found.fault, document), show: () => show(found.fault, this.studio) };
    });
  });

  of = (desk: Desk): Warning[] => this.warnings().filter((warning) => warning.desk === desk);
}
