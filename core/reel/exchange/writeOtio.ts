import { inOrder, type ProjectDocument } from '../../document';
import { changeKind } from '../changes';
import type { Film, LaidClip } from '../film';
import { heardSounds } from '../sound/mix';
import { OWN, range, time } from './timeline';

type Json = Record<string, unknown>;

/** What pictures of a clip are called, where other programs look for them. */
const addressOf = ({ source }: LaidClip): string => {
  const { of } = source;
  if (!of) return '';
  const name = 'take' in of ? `${of.take.shotName}_take-${of.take.number}` : of.asset.sourceName;
  return encodeURIComponent(name);
};

const reference = (laid: LaidClip, rate: number): Json => {
  const { source } = laid;
  if (!source.of) return { OTIO_SCHEMA: 'MissingReference.1', name: source.name, available_range: null, metadata: {} };
  return {
    OTIO_SCHEMA: 'ExternalReference.1',
    name: source.name,
    target_url: addressOf(laid),
    available_range: range(source.first, source.last - source.first + 1, source.rate ?? rate),
    metadata: {},
  };
};

/** How fast a clip runs on the whole, where that is not as it was made. */
const warp = ({ clip, source, timing }: LaidClip, rate: number): Json[] => {
  const mean = (clip.speed + (clip.ramp === 'none' ? clip.speed : clip.speedEnd)) / 2;
  const scale = (clip.play === 'backwards' ? -1 : 1) * mean * ((source.rate ?? rate) / rate);
  if (scale === 1 || timing.frames === 1) return [];
  return [{ OTIO_SCHEMA: 'LinearTimeWarp.1', name: '', effect_name: 'LinearTimeWarp', time_scalar: scale, metadata: {} }];
}; // prettier-ignore

/**
 * The film as a timeline of OpenTimelineIO. Clips that overlap are cut in the middle of that, as the format has it, with what is beyond the
 * cut left as handles. All that the format has no words for stands in the metadata, so that the reel comes back as it was.
 */
export function writeOtio(name: string, film: Film, document: Pick<ProjectDocument, 'reel' | 'assets'>): string {
  const { rate, clips, frames } = film;
  const children: Json[] = [];
  for (const [k, laid] of clips.entries()) {
    const { overlaps } = changeKind(laid.clip.change);
    const before = overlaps ? laid.change : 0;
    const next = clips[k + 1];
    const after = next && changeKind(next.clip.change).overlaps ? next.change : 0;
    const [head, tail] = [Math.floor(before / 2), Math.ceil(after / 2)];
    if (before > 0)
      children.push({
        OTIO_SCHEMA: 'Transition.1',
        name: changeKind(laid.clip.change).title,
        transition_type: laid.clip.change === 'fade' ? 'SMPTE_Dissolve' : 'Custom_Transition',
        in_offset: time(Math.ceil(before / 2), rate),
        out_offset: time(head, rate),
        metadata: {},
      });
    children.push({
      OTIO_SCHEMA: 'Clip.1',
      name: laid.source.name,
      source_range: range(laid.clip.from + head, laid.frames - head - tail, rate),
      media_reference: reference(laid, rate),
      effects: warp(laid, rate),
      markers: [],
      metadata: { [OWN]: { clip: laid.clip } },
    });
  }
  const sounds = heardSounds(document, rate, frames / rate).map((sound) => soundTrack(sound, document, rate));
  const { titles, tracks, picture, closingFrames, closingColor } = document.reel;
  return JSON.stringify(
    {
      OTIO_SCHEMA: 'Timeline.1',
      name,
      global_start_time: null,
      metadata: { [OWN]: { titles: inOrder(titles), tracks, picture, closingFrames, closingColor } },
      tracks: {
        OTIO_SCHEMA: 'Stack.1',
        name: 'tracks',
        source_range: null,
        effects: [],
        markers: [],
        metadata: {},
        children: [track('Film', 'Video', children), ...sounds],
      },
    },
    null,
    2,
  );
}

const track = (name: string, kind: 'Video' | 'Audio', children: Json[]): Json => ({
  OTIO_SCHEMA: 'Track.1',
  name,
  kind,
  source_range: null,
  effects: [],
  markers: [],
  metadata: {},
  children,
});

function soundTrack(
  { asset: id, at, from, lasts }: { asset: string; at: number; from: number; lasts: number },
  { assets }: Pick<ProjectDocument, 'assets'>,
  rate: number,
): Json {
  const asset = assets[id]!;
  const frames = (seconds: number) => Math.round(seconds * rate);
  const gap = {
    OTIO_SCHEMA: 'Gap.1',
    name: '',
    source_range: range(0, frames(at), rate),
    effects: [],
    markers: [],
    metadata: {},
  };
  const clip = {
    OTIO_SCHEMA: 'Clip.1',
    name: asset.name,
    source_range: range(frames(from), frames(lasts), rate),
    media_reference: {
      OTIO_SCHEMA: 'ExternalReference.1',
      name: asset.name,
      target_url: encodeURIComponent(asset.sourceName),
      available_range: range(0, frames(asset.sound!.seconds), rate),
      metadata: {},
    },
    effects: [],
    markers: [],
    metadata: {},
  };
  return track(asset.name, 'Audio', at > 0 ? [gap, clip] : [clip]);
}
