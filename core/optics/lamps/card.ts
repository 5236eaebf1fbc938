import { KIND_PANEL } from '@zippy/kernel/layout';
import { add, length, normalize, scale, subtract } from '../../geometry';
import type { LampKind } from './kind';
import { panel } from './panel';

/** So far away that nothing in a set sees it from another side than the rest, and near enough for single-precision numbers. */
const ENDLESS = 1e7;

/** A soft patch of light painted on the surroundings, of a size that is told by its angles: only its direction counts. */
export const card: LampKind = {
  ...panel,
  title: 'Soft card',
  code: KIND_PANEL,
  units: ['nit'],
  begin: { power: 1500, unit: 'nit', softEdge: 0.5 },
  // Its place tells no more than a direction; there it is drawn as large as it is seen.
  reach: (lamp) => panel.reach(drawn(lamp, length(subtract(lamp.position, lamp.target)))),
  along: (lamp, x, y) => panel.along(drawn(lamp, length(subtract(lamp.position, lamp.target))), x, y),
  sized: ({ spanWidth, spanHeight }, [x, y]) => ({
    spanWidth: spanWidth * Math.abs(x),
    spanHeight: spanHeight * Math.abs(y),
  }),
  stands: (lamp, away = ENDLESS) => {
    const towards = normalize(subtract(lamp.position, lamp.target));
    return {
      kind: lamp.round ? 'disc' : 'panel',
      lamp: { ...drawn(lamp, away), position: [...add(lamp.target, scale(towards, away))] },
    };
  },
};

/** The sheet that is seen under its angles from so far away. */
const drawn: (lamp: Parameters<typeof panel.reach>[0], away: number) => Parameters<typeof panel.reach>[0] = (
  lamp,
  away,
) => {
  const [width, height] = [lamp.spanWidth, lamp.spanHeight].map((angle) => 2 * away * Math.tan(angle / 2)) as [
    number,
    number,
  ];
  return { ...lamp, width, height, radius: width / 2 };
};
