import { byQuality, rawFrames, type FilmFormat } from './format';

export const webp: FilmFormat = {
  title: 'Animated WebP',
  says: 'A loop for web pages with all colours, open behind the product if wished; no sound.',
  extension: 'webp',
  mediaType: 'image/webp',
  plays: true,
  hasQuality: true,
  hasColors: false,
  sounds: false,
  leastSide: 16,
  bits: 8,
  alpha: true,
  plan: {
    by: 'encoder',
    arguments: (settings, output) => [
      ...rawFrames({ ...settings, sound: null }),
      ...['-vf', `format=${settings.open ? 'yuva420p' : 'yuv420p'}`],
      ...['-c:v', 'libwebp_anim', '-quality', String(byQuality(settings.quality, 92, 80, 60))],
      ...['-compression_level', '4', '-loop', '0', output],
    ],
  },
};
