import { Injectable } from '@angular/core';
import type { Look } from '@zippy/core/document';

/** Asks the picture how a look would have to be exposed. */
@Injectable({ providedIn: 'root' })
export class ExposureMeter {
  /** Stops by which the exposure would have to change; null where nothing is seen. Set by the picture. */
  ask: (look: Look) => Promise<number | null> = async () => null;
}
