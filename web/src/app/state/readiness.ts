import { computed, inject, Injectable } from '@angular/core';
import { inOrder, shotsInOrder } from '@zippy/core/document';
import type { Desk } from './studio.state';
import { many } from './many';
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
    const found: Warning[] = [];
    const parts = inOrder(document.nodes).filter((node) => node.mesh);
    const bare = parts.filter((part) => part.finish === null);
    if (bare.length > 0) {
      found.push({
        desk: 'finish',
        text: `${many(bare.length, 'part')} ${bare.length === 1 ? 'has' : 'have'} no finish`,
        show: () => this.studio.view({ desk: 'finish', selection: bare.map(({ id }) => ({ kind: 'node', id })) }),
      });
    }
    const lit = Object.values(document.lights).some((light) => light.on) || document.set.surroundings.brightness > 0;
    if (!lit)
      found.push({ desk: 'lights', text: 'Nothing gives light', show: () => this.studio.view({ desk: 'lights' }) });
    for (const shot of shotsInOrder(document)) {
      const open = () => this.studio.openShot(shot.id);
      if (!shot.camera || !document.cameras[shot.camera])
        found.push({ desk: 'camera', text: `"${shot.name}" has no camera`, show: open });
      for (const move of Object.values(shot.moves)) {
        if (move.start > shot.length) {
          found.push({
            desk: 'motion',
            text: `"${move.name}" begins after the end of "${shot.name}"`,
            show: () => (open(), this.studio.select('move', move.id)),
          });
        }
        if (
          move.kind === 'turntable' &&
          move.length * move.repeat === shot.length &&
          (move.turns * move.repeat) % 1 !== 0
        ) {
          found.push({
            desk: 'motion',
            text: `"${shot.name}" jumps where it loops: ${move.turns} turns are not whole`,
            show: () => (open(), this.studio.select('move', move.id)),
          });
        }
      }
    }
    for (const clip of inOrder(document.reel.clips)) {
      const take = this.studio.takes().find((each) => each.id === clip.take);
      if (!take || take.done.length < take.last - take.first + 1) {
        found.push({
          desk: 'reel',
          text: take ? `Take ${take.number} on the reel is not finished` : 'A take on the reel is gone',
          show: () => (this.studio.view({ desk: 'reel' }), this.studio.select('clip', clip.id)),
        });
      }
    }
    return found;
  });

  of = (desk: Desk): Warning[] => this.warnings().filter((warning) => warning.desk === desk);
}
