/** How much of the picture a film keeps. */
export const FILM_QUALITIES = ['fine', 'good', 'small'] as const;
export type FilmQuality = (typeof FILM_QUALITIES)[number];

export interface FilmSettings {
  width: number;
  height: number;
  rate: { numerator: number; denominator: number };
  /** Counts for what has one only. */
  quality: FilmQuality;
}

/** All that there is to know of a form in which a film is delivered. */
export interface FilmFormat {
  /** On its button, and in the list of films. */
  title: string;
  name: string;
  extension: string;
  mediaType: string;
  /** A page can play it. */
  plays: boolean;
  hasQuality: boolean;
  /** Bits of a channel, and whether what is behind the product can stay open. */
  bits: number;
  alpha: boolean;
  /**
   * Arguments for ffmpeg, to which raw 8-bit RGBA frames come on standard input; null for what is packed of pictures instead.
   * Frames come with the display's curve and keep it: players show BT.709 as they show pictures, so the film looks like its stills.
   */
  encode: ((settings: FilmSettings, output: string) => string[]) | null;
}

/** What every encoder is told of the frames that come. */
export const rawFrames = ({ width, height, rate }: FilmSettings): string[] => [
  '-hide_banner', '-loglevel', 'error', '-y',
  '-f', 'rawvideo', '-pixel_format', 'rgba',
  '-video_size', `${width}x${height}`,
  '-framerate', `${rate.numerator}/${rate.denominator}`,
  '-i', 'pipe:0',
]; // prettier-ignore
