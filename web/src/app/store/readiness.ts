import { computed, inject, Injectable } from '@angular/core';
import { findFaults } from '@zippy/core/checks';
import { faultView } from '../kinds/checks';
import type { Desk } from '../desks/registry';
import { ShotFaults } from './shot-faults';
import { Studio } from './studio';

/** Something that will spoil the film, and the way to it. */
export interface Warning {
  desk: Desk;
  text: string;
  show: () => void;
  /** Ways to mend it, each a button. */
  mends?: { name: string; run: () => void }[];
}

@Injectable({ providedIn: 'root' })
export class Readiness {
  private readonly studio = inject(Studio);
  private readonly shotFaults = inject(ShotFaults);
  readonly warnings = computed((): Warning[] => {
    const document = this.studio.document();
    if (!document) return [];
    const found = findFaults(document, { takes: this.studio.takes() }).map((fault) => {
      const { desk, says, show } = faultView(fault);
      return { desk, text: says(fault.fault, document), show: () => show(fault.fault, this.studio) };
    });
    return [...found, ...this.shotFaults.warnings()];
  });

  of = (desk: Desk): Warning[] => this.warnings().filter((warning) => warning.desk === desk);
}
