import type { ProjectDocument } from '@zippy/core/document';
import type { Studio } from '../../store/studio';
import type { Desk } from '../../desks/registry';

/** How a fault is told, and the way to it. */
export interface FaultView<F> {
  desk: Desk;
  says(fault: F, document: ProjectDocument): string;
  show(fault: F, studio: Studio): void;
}
