import type { MoveOf, MoveView } from './view';

export const orbit: MoveView<MoveOf<'orbit'>> = {
  does: 'Carries a camera or light round what it looks at',
  needs: 'Select a camera or light',
  words: 'circle around camera arc',
  drawing: 'M3 14A14 13 0 0 1 31 14m-3-4 3 4 2-5',
  fields: ({ own }) => [own('angle', 'Angle'), own('axis', 'Axis')],
  says: ({ angle }) => `${Math.round((angle * 180) / Math.PI)}°`,
};
