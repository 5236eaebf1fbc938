import { SOURCE_PICTURE } from '@zippy/kernel/layout';
import { idSchema } from '../../document/properties/ids';
import { mapSource } from './kind';

/** A picture that lies on the surface by its coordinates. */
export const picture = mapSource(
  'picture',
  {
    /** Asset id. */
    picture: idSchema,
  },
  {
    title: 'Picture',
    code: SOURCE_PICTURE,
    picture: ({ picture }) => picture,
    parameters: () => [],
    withPicture: (source, picture) => ({ ...source, picture }),
  },
);
