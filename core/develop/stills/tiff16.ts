import type { StillFormat } from './still';

export const tiff16: StillFormat = {
  title: 'TIFF, 16 bits',
  says: 'For print',
  extension: 'tif',
  mediaType: 'image/tiff',
  alpha: true,
  plan: { by: 'picture', as: 'tiff', bits: 16, options: { compression: 'deflate', predictor: 'horizontal' } },
};
