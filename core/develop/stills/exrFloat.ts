import type { StillFormat } from './still';

export const exrFloat: StillFormat = {
  title: 'EXR, 32 bits',
  says: 'The same in full floats, for programs that read no halves',
  extension: 'exr',
  mediaType: 'image/x-exr',
  alpha: true,
  plan: { by: 'exr', samples: 'float', apart: false },
};
