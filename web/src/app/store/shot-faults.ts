import { computed, inject, Injectable, signal } from '@angular/core';
import type { FitBy, ShotFault, ShotFaultKind, Surveyed } from '@zippy/core/checks';
import { shotsInOrder, type ProjectDocument, type Shot } from '@zippy/core/document';
import type { Desk } from '../desks/registry';
import { Studio } from './studio';

/** What is said of a fault, after the frames on which it is so. */
const SAYS: Record<ShotFaultKind, (fault: ShotFault, document: ProjectDocument, shot: Shot) => string> = {
  leaves: (_fault, _document, { framed }) =>
    framed.length > 0 ? 'what shall stay in the picture leaves it' : 'the product leaves the picture',
  blurred: () => 'what shall stay in the picture is not sharp',
  edge: () => 'the backdrop ends in the picture',
  inside: ({ thing }, { nodes }) => `the camera is inside ${nodes[thing ?? '']?.name ?? 'a part'}`,
  fast: () => 'something moves too fast for so short a shutter and is seen to jump',
  lamp: ({ thing }, { lights }) => `${lights[thing ?? '']?.name ?? 'a lamp'} comes into the picture`,
};
const DESKS: Record<ShotFaultKind, Desk> = {
  leaves: 'camera',
  blurred: 'camera',
  edge: 'set',
  inside: 'camera',
  fast: 'motion',
  lamp: 'lights',
};

/** What was found in the shots by looking at all of their frames. */
@Injectable({ providedIn: 'root' })
export class ShotFaults {
  private readonly studio = inject(Studio);
  /** By shot id; of shots that have not been looked at there is nothing, of those without a camera null. */
  readonly found = signal<ReadonlyMap<string, Surveyed | null>>(new Map());
  /** Gives a shot room, once something is there that can. */
  fit: (shot: string, by: FitBy) => void = () => undefined;

  /** Of the present shot. */
  readonly present = computed((): Surveyed | null => this.found().get(this.studio.shotId() ?? '') ?? null);

  readonly warnings = computed(() => {
    const document = this.studio.document();
    return shotsInOrder(document).flatMap((shot) =>
      (this.found().get(shot.id)?.faults ?? []).map((fault) => ({
        desk: DESKS[fault.kind],
        text: `In "${shot.name}" ${SAYS[fault.kind](fault, document, shot)} ${framesOf(fault)}`,
        show: () => this.studio.openShot(shot.id, fault.worst),
        ...(fault.kind === 'leaves' && {
          mends: [
            { name: 'Farther away', run: () => this.fit(shot.id, 'distance') },
            { name: 'Wider lens', run: () => this.fit(shot.id, 'lens') },
          ],
        }),
      })),
    );
  });

  /** Stretches of the present shot that are at fault, in words, for the strip. */
  readonly spans = computed(() => {
    const document = this.studio.document();
    const shot = this.studio.shot();
    return (this.present()?.faults ?? []).flatMap((fault) =>
      fault.spans.map(([from, to]) => ({
        from,
        to,
        kind: fault.kind,
        says: shot ? SAYS[fault.kind](fault, document, shot) : '',
      })),
    );
  });
}

function framesOf({ spans }: ShotFault): string {
  const said = spans
    .slice(0, 3)
    .map(([from, to]) => (from === to ? `at frame ${from}` : `from frame ${from} to ${to}`));
  return said.join(', ') + (spans.length > 3 ? ' and more' : '');
}
