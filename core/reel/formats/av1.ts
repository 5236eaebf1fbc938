import { bt709, byQuality, rawFrames, soundTrack, type FilmFormat } from './format';

export const av1: FilmFormat = {
  title: 'WebM (AV1)',
  says: 'The smallest films for newer browsers, with 10 bits; cannot stay open.',
  extension: 'webm',
  mediaType: 'video/webm',
  plays: true,
  hasQuality: true,
  hasColors: false,
  sounds: true,
  leastSide: 64,
  bits: 16,
  alpha: false,
  plan: {
    by: 'encoder',
    arguments: (settings, output) => [
      ...rawFrames(settings, 16),
      ...soundTrack(settings, ['-c:a', 'libopus', '-b:a', '160k']),
      ...bt709('yuv420p10le', true),
      '-c:v', 'libsvtav1', '-preset', '8', '-crf', String(byQuality(settings.quality, 20, 30, 42)),
      output,
    ], // prettier-ignore
  },
};
