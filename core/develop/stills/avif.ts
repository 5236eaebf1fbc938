import type { StillFormat } from './still';

export const avif: StillFormat = {
  title: 'AVIF',
  says: 'Smallest, for new browsers; it takes some seconds a frame',
  extension: 'avif',
  mediaType: 'image/avif',
  alpha: true,
  plan: { by: 'picture', as: 'avif', bits: 8, options: { quality: 70, effort: 3 } },
};
