import type { MoveOf, MoveView } from './view';

export const shake: MoveView<MoveOf<'shake'>> = {
  family: 'place',
  needs: 'Select a camera, part or light',
  starts: [
    {
      title: 'Shake',
      does: 'Unsteady, as if held by hand or with a motor in it',
      words: 'handheld vibrate tremble jitter camera shake',
      drawing: 'M3 8l3-5 3 9 3-8 3 8 4-9 3 8 3-6 3 5 3-3',
    },
  ],
  fields: ({ own }) => [
    own('angle', 'Turns by'),
    own('shift', 'Shifts by'),
    own('every', 'A jolt every'),
    own('seed', 'Variation'),
  ],
  says: ({ angle, shift }) => `${Math.round((angle * 1800) / Math.PI) / 10}°, ${Math.round(shift * 10) / 10} mm`,
};
