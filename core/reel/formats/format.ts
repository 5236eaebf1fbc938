/** How much of the picture a film keeps. */
export const FILM_QUALITIES = ['fine', 'good', 'small'] as const;
export type FilmQuality = (typeof FILM_QUALITIES)[number];

export interface FilmSettings {
  width: number;
  height: number;
  rate: { numerator: number; denominator: number };
  /** Counts for what has one only. */
  quality: FilmQuality;
  /** Most colours of a picture, where a format has a palette. */
  colors: number;
  /** What is open behind the product stays open, where a format can. */
  open: boolean;
  /** How sounds are mixed; null where there are none. */
  sound: { inputs: string[]; filter: string; label: string } | null;
}

/** What makes the file: the encoder, of raw frames; pictures in an archive; one picture; or a page that turns them. */
type FilmPlan =
  | {
      by: 'encoder';
      /** Arguments for ffmpeg, to which raw RGBA frames come on standard input, with 8 or 16 bits a channel. */
      arguments: (settings: FilmSettings, output: string) => string[];
    }
  | { by: 'pictures' | 'poster'; as: 'png' | 'jpeg' | 'tiff' }
  | { by: 'viewer' };

/** All that there is to know of a form in which a film is delivered. */
export interface FilmFormat {
  /** In lists, and on its button. */
  title: string;
  /** What it is for, in a sentence. */
  says: string;
  extension: string;
  mediaType: string;
  /** A page can play it. */
  plays: boolean;
  hasQuality: boolean;
  hasColors: boolean;
  sounds: boolean;
  /** Pixels that a side of its picture must have. */
  leastSide: number;
  /** Bits of a channel, and whether what is behind the product can stay open. */
  bits: number;
  alpha: boolean;
  plan: FilmPlan;
}

/** What every encoder is told of the frames that come. They have the display's curve and keep it: players show BT.709 as they show pictures. */
export const rawFrames = ({ width, height, rate, sound }: FilmSettings, bits = 8): string[] => [
  '-hide_banner', '-loglevel', 'error', '-y',
  '-f', 'rawvideo', '-pixel_format', bits > 8 ? 'rgba64le' : 'rgba',
  '-video_size', `${width}x${height}`,
  '-framerate', `${rate.numerator}/${rate.denominator}`,
  '-i', 'pipe:0',
  ...(sound?.inputs ?? []),
]; // prettier-ignore

/** Sounds mixed into one track by an encoder of sound. */
export const soundTrack = ({ sound }: FilmSettings, encoder: readonly string[]): string[] =>
  sound ? ['-filter_complex', sound.filter, '-map', '0:v', '-map', sound.label, ...encoder] : [];

/** Said of the frames themselves too: not every encoder hears what is said to it. */
const TAGS = 'setparams=color_primaries=bt709:color_trc=bt709:colorspace=bt709:range=tv';

/** Colours as BT.709 says, which is told too. @param sides must be even where colour is halved: an odd one gains a copied line */
export const bt709 = (pixels: string, evenSides: boolean): string[] => [
  '-vf',
  `${evenSides ? 'pad=ceil(iw/2)*2:ceil(ih/2)*2,' : ''}scale=in_range=full:out_range=tv:out_color_matrix=bt709,format=${pixels},${TAGS}`,
  '-color_primaries', 'bt709', '-color_trc', 'bt709', '-colorspace', 'bt709', '-color_range', 'tv',
  '-fps_mode', 'passthrough',
]; // prettier-ignore

/** One of three numbers by how much is kept. */
export const byQuality = <T>(quality: FilmQuality, fine: T, good: T, small: T): T => ({ fine, good, small })[quality];
