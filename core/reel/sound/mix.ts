import { inOrder, type ProjectDocument } from '../../document';

/** A sound where it is heard in the film, in seconds. */
export interface HeardSound {
  /** Asset. */
  asset: string;
  /** Content hash of its file. */
  hash: string;
  /** When it begins in the film, and what of it is heard. */
  at: number;
  from: number;
  lasts: number;
  /** What it is multiplied by. */
  gain: number;
  fadeIn: number;
  fadeOut: number;
}

/** Sounds that are heard, cut where the film ends. @param seconds of the film */
export function heardSounds(
  { reel, assets }: Pick<ProjectDocument, 'reel' | 'assets'>,
  rate: number,
  seconds: number,
): HeardSound[] {
  return inOrder(reel.sounds).flatMap((sound) => {
    const asset = assets[sound.asset];
    if (!asset?.sound || sound.muted) return [];
    const at = (sound.start - 1) / rate;
    const from = Math.min(sound.from, asset.sound.seconds);
    const there = asset.sound.seconds - from;
    const lasts = Math.min(sound.lasts > 0 ? Math.min(sound.lasts, there) : there, seconds - at);
    if (lasts <= 0) return [];
    return [
      {
        asset: asset.id,
        hash: asset.hash,
        at,
        from,
        lasts,
        gain: 10 ** (sound.level / 20),
        fadeIn: Math.min(sound.fadeIn, lasts),
        fadeOut: Math.min(sound.fadeOut, lasts),
      },
    ];
  });
}

/** How loud a sound is made at a time of the film: 0 where it is not heard. */
export function gainAt({ at, lasts, gain, fadeIn, fadeOut }: HeardSound, time: number): number {
  const since = time - at;
  if (since < 0 || since >= lasts) return 0;
  const coming = fadeIn > 0 ? Math.min(1, since / fadeIn) : 1;
  const going = fadeOut > 0 ? Math.min(1, (lasts - since) / fadeOut) : 1;
  return gain * coming * going;
}

const SAMPLES_PER_SECOND = 48_000;
const fixed = (value: number): string => String(Number(value.toFixed(6)));

/**
 * What the encoder is told of sounds: their files, which come behind the pictures, and how they are mixed into one of the film's length
 * that never overshoots. Null where nothing is heard.
 * @param paths of the sounds' files, in their order
 */
export function mixArguments(
  sounds: readonly HeardSound[],
  paths: readonly string[],
  seconds: number,
): { inputs: string[]; filter: string; label: string } | null {
  if (sounds.length === 0) return null;
  const inputs = paths.flatMap((path) => ['-i', path]);
  const each = sounds.map(({ at, from, lasts, gain, fadeIn, fadeOut }, k) => {
    const steps = [
      `aresample=${SAMPLES_PER_SECOND}`,
      'aformat=sample_fmts=fltp:channel_layouts=stereo',
      `atrim=start=${fixed(from)}:duration=${fixed(lasts)}`,
      'asetpts=PTS-STARTPTS',
      `volume=${fixed(gain)}`,
      ...(fadeIn > 0 ? [`afade=t=in:curve=tri:d=${fixed(fadeIn)}`] : []),
      ...(fadeOut > 0 ? [`afade=t=out:curve=tri:st=${fixed(lasts - fadeOut)}:d=${fixed(fadeOut)}`] : []),
      `adelay=${Math.round(at * 1000)}:all=1`,
    ];
    return `[${k + 1}:a]${steps.join(',')}[s${k}]`;
  });
  const named = sounds.map((_, k) => `[s${k}]`).join('');
  const whole = `atrim=duration=${fixed(seconds)},apad=whole_dur=${fixed(seconds)}`;
  const mixed = `${named}amix=inputs=${sounds.length}:duration=longest:normalize=0,alimiter=limit=0.98:level=0,${whole}[sound]`;
  return { inputs, filter: [...each, mixed].join(';'), label: '[sound]' };
}
