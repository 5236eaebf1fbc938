import { SOURCE_PICTURE } from '@zippy/kernel/layout';
import { idSchema } from '../../document/properties/ids';
import { choice, number, still } from '../../document/properties/property';
import { mapSource } from './kind';

/** A moving picture that lies on the surface. On each frame of a shot it is one picture; see motion/footage.ts. */
export const footage = mapSource(
  'footage',
  {
    /** Frame of the shot on which it begins. */
    start: still(number(1, { min: -1e6, max: 1e6 })),
    /** What is shown then, seconds from its own beginning. */
    from: number(0, { unit: 's', min: 0, max: 1e5, step: 0.1 }),
    /** How fast it runs; below 0 it runs backwards. */
    speed: still(number(1, { unit: '×', min: -100, max: 100, step: 0.1 })),
    /** What follows its end, and what was before its beginning. */
    after: choice(['again', 'toAndFro', 'hold', 'gone'], 'again'),
  },
  {
    title: 'Footage',
    code: SOURCE_PICTURE,
    picture: ({ footage }) => footage,
    withPicture: (source, footage) => ({ ...source, footage }),
  },
  {
    /** Asset id. */
    footage: idSchema,
  },
);
