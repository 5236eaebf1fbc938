/** A form in which a film is delivered. */
export type FilmFormat = 'mp4' | 'gif' | 'png-zip';

/** How much of the picture an MP4 keeps. */
export const FILM_QUALITIES = ['fine', 'good', 'small'] as const;
export type FilmQuality = (typeof FILM_QUALITIES)[number];

/** Constant rate factors of x264: lower keeps more. */
const RATE_FACTORS: Record<FilmQuality, number> = { fine: 16, good: 19, small: 24 };

export interface EncoderPlan {
  /** Arguments for ffmpeg: raw 8-bit RGBA frames come on standard input. */
  arguments: string[];
  extension: string;
  mediaType: string;
}

export interface FilmSettings {
  width: number;
  height: number;
  rate: { numerator: number; denominator: number };
  /** Counts for MP4 only. */
  quality: FilmQuality;
}

/**
 * What ffmpeg is asked for. MP4 is H.264 with BT.709 tags, its index first so that it plays while it loads; GIF has a palette
 * made for the film. Frames come with the display's curve and keep it: players show BT.709 as they show pictures, so the film
 * looks like its stills.
 */
export function encoderPlan(
  format: Exclude<FilmFormat, 'png-zip'>,
  { width, height, rate, quality }: FilmSettings,
  output: string,
): EncoderPlan {
  const input = [
    '-hide_banner', '-loglevel', 'error', '-y',
    '-f', 'rawvideo', '-pixel_format', 'rgba',
    '-video_size', `${width}x${height}`,
    '-framerate', `${rate.numerator}/${rate.denominator}`,
    '-i', 'pipe:0',
  ]; // prettier-ignore
  if (format === 'gif') {
    const palette =
      'split[a][b];[a]palettegen=stats_mode=diff[p];[b][p]paletteuse=dither=sierra2_4a:diff_mode=rectangle';
    return {
      arguments: [...input, '-filter_complex', palette, '-loop', '0', output],
      extension: 'gif',
      mediaType: 'image/gif',
    };
  }
  // Colour is halved in both directions, so sides must be even: an odd one gains a copied line.
  const even = 'pad=ceil(iw/2)*2:ceil(ih/2)*2,scale=in_range=full:out_range=tv:out_color_matrix=bt709,format=yuv420p';
  return {
    arguments: [
      ...input,
      '-vf', even,
      '-c:v', 'libx264', '-preset', 'medium', '-crf', String(RATE_FACTORS[quality]),
      '-color_primaries', 'bt709', '-color_trc', 'bt709', '-colorspace', 'bt709', '-color_range', 'tv',
      '-movflags', '+faststart',
      '-fps_mode', 'passthrough',
      output,
    ],
    extension: 'mp4',
    mediaType: 'video/mp4',
  }; // prettier-ignore
}
