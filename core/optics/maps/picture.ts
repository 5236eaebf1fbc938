import { idSchema } from '../../document/properties/ids';
import { mapSource } from './kind';

/** A picture that lies on the surface by its coordinates. */
export const picture = mapSource(
  'picture',
  {
    /** Asset id. */
    picture: idSchema,
  },
  { title: 'Picture', assets: ({ picture }) => [picture] },
);
