import type { StillFormat } from './still';

export const jpeg: StillFormat = {
  title: 'JPEG',
  says: 'Small, for mails and shops; what is open behind the product is filled',
  extension: 'jpg',
  mediaType: 'image/jpeg',
  alpha: false,
  plan: { by: 'picture', as: 'jpeg', bits: 8, options: { quality: 92, chromaSubsampling: '4:4:4' } },
};
