import { bt709, byQuality, rawFrames, soundTrack, type FilmFormat } from './format';

export const mp4: FilmFormat = {
  title: 'MP4 (H.264)',
  says: 'Plays everywhere: web pages, phones, presentations.',
  extension: 'mp4',
  mediaType: 'video/mp4',
  plays: true,
  hasQuality: true,
  hasColors: false,
  sounds: true,
  leastSide: 16,
  bits: 8,
  alpha: false,
  plan: {
    by: 'encoder',
    // Its index comes first, so that it plays while it loads. Lower rate factors keep more.
    arguments: (settings, output) => [
      ...rawFrames(settings),
      ...soundTrack(settings, ['-c:a', 'aac', '-b:a', '256k']),
      ...bt709('yuv420p', true),
      '-c:v', 'libx264', '-preset', 'medium', '-crf', String(byQuality(settings.quality, 16, 19, 24)),
      '-movflags', '+faststart',
      output,
    ], // prettier-ignore
  },
};
