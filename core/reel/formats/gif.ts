import { rawFrames, type FilmFormat, type FilmSettings } from './format';

/** A palette is made for the film. */
const palette = ({ colors }: FilmSettings): string =>
  `split[a][b];[a]palettegen=stats_mode=diff:max_colors=${colors}[p];[b][p]paletteuse=dither=sierra2_4a:diff_mode=rectangle`;

export const gif: FilmFormat = {
  title: 'GIF',
  says: 'A short loop for mails and messages; no sound.',
  extension: 'gif',
  mediaType: 'image/gif',
  plays: true,
  hasQuality: false,
  hasColors: true,
  sounds: false,
  leastSide: 16,
  bits: 8,
  alpha: false,
  plan: {
    by: 'encoder',
    arguments: (settings, output) => [
      ...rawFrames({ ...settings, sound: null }),
      ...['-filter_complex', palette(settings), '-loop', '0', output],
    ],
  },
};
