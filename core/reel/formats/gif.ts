import { rawFrames, type FilmFormat } from './format';

/** A palette is made for the film. */
const PALETTE = 'split[a][b];[a]palettegen=stats_mode=diff[p];[b][p]paletteuse=dither=sierra2_4a:diff_mode=rectangle';

export const gif: FilmFormat = {
  title: 'GIF',
  name: 'GIF',
  extension: 'gif',
  mediaType: 'image/gif',
  plays: true,
  hasQuality: false,
  bits: 8,
  alpha: false,
  encode: (settings, output) => [...rawFrames(settings), '-filter_complex', PALETTE, '-loop', '0', output],
};
