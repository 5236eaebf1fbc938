import { SOURCE_PICTURE } from '@zippy/kernel/layout';
import { idSchema } from '../../document/properties/ids';
import { mapSource } from './kind';

/** A picture that lies on the surface. */
export const picture = mapSource(
  'picture',
  {},
  {
    title: 'Picture',
    code: SOURCE_PICTURE,
    picture: ({ picture }) => picture,
    withPicture: (source, picture) => ({ ...source, picture }),
  },
  {
    /** Asset id. */
    picture: idSchema,
  },
);
