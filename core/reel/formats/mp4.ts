import { rawFrames, type FilmFormat, type FilmQuality } from './format';

/** Constant rate factors of x264: lower keeps more. */
const RATE_FACTORS: Record<FilmQuality, number> = { fine: 16, good: 19, small: 24 };

/** Colour is halved in both directions, so sides must be even: an odd one gains a copied line. */
const EVEN = 'pad=ceil(iw/2)*2:ceil(ih/2)*2,scale=in_range=full:out_range=tv:out_color_matrix=bt709,format=yuv420p';

/** H.264 with BT.709 tags, its index first so that it plays while it loads. */
export const mp4: FilmFormat = {
  title: 'MP4',
  name: 'MP4',
  extension: 'mp4',
  mediaType: 'video/mp4',
  plays: true,
  hasQuality: true,
  bits: 8,
  alpha: false,
  encode: (settings, output) => [
    ...rawFrames(settings),
    '-vf', EVEN,
    '-c:v', 'libx264', '-preset', 'medium', '-crf', String(RATE_FACTORS[settings.quality]),
    '-color_primaries', 'bt709', '-color_trc', 'bt709', '-colorspace', 'bt709', '-color_range', 'tv',
    '-movflags', '+faststart',
    '-fps_mode', 'passthrough',
    output,
  ], // prettier-ignore
};
