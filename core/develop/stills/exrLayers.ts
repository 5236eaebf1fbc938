import type { StillFormat } from './still';

export const exrLayers: StillFormat = {
  title: 'EXR, a file for each layer',
  says: 'For programs that read one picture a file; packed together',
  extension: 'zip',
  mediaType: 'application/zip',
  alpha: true,
  plan: { by: 'exr', samples: 'half', apart: true },
};
