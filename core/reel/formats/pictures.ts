import type { FilmFormat } from './format';

const packed = (title: string, says: string, as: 'png' | 'jpeg' | 'tiff', bits: 8 | 16): FilmFormat => ({
  title,
  says,
  extension: 'zip',
  mediaType: 'application/zip',
  plays: false,
  hasQuality: false,
  hasColors: false,
  sounds: false,
  leastSide: 16,
  bits,
  alpha: as !== 'jpeg',
  plan: { by: 'pictures', as },
}); // prettier-ignore

export const pngZip = packed('PNG frames', 'Numbered pictures, packed.', 'png', 8);
export const jpegZip = packed('JPEG frames', 'Numbered pictures, packed, smaller.', 'jpeg', 8);
export const tiffZip = packed('TIFF frames', 'Numbered pictures with 16 bits, packed.', 'tiff', 16);

export const poster: FilmFormat = {
  title: 'Poster',
  says: 'The frame at the playhead as one picture.',
  extension: 'png',
  mediaType: 'image/png',
  plays: false,
  hasQuality: false,
  hasColors: false,
  sounds: false,
  leastSide: 16,
  bits: 8,
  alpha: true,
  plan: { by: 'poster', as: 'png' },
};
