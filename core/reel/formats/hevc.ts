import { bt709, byQuality, rawFrames, soundTrack, type FilmFormat } from './format';

export const hevc: FilmFormat = {
  title: 'MP4 (H.265)',
  says: 'Half the size of H.264, with 10 bits; for newer players.',
  extension: 'mp4',
  mediaType: 'video/mp4',
  plays: false,
  hasQuality: true,
  hasColors: false,
  sounds: true,
  leastSide: 16,
  bits: 16,
  alpha: false,
  plan: {
    by: 'encoder',
    arguments: (settings, output) => [
      ...rawFrames(settings, 16),
      ...soundTrack(settings, ['-c:a', 'aac', '-b:a', '256k']),
      ...bt709('yuv420p10le', true),
      '-c:v', 'libx265', '-preset', 'medium', '-crf', String(byQuality(settings.quality, 17, 21, 27)),
      '-x265-params', 'log-level=error', '-tag:v', 'hvc1',
      '-movflags', '+faststart',
      output,
    ], // prettier-ignore
  },
};
