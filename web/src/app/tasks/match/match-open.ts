import { Injectable, signal } from '@angular/core';

/** Whether the plate is being marked. The rest of it, which is much code, comes when it first is. */
@Injectable({ providedIn: 'root' })
export class MatchOpen {
  readonly open = signal(false);
}
