import type { StillFormat } from './still';

export const webp: StillFormat = {
  title: 'WebP',
  says: 'Small, for the web',
  extension: 'webp',
  mediaType: 'image/webp',
  alpha: true,
  plan: { by: 'picture', as: 'webp', bits: 8, options: { quality: 90 } },
};
