import type { MoveOf, MoveView } from './view';

export const orbit: MoveView<MoveOf<'orbit'>> = {
  family: 'camera',
  needs: 'Select a camera or light',
  starts: [
    {
      title: 'Orbit',
      does: 'Carries a camera or light round what it looks at',
      words: 'circle around camera arc',
      drawing: 'M3 14A14 13 0 0 1 31 14m-3-4 3 4 2-5',
    },
    {
      title: 'Spiral',
      does: 'Round what it looks at, rising and coming nearer',
      words: 'helix corkscrew orbit rise',
      drawing: 'M4 13c0-4 26-4 26-1s-20 3-20 0 14-4 14-1m-3-9 3-2 3 2',
      numbers: (_move, { size }) => ({ angle: 2 * Math.PI, rise: Number((size * 0.6).toPrecision(2)), away: 0.7 }),
    },
  ],
  fields: ({ own }) => [own('angle', 'Angle'), own('rise', 'Rises by'), own('away', 'Distance ×'), own('axis', 'Axis')],
  says: ({ angle }) => `${Math.round((angle * 180) / Math.PI)}°`,
};
