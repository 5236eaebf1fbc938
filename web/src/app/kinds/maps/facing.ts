import type { SourceView } from './view';

export const facing: SourceView = {
  label: 'Facing',
  words: 'fresnel outline rim angle',
  hint: 'Bright where the surface faces the eye, dark along its outline.',
  laid: false,
  fields: () => [],
};
