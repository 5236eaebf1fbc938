import { SOURCE_PART } from '@zippy/kernel/layout';
import { count } from '../../document/properties/property';
import { mapSource } from './kind';

/** One value for each part that wears the finish, at random. */
export const partRandom = mapSource(
  'partRandom',
  { seed: count(1, { max: 1_000_000 }) },
  { title: 'Random by part', code: SOURCE_PART, parameters: ({ seed }) => [seed] },
);
