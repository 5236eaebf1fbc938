import { UserProblem } from '@zippy/core/document';

/** What of a film is read, and how. */
export interface FilmStream {
  /** Of a frame as it is kept. */
  width: number;
  height: number;
  /** Frames a second as they are kept. */
  rate: number;
  /** How many there are, where the file says so. */
  of: number | null;
  /** Decoder by name where the usual one would lose the opacity. */
  by: string | null;
  notes: string[];
}

/** Longest side of a frame that is kept. */
const MOST_PIXELS = 2048;
/** Frames a second that are kept. */
const MOST_RATE = 60;
/** Containers that are read: no lists of files, nothing that fetches. */
const CONTAINERS = 'mov,matroska,avi,mpeg,mpegts,apng,asf,ogg,flv,mpegvideo,h264,hevc,m4v';
/** The file itself, and nothing that it names. */
const ALONE = ['-protocol_whitelist', 'file,pipe', '-format_whitelist', CONTAINERS];

interface Probed {
  streams?: {
    codec_name?: string;
    width?: number;
    height?: number;
    avg_frame_rate?: string;
    r_frame_rate?: string;
    nb_frames?: string;
    duration?: string;
    sample_aspect_ratio?: string;
    tags?: Record<string, string>;
    side_data_list?: { rotation?: number }[];
  }[];
  format?: { duration?: string };
}

const ratio = (text: string | undefined): number => {
  const [a, b = '1'] = (text ?? '').split(/[/:]/);
  const value = Number(a) / Number(b);
  return Number.isFinite(value) && value > 0 ? value : 0;
};

type Run = (program: string, args: string[], options: object) => Promise<{ stdout: string | Buffer }>;

/** @throws UserProblem `footage-broken` where it holds no moving picture */
export async function probeFilm(run: Run, decoder: string, path: string, name: string): Promise<FilmStream> {
  const broken = (why: string) =>
    new UserProblem(
      'footage-broken',
      `"${name}" cannot be read as a film: ${why}. Bring an MP4, MOV, WebM, GIF or animated WebP, or its frames as pictures.`,
      422,
    );
  const program = decoder.replace(/ffmpeg(?=[^/]*$)/, 'ffprobe');
  const args = [
    '-v',
    'error',
    ...ALONE,
    '-select_streams',
    'v:0',
    '-show_streams',
    '-show_format',
    '-of',
    'json',
    path,
  ];
  const answer = await run(program, args, { timeout: 60_000, maxBuffer: 1e7 }).catch(() => null);
  if (!answer) throw broken('it is damaged or of an unknown kind');
  const { streams = [], format } = JSON.parse(answer.stdout.toString()) as Probed;
  const [stream] = streams;
  if (!stream?.width || !stream.height) throw broken('it holds no moving picture');
  const rotated = (stream.side_data_list ?? []).some(({ rotation = 0 }) => Math.abs(rotation) % 180 === 90);
  const aspect = ratio(stream.sample_aspect_ratio) || 1;
  const seen: [number, number] = [stream.width * aspect, stream.height];
  const [wide, high] = rotated ? [seen[1], seen[0]] : seen;
  const shrink = Math.min(1, MOST_PIXELS / Math.max(wide, high));
  const own = ratio(stream.avg_frame_rate) || ratio(stream.r_frame_rate) || 25;
  const rate = Math.min(MOST_RATE, own);
  const seconds = Number(stream.duration ?? format?.duration);
  const counted = Number(stream.nb_frames) * (rate / own);
  const of = counted > 0 ? counted : seconds * rate;
  const notes: string[] = [];
  if (shrink < 1) notes.push(`"${name}" is kept at ${MOST_PIXELS} pixels along its longer side.`);
  if (own > MOST_RATE) notes.push(`"${name}" is kept at ${MOST_RATE} of its ${Math.round(own)} frames a second.`);
  const clear = stream.tags?.['alpha_mode'] === '1' || stream.tags?.['ALPHA_MODE'] === '1';
  return {
    width: Math.max(1, Math.round(wide * shrink)),
    height: Math.max(1, Math.round(high * shrink)),
    rate,
    of: Number.isFinite(of) && of >= 1 ? Math.round(of) : null,
    by: clear ? ({ vp8: 'libvpx', vp9: 'libvpx-vp9' }[stream.codec_name ?? ''] ?? null) : null,
    notes,
  };
}

/** Arguments by which the decoder gives the frames as bytes of red, green, blue and opacity, one after another. */
export function filmArguments(path: string, { width, height, rate, by }: FilmStream): string[] {
  return [
    ...['-v', 'error', '-nostdin', ...ALONE],
    ...(by ? ['-c:v', by] : []),
    ...['-i', path, '-map', '0:v:0', '-an', '-sn', '-dn'],
    ...['-vf', `fps=${rate},scale=${width}:${height}:flags=area+accurate_rnd+full_chroma_int,setsar=1,format=rgba`],
    ...['-f', 'rawvideo', 'pipe:1'],
  ];
}
