import type { StillFormat } from './still';

export const png: StillFormat = {
  title: 'PNG, 8 bits',
  says: 'For the web and for slides; nothing is lost but fine steps',
  extension: 'png',
  mediaType: 'image/png',
  alpha: true,
  plan: { by: 'picture', as: 'png', bits: 8, options: { compressionLevel: 6 } },
};
