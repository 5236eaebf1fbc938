import { computed, inject, Injectable, signal } from '@angular/core';
import type { Move, Vector3 } from '@zippy/core/document';
import { distance } from '@zippy/core/geometry';
import { sampleProperty, stationOf } from '@zippy/core/motion';
import { Studio } from '../studio';

/** Routes of cameras and their viewpoints. */
@Injectable({ providedIn: 'root' })
export class Routes {
  private readonly studio = inject(Studio);

  /** The route that is selected, by its id. */
  readonly route = computed((): string | null => {
    const primary = this.studio.primary();
    const move = primary?.kind === 'move' ? this.studio.shot()?.moves[primary.id] : undefined;
    return move?.kind === 'route' ? move.id : null;
  });
  /** The viewpoint of it that a view is put into. */
  readonly station = signal<number | null>(null);

  /** Whether a camera goes where a route leads it. */
  onRoute(camera: string): boolean {
    return Object.values(this.studio.shot()?.moves ?? {}).some(
      ({ kind, target, muted }) => kind === 'route' && !muted && target === `cameras/${camera}`,
    );
  }

  /** Keeps a view as a viewpoint of a route: in place of one, or as the next. */
  putStation(id: string, view: { position: Vector3; target: Vector3 }, instead?: number): void {
    const move = this.studio.shot()?.moves[id];
    const camera = move && this.studio.placedAtRest().cameras[move.target.split('/')[1] ?? ''];
    if (move?.kind !== 'route' || !camera) return;
    const lens = (instead === undefined ? move.stations.at(-1) : move.stations[instead]) ?? camera;
    const focusDistance = Math.max(1, distance(view.position, view.target));
    const station = stationOf({ roll: lens.roll, focalLength: lens.focalLength, ...view, focusDistance });
    const shot = this.studio.shotId()!;
    this.studio.edit(instead === undefined ? 'Add viewpoint' : 'Change viewpoint', (draft) => {
      const route = draft.shots[shot]!.moves[id];
      if (route?.kind !== 'route') return;
      if (instead === undefined) route.stations.push(station);
      else route.stations[instead] = station;
    });
  }

  /** The frame of the shot on which a route is nearest to one of its viewpoints. */
  frameOfStation(move: Move, k: number): number {
    const shot = this.studio.shot();
    const document = this.studio.document();
    if (!shot || move.kind !== 'route' || !move.stations[k]) return move.start;
    const place = sampleProperty(document, shot, `${move.target}/position`);
    let [best, least] = [move.start, Infinity];
    for (let frame = move.start; frame < move.start + move.length && frame <= shot.length; frame++) {
      const away = distance(place(frame) as Vector3, move.stations[k].position);
      if (away < least - 1e-6) [best, least] = [frame, away];
    }
    return best;
  }

  /** The viewpoints that several selected cameras are; none where fewer than two are selected. */
  chosenStations(): ReturnType<typeof stationOf>[] {
    const { cameras } = this.studio.placedAtRest();
    const chosen = this.studio.selection().flatMap(({ kind, id }) => (kind === 'camera' ? (cameras[id] ?? []) : []));
    return chosen.length < 2 ? [] : chosen.map((camera) => stationOf(camera));
  }
}
