import { bt709, byQuality, rawFrames, soundTrack, type FilmFormat } from './format';

export const webm: FilmFormat = {
  title: 'WebM (VP9)',
  says: 'For web pages; can stay open behind the product.',
  extension: 'webm',
  mediaType: 'video/webm',
  plays: true,
  hasQuality: true,
  hasColors: false,
  sounds: true,
  leastSide: 16,
  bits: 8,
  alpha: true,
  plan: {
    by: 'encoder',
    arguments: (settings, output) => [
      ...rawFrames(settings),
      ...soundTrack(settings, ['-c:a', 'libopus', '-b:a', '160k']),
      ...bt709(settings.open ? 'yuva420p' : 'yuv420p', true),
      '-c:v', 'libvpx-vp9', '-crf', String(byQuality(settings.quality, 18, 26, 36)), '-b:v', '0',
      // Frames that are not shown cannot be open.
      ...(settings.open ? ['-auto-alt-ref', '0'] : []),
      '-row-mt', '1', '-deadline', 'good', '-cpu-used', '3',
      output,
    ], // prettier-ignore
  },
};
