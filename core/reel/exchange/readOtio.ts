import * as z from 'zod';
import {
  CLIP,
  documentSchema,
  LIMITS,
  nearest,
  newClip,
  newId,
  UserProblem,
  type Clip,
  type ClipSource,
  type ProjectDocument,
  type Title,
} from '../../document';
import type { ReelTake } from '../sources';
import { OWN } from './timeline';

/** What a timeline makes of the reel, and what of it could not be taken over. */
export interface ReadTimeline {
  clips: Clip[];
  titles: Title[];
  notes: string[];
}

const named = z.object({ OTIO_SCHEMA: z.string().max(100), name: z.string().catch(''), metadata: z.record(z.string(), z.unknown()).catch({}) }).loose(); // prettier-ignore
const timeSchema = z.object({ rate: z.number().positive().max(1e6), value: z.number().min(-1e9).max(1e9) });
const rangeSchema = z.object({ start_time: timeSchema, duration: timeSchema });
const clipSchema = named.extend({
  source_range: rangeSchema.nullish(),
  media_reference: z.looseObject({ name: z.string().nullish(), target_url: z.string().nullish() }).nullish(),
  media_references: z.record(z.string(), z.looseObject({ target_url: z.string().nullish() })).nullish(),
  effects: z.array(z.looseObject({ OTIO_SCHEMA: z.string(), time_scalar: z.number().nullish() })).catch([]),
});
const transitionSchema = named.extend({ in_offset: timeSchema, out_offset: timeSchema });
const trackSchema = named.extend({ kind: z.string().catch('Video'), children: z.array(named).max(10_000) });
const timelineSchema = named.extend({ tracks: z.looseObject({ children: z.array(z.unknown()).max(1000) }) });

type Known = Pick<ProjectDocument, 'assets' | 'frameRate'> & { shots: Record<string, { id: string; name: string }> };
type Track = z.infer<typeof trackSchema>;

const plain = (name: string): string => name.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '');
/** What an address is called without its folders and its ending. */
function fileOf(address: string): string {
  let text = address;
  try {
    text = decodeURIComponent(address);
  } catch {
    // It is no encoded address, then.
  }
  return (text.split(/[/\\]/).at(-1) ?? '').replace(/\.[a-z0-9]{2,4}$/i, '');
}

const broken = (name: string, why: string) =>
  new UserProblem(
    'timeline-broken',
    `"${name}" cannot be read as an edit list: ${why}. Bring a timeline of OpenTimelineIO (.otio).`,
    422,
  );

/**
 * Reads a timeline of OpenTimelineIO. Clips that this program wrote come back as they were; others are matched by name with shots, takes
 * and clips of the project. What cannot be matched becomes a plain clip of its length, so that the cut keeps its time.
 * @throws UserProblem `timeline-broken`
 */
export function readOtio(text: string, name: string, document: Known, takes: readonly ReelTake[]): ReadTimeline {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    throw broken(name, 'it is no JSON');
  }
  const timeline = timelineSchema.safeParse(data);
  if (!timeline.success || !timeline.data.OTIO_SCHEMA.startsWith('Timeline.'))
    throw broken(name, 'it holds no timeline');
  const tracks = timeline.data.tracks.children.flatMap((each) => {
    const track = trackSchema.safeParse(each);
    return track.success ? [track.data] : [];
  });
  const film = tracks.find(({ kind }) => kind === 'Video');
  if (!film) throw broken(name, 'it holds no track of pictures');
  const notes: string[] = [];
  const others = tracks.filter((track) => track !== film && track.kind === 'Video').length;
  if (others > 0)
    notes.push(`${others} further track${others === 1 ? '' : 's'} of pictures left out: the reel has one.`);
  const sounds = tracks.filter(({ kind }) => kind === 'Audio').length;
  if (sounds > 0) notes.push('Sounds were left out: bring their files onto the reel.');
  const clips = clipsOf(film, document, takes, notes);
  const own = z
    .looseObject({ titles: z.array(z.unknown()).max(LIMITS.overFilm) })
    .safeParse(timeline.data.metadata[OWN]);
  const titles = own.success ? own.data.titles.flatMap((each) => titleOf(each)) : [];
  return { clips, titles, notes };
}

function clipsOf({ children }: Track, document: Known, takes: readonly ReelTake[], notes: string[]): Clip[] {
  const rate = document.frameRate.numerator / document.frameRate.denominator;
  const clips: Clip[] = [];
  const unknown = new Map<string, number>();
  let change: Partial<Clip> = {};
  for (const child of children.slice(0, 2 * LIMITS.clips)) {
    const schema = child.OTIO_SCHEMA.split('.')[0]!;
    if (schema === 'Transition') {
      const { data } = transitionSchema.safeParse(child);
      if (!data) continue;
      const seconds = data.in_offset.value / data.in_offset.rate + data.out_offset.value / data.out_offset.rate;
      change = { change: 'fade', changeFrames: nearest(CLIP.changeFrames, Math.round(seconds * rate)) as number };
    } else if (schema === 'Clip' || schema === 'Gap') {
      const made = clipOf(child, document, takes, rate);
      if (made) clips.push({ ...made.clip, ...(made.own ? {} : change), id: newId(), order: clips.length });
      if (made?.unmatched) unknown.set('', (unknown.get('') ?? 0) + 1);
      change = {};
    } else unknown.set(schema, (unknown.get(schema) ?? 0) + 1);
    if (clips.length >= LIMITS.clips) break;
  }
  const unmatched = unknown.get('') ?? 0;
  if (unmatched > 0)
    notes.push(`${unmatched} clip${unmatched === 1 ? ' is' : 's are'} of nothing in this project: plain clips hold their places.`); // prettier-ignore
  for (const [schema, count] of unknown)
    if (schema !== '') notes.push(`${count} × "${schema.slice(0, 40)}" is nothing that the reel knows: left out.`);
  return clips;
}

const ownClip = documentSchema.shape.reel.shape.clips.valueType;
const ownTitle = documentSchema.shape.reel.shape.titles.valueType;

function clipOf(
  data: unknown,
  document: Known,
  takes: readonly ReelTake[],
  rate: number,
): { clip: Clip; own: boolean; unmatched: boolean } | null {
  const read = clipSchema.safeParse(data);
  if (!read.success) return null;
  const { name, metadata, source_range: used, media_reference, media_references, effects, OTIO_SCHEMA } = read.data;
  const own = ownClip.safeParse((metadata[OWN] as { clip?: unknown } | undefined)?.clip);
  if (own.success && isThere(own.data.source, document, takes)) return { clip: own.data, own: true, unmatched: false };
  const frames = Math.max(1, Math.round(used ? (used.duration.value / used.duration.rate) * rate : rate));
  const scalar = effects.find((effect) => effect.OTIO_SCHEMA.startsWith('LinearTimeWarp'))?.time_scalar ?? 1;
  const speed = nearest(CLIP.speed, Math.abs(scalar)) as number;
  const start = Math.max(1, Math.round(used?.start_time.value ?? 1));
  const address = (media_reference ?? Object.values(media_references ?? {})[0])?.target_url ?? '';
  const source = OTIO_SCHEMA.startsWith('Gap') ? null : match([name, fileOf(address)], document, takes);
  const over = {
    from: start,
    to: nearest(CLIP.to, start + Math.max(1, Math.round(frames * speed)) - 1) as number,
    speed,
    play: scalar < 0 ? ('backwards' as const) : ('forwards' as const),
  };
  if (source) return { clip: newClip(source, over), own: false, unmatched: false };
  const clip = newClip({ kind: 'plain' }, { from: 1, to: nearest(CLIP.to, frames) as number });
  return { clip, own: false, unmatched: !OTIO_SCHEMA.startsWith('Gap') };
}

/** What a clip is of, by one of the names that it goes by: a take by its shot and number, a shot, or a clip that was brought in. */
function match(names: string[], { assets, shots }: Known, takes: readonly ReelTake[]): ClipSource | null {
  for (const name of names.map(plain).filter((each) => each !== '')) {
    const take = takes.find(({ shotName, number }) => plain(`${shotName}take${number}`) === name);
    if (take) return { kind: 'take', take: take.id };
    const shot = Object.values(shots).find((each) => plain(each.name) === name);
    if (shot) return { kind: 'shot', shot: shot.id };
    const asset = Object.values(assets).find(
      (each) => each.footage && [each.name, fileOf(each.sourceName)].some((known) => plain(known) === name),
    );
    if (asset) return { kind: 'footage', asset: asset.id };
  }
  return null;
}

function isThere(source: ClipSource, { assets, shots }: Known, takes: readonly ReelTake[]): boolean {
  if (source.kind === 'take') return takes.some(({ id }) => id === source.take);
  if (source.kind === 'shot') return source.shot in shots;
  return source.kind === 'plain' || Boolean(assets[source.asset]?.footage);
}

function titleOf(data: unknown): Title[] {
  const { data: title } = ownTitle.safeParse(data);
  return title ? [title] : [];
}
