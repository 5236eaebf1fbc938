import { inject, Injectable } from '@angular/core';
import { createEffect } from '@ngrx/effects';
import { Observable } from 'rxjs';
import type { Action } from '@ngrx/store';
import { SERVER, serverEventSchema } from '@zippy/core/wire';
import { ServerActions } from './server.actions';

/** The stream of what the server tells; the browser joins it again by itself where it broke off. */
@Injectable({ providedIn: 'root' })
class ServerEvents {
  readonly heard = new Observable<Action>((heard) => {
    const source = new EventSource(SERVER.events.path);
    let lost = false;
    source.onerror = () => {
      lost = true;
      heard.next(ServerActions.lost());
    };
    source.onopen = () => {
      if (lost) heard.next(ServerActions.back());
      lost = false;
    };
    source.onmessage = ({ data }) => {
      const read = serverEventSchema.safeParse(JSON.parse(data as string));
      if (read.success) heard.next(ServerActions.heard({ event: read.data }));
    };
    return () => source.close();
  });
}

/** Listens to the server for as long as the page is open. */
@Injectable()
export class ServerEffects {
  private readonly events = inject(ServerEvents);
  readonly listen = createEffect(() => this.events.heard);
}
