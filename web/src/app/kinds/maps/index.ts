import type { MapSourceKind } from '@zippy/core/optics';
import { facing } from './facing';
import { footage } from './footage';
import { gradient } from './gradient';
import { noise } from './noise';
import { partRandom } from './part-random';
import { picture } from './picture';
import type { SourceView } from './view';
import { wear } from './wear';

/** How each source of maps is shown. */
export const SOURCE_VIEWS: Record<MapSourceKind, SourceView> = {
  picture,
  footage,
  gradient,
  noise,
  wear,
  facing,
  partRandom,
};
