import type { StillFormat } from './still';

export const exr: StillFormat = {
  title: 'EXR, all layers',
  says: 'Linear light with every layer of the take, to compose with',
  extension: 'exr',
  mediaType: 'image/x-exr',
  alpha: true,
  plan: { by: 'exr', samples: 'half', apart: false },
};
