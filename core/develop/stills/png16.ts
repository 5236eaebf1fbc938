import type { StillFormat } from './still';

export const png16: StillFormat = {
  title: 'PNG, 16 bits',
  says: 'To go on working with in a program that keeps fine steps',
  extension: 'png',
  mediaType: 'image/png',
  alpha: true,
  plan: { by: 'picture', as: 'png', bits: 16, options: { compressionLevel: 6 } },
};
