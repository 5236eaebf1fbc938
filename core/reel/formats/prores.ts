import { bt709, rawFrames, soundTrack, type FilmFormat } from './format';

/** @param profile number of the encoder's: 2 is 422, 3 is 422 HQ, 4 is 4444 */
const prores = (title: string, says: string, profile: 2 | 3 | 4): FilmFormat => {
  const alpha = profile === 4;
  return {
    title,
    says,
    extension: 'mov',
    mediaType: 'video/quicktime',
    plays: false,
    hasQuality: false,
    hasColors: false,
    sounds: true,
    leastSide: 16,
    bits: 16,
    alpha,
    plan: {
      by: 'encoder',
      arguments: (settings, output) => [
        ...rawFrames(settings, 16),
        ...soundTrack(settings, ['-c:a', 'pcm_s16le']),
        ...bt709(alpha ? (settings.open ? 'yuva444p10le' : 'yuv444p10le') : 'yuv422p10le', true),
        '-c:v', 'prores_ks', '-profile:v', String(profile),
        ...(alpha && settings.open ? ['-alpha_bits', '16'] : []),
        '-movflags', '+write_colr',
        output,
      ], // prettier-ignore
    },
  };
};

export const prores422 = prores('ProRes 422', 'For editing, with 10 bits.', 2);
export const prores422hq = prores('ProRes 422 HQ', 'For editing and broadcast, with 10 bits.', 3);
export const prores4444 = prores('ProRes 4444', 'For compositing: full colour, and open behind the product.', 4);
