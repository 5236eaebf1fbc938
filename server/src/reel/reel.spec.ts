import { spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  copyOf,
  makeEdit,
  newAsset,
  newClip,
  newSound,
  newTitle,
  type Asset,
  type ProjectDocument,
} from '@zippy/core/document';
import { FILM_FORMATS, type Delivery, type FilmFormatName, type TitleOutline } from '@zippy/core/reel';
import { createApp } from '../http/app';
import { openServices, type Services } from '../services';

let folder: string;
let services: Services;
let server: Server;
let address: string;

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'zippy-reel-'));
  services = await openServices(folder);
  server = createApp(services, null).listen(0, '127.0.0.1');
  await once(server, 'listening');
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(async () => {
  server.close();
  server.closeAllConnections();
  await services.close();
  rmSync(folder, { recursive: true, force: true });
});

async function call<T>(method: string, path: string, body?: unknown): Promise<{ status: number; body: T }> {
  const response = await fetch(`${address}/api${path}`, {
    method,
    ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
  });
  return { status: response.status, body: (await response.json().catch(() => null)) as T };
}
async function send(name: string, bytes: Uint8Array): Promise<{ name: string; hash: string }> {
  const response = await fetch(`${address}/api/blobs`, { method: 'POST', body: Buffer.from(bytes) });
  return { name, hash: ((await response.json()) as { hash: string }).hash };
}
function made(name: string, ...args: string[]): Uint8Array {
  const path = join(folder, name);
  const { status, stderr } = spawnSync('ffmpeg', ['-v', 'error', '-y', ...args, path]);
  expect([status, stderr.toString()]).toEqual([0, '']);
  return readFileSync(path);
}
const probe = (path: string) =>
  JSON.parse(
    spawnSync('ffprobe', ['-v', 'error', '-count_frames', '-show_streams', '-show_format', '-of', 'json', path]).stdout.toString(), // prettier-ignore
  ) as { streams: Record<string, string>[]; format: Record<string, string> };

const WIDTH = 96;
const HEIGHT = 54;

/** Footage of twelve frames, each of one grey: 20, 40, 60 … */
async function footage(): Promise<Asset> {
  const frames: string[] = [];
  for (let k = 1; k <= 12; k++) {
    const grey = 20 * k;
    const png = await sharp({ create: { width: WIDTH, height: HEIGHT, channels: 4, background: { r: grey, g: grey, b: grey, alpha: k === 12 ? 0 : 1 } } }).png().toBuffer(); // prettier-ignore
    frames.push((await send(`${k}.png`, png)).hash);
  }
  const brightness = frames.map(() => 0.5);
  return newAsset({ id: 'f', name: 'Greys', kind: 'footage', hash: frames[0]!, footage: { frames, rate: 24, size: { width: WIDTH, height: HEIGHT }, brightness } }); // prettier-ignore
}

let filmed: Asset;
/** A project whose reel is made of what was filmed: nothing has to be rendered. */
async function project(recipe: (draft: ProjectDocument) => void): Promise<string> {
  filmed ??= await footage();
  const { body } = await call<{ id: string; revision: number; document: ProjectDocument }>('POST', '/projects', { name: 'Greys' }); // prettier-ignore
  const { edit } = makeEdit(body.document, 'reel', (draft) => {
    draft.assets[filmed.id] = structuredClone(filmed);
    draft.reel.picture = { width: WIDTH, height: HEIGHT };
    recipe(draft);
  });
  const edited = await call('POST', `/projects/${body.id}/edits`, { revision: body.revision, patches: edit!.patches, window: 'w' }); // prettier-ignore
  expect(edited.status).toBe(200);
  return body.id;
}
const plain = (draft: ProjectDocument, over = {}) => {
  const clip = newClip({ kind: 'footage', asset: 'f' }, { id: 'c', to: 11, ...over });
  draft.reel.clips[clip.id] = clip;
};

interface Made {
  id: string;
  state: string;
  failure: string;
  bytes: number;
  frames: number;
}
async function finished(id: string, film: string): Promise<Made> {
  for (;;) {
    const { body } = await call<Made[]>('GET', `/projects/${id}/films`);
    const found = body.find((each) => each.id === film)!;
    if (found.state !== 'encoding') return found;
    await new Promise((resolve) => setTimeout(resolve, 60));
  }
}
/** Has a film made and gives the path of its file. */
async function deliver(id: string, delivery: Partial<Delivery> & { format: FilmFormatName }): Promise<string> {
  const { status, body } = await call<Made>('POST', `/projects/${id}/films`, delivery);
  expect([status, body]).toEqual([201, expect.anything()]);
  const film = await finished(id, body.id);
  expect([film.state, film.failure]).toEqual(['done', '']);
  return join(folder, 'films', `${body.id}.${FILM_FORMATS[delivery.format].extension}`);
}
/** Greys of the first row's pixel of every frame, as ffmpeg reads them. */
function greys(path: string, at = 0): number[] {
  const { stdout } = spawnSync('ffmpeg', ['-v', 'error', '-i', path, '-f', 'rawvideo', '-pix_fmt', 'rgba', 'pipe:1'], { maxBuffer: 1e9 }); // prettier-ignore
  const bytes = 4 * WIDTH * HEIGHT;
  return Array.from({ length: stdout.length / bytes }, (_, k) => stdout[k * bytes + 4 * at]!);
}

/** Programs that run with a word among their arguments. */
const programsWith = (word: string): number[] =>
  readdirSync('/proc').flatMap((name) => {
    try {
      return /^\d+$/.test(name) && readFileSync(`/proc/${name}/cmdline`, 'utf8').includes(word) ? [Number(name)] : [];
    } catch {
      // It has ended meanwhile.
      return [];
    }
  });

describe('a film of clips', () => {
  const ENCODED = {
    mp4: ['h264', 'yuv420p'],
    hevc: ['hevc', 'yuv420p10le'],
    webm: ['vp9', 'yuv420p'],
    av1: ['av1', 'yuv420p10le'],
    prores422: ['prores', 'yuv422p10le'],
    prores422hq: ['prores', 'yuv422p10le'],
    prores4444: ['prores', 'yuv444p12le'],
    gif: ['gif', 'bgra'],
  } as const;

  it.each(Object.entries(ENCODED))('leaves as %s that another program reads frame by frame', async (name, [codec, pixels]) => {
    const id = await project((draft) => plain(draft));
    if (name === 'av1') {
      const small = await call<{ detail: string }>('POST', `/projects/${id}/films`, { format: name });
      expect([small.status, small.body.detail]).toEqual([422, expect.stringMatching(/at least 64 pixels a side/)]);
    }
    const [width, height] = name === 'av1' ? [128, 72] : [WIDTH, HEIGHT];
    const path = await deliver(id, { format: name as FilmFormatName, size: { width, height } });
    const { streams } = probe(path);
    expect(streams).toHaveLength(1);
    expect(streams[0]).toMatchObject({ codec_name: codec, pix_fmt: pixels, width, height });
    expect(streams[0]!['nb_read_frames']).toBe('11');
    if (name === 'gif' || name === 'av1') return;
    expect(streams[0]).toMatchObject({ r_frame_rate: '24/1', color_space: 'bt709' });
    greys(path).forEach((grey, k) => expect(Math.abs(grey - 20 * (k + 1))).toBeLessThan(6));
  }, 60_000); // prettier-ignore

  it('leaves as animated WebP, packed pictures, and a poster', async () => {
    const id = await project((draft) => plain(draft));
    const { pages, width } = await sharp(await deliver(id, { format: 'webp', size: { width: 48, height: 28 } })).metadata();
    expect([pages, width]).toEqual([11, 48]);
    for (const [format, ending] of [['png-zip', 'png'], ['jpeg-zip', 'jpg'], ['tiff-zip', 'tiff']] as const) {
      const zip = await deliver(id, { format });
      const names = spawnSync('python3', ['-c', 'import zipfile,sys; z=zipfile.ZipFile(sys.argv[1]); assert z.testzip() is None; print(*z.namelist()); z.extract(z.namelist()[2], sys.argv[2])', zip, folder]).stdout.toString().trim().split(' '); // prettier-ignore
      expect([names.length, names[0]]).toEqual([11, `frame-0001.${ending}`]);
      const third = await sharp(join(folder, names[2]!)).metadata();
      expect([third.width, third.depth]).toEqual([WIDTH, format === 'tiff-zip' ? 'ushort' : 'uchar']);
    }
    const poster = await sharp(await deliver(id, { format: 'poster', frame: 7 })).raw().toBuffer();
    expect(poster[0]).toBe(140);
  }, 60_000); // prettier-ignore

  it('stays open where it is asked to and the format can', async () => {
    const id = await project((draft) => plain(draft, { from: 11, to: 12 }));
    const alpha = async (format: FilmFormatName, open: boolean) => {
      const path = await deliver(id, { format, open });
      const by = format === 'webm' ? ['-c:v', 'libvpx-vp9'] : [];
      const { stdout } = spawnSync('ffmpeg', ['-v', 'error', ...by, '-i', path, '-f', 'rawvideo', '-pix_fmt', 'rgba', 'pipe:1']); // prettier-ignore
      return [stdout[3]!, stdout[4 * WIDTH * HEIGHT + 3]!];
    };
    for (const format of ['prores4444', 'webm'] as const) {
      expect(await alpha(format, true)).toEqual([255, 0]);
      expect(await alpha(format, false)).toEqual([255, 255]);
    }
  }, 60_000);

  it('fades, dips, mixes, is held and is cut as the reel says', async () => {
    const id = await project((draft) => {
      plain(draft, { id: 'a', from: 1, to: 4, order: 0, holdBefore: 1 });
      plain(draft, { id: 'b', from: 10, to: 10, order: 1, repeat: 'length', length: 4, change: 'fade', changeFrames: 1 });
      plain(draft, { id: 'c', from: 5, to: 6, order: 2, speed: 0.5, between: 'blend' });
      plain(draft, { id: 'd', from: 5, to: 8, order: 3, play: 'backwards', change: 'dip', changeFrames: 2, changeColor: [1, 1, 1] });
    }); // prettier-ignore
    const path = await deliver(id, { format: 'png-zip' });
    const out = join(folder, 'faded');
    spawnSync('python3', ['-c', 'import zipfile,sys; zipfile.ZipFile(sys.argv[1]).extractall(sys.argv[2])', path, out]);
    const seen: number[] = [];
    for (const name of readdirSync(out).sort()) seen.push((await sharp(join(out, name)).raw().toBuffer())[0]!);
    // Held, 1 to 3, 4 mixed with 10, then 10; 5 and 6 at half speed; white for half a frame on both sides of the cut; backwards.
    expect(seen).toEqual([20, 20, 40, 60, 140, 200, 200, 200, 100, 110, 120, 188, 208, 140, 120, 100]);
  }, 60_000);

  it('of another shape is filled about the point that counts, or shown whole on its ground', async () => {
    const id = await project((draft) => plain(draft, { ground: [0.2140411, 0, 0] }));
    const size = { width: 32, height: 54 };
    const whole = await sharp(await deliver(id, { format: 'poster', size })).raw().toBuffer();
    const at = (data: Buffer, y: number) => [...data.subarray(4 * 32 * y, 4 * 32 * y + 3)];
    expect([at(whole, 0), at(whole, 27)]).toEqual([[127, 0, 0], [20, 20, 20]]);
    const filled = await sharp(await deliver(id, { format: 'poster', size, shape: 'fill' })).raw().toBuffer();
    expect([at(filled, 0), at(filled, 53)]).toEqual([[20, 20, 20], [20, 20, 20]]);
  }, 60_000); // prettier-ignore

  it('wears a look of its own', async () => {
    const id = await project((draft) => {
      plain(draft);
      draft.reel.clips['c']!.look = { ...copyOf(draft.look), tone: 'straight', exposure: -1 };
    });
    const poster = await sharp(await deliver(id, { format: 'poster', frame: 10 }))
      .raw()
      .toBuffer();
    // Half the light of 200: (200 / 255) is 0.578 in light, and 0.289 of that is shown as 147.
    expect(Math.abs(poster[0]! - 147)).toBeLessThan(3);
    const { body } = await call<{ document: ProjectDocument }>('GET', `/projects/${id}`);
    const look = encodeURIComponent(JSON.stringify(body.document.reel.clips['c']!.look));
    const response = await fetch(`${address}/api/filmed/${filmed.footage!.frames[9]}?look=${look}`);
    const shown = await sharp(Buffer.from(await response.arrayBuffer()))
      .raw()
      .toBuffer();
    expect(Math.abs(shown[0]! - 147)).toBeLessThan(4);
  }, 60_000);

  it('has titles over it and sounds under it, in time', async () => {
    const sound = await call<{ hash: string; sound: { seconds: number; loudness: string } }>('POST', '/sounds', await send('beep.wav', made('beep.wav', '-f', 'lavfi', '-i', 'sine=f=440:d=3'))); // prettier-ignore
    const id = await project((draft) => {
      plain(draft, { from: 1, to: 1, repeat: 'length', length: 48 });
      draft.assets['s'] = newAsset({ id: 's', name: 'Beep', kind: 'sound', ...sound.body });
      draft.reel.sounds['s'] = newSound({ id: 's', name: 'Beep', asset: 's', start: 25, fadeIn: 0.5 });
      draft.reel.titles['t'] = newTitle({ id: 't', words: 'I', font: 'barlow-bold', start: 10, length: 5, size: 1.5, y: 0.5, enter: 'cut', leave: 'cut' });
    }); // prettier-ignore
    const path = await deliver(id, { format: 'mp4', quality: 'fine' });
    const { streams, format } = probe(path);
    expect(streams.map((stream) => stream['codec_name'])).toEqual(['h264', 'aac']);
    expect(Math.abs(Number(format['duration']) - 2)).toBeLessThan(0.1);
    const middle = (HEIGHT / 2) * WIDTH + WIDTH / 2;
    const bright = greys(path, middle).flatMap((grey, k) => (grey > 200 ? [k + 1] : []));
    expect(bright).toEqual([10, 11, 12, 13, 14]);
    const { stdout } = spawnSync('ffmpeg', ['-v', 'error', '-i', path, '-ac', '1', '-ar', '8000', '-f', 'f32le', 'pipe:1'], { maxBuffer: 1e8 }); // prettier-ignore
    const samples = new Float32Array(stdout.buffer.slice(stdout.byteOffset, stdout.byteOffset + 4 * 16_000));
    const loud = (from: number, to: number) => samples.subarray(from * 8000, to * 8000).reduce((most, each) => Math.max(most, Math.abs(each)), 0); // prettier-ignore
    expect(loud(0, 0.9)).toBeLessThan(0.01);
    const [faint, whole] = [loud(1.05, 1.15), loud(1.6, 1.9)];
    expect(whole).toBeGreaterThan(0.05);
    expect(faint / whole).toBeLessThan(0.5);
  }, 60_000);

  it('is a page that turns it, whose first picture comes first', async () => {
    const id = await project((draft) => {
      plain(draft, { id: 'low' });
      plain(draft, { id: 'high', order: 1, to: 6 });
    });
    const text = readFileSync(await deliver(id, { format: 'spin', pictures: 8 }), 'utf8');
    const calls = [...text.matchAll(/come\((\d+),(\d+),"data:image\/webp;base64,([^"]+)"\)/g)];
    expect(calls).toHaveLength(8 + 6);
    expect(calls[0]!.slice(1, 3)).toEqual(['0', '0']);
    expect((await sharp(Buffer.from(calls[0]![3]!, 'base64')).metadata()).width).toBe(WIDTH);
  }, 60_000);

  it('is foretold within a third of what it takes, and nothing is left of that', async () => {
    const id = await project((draft) => plain(draft, { loop: 20 }));
    const before = readdirSync(join(folder, 'films')).length;
    for (const format of ['gif', 'png-zip', 'prores422'] as const) {
      const { body } = await call<{ bytes: number; frames: number }>('POST', `/projects/${id}/foretold-films`, { format });
      expect(body.frames).toBe(220);
      const { size } = statSync(await deliver(id, { format }));
      expect(Math.abs(body.bytes / size - 1)).toBeLessThan(1 / 3);
    }
    expect(readdirSync(join(folder, 'films'))).toHaveLength(before + 3);
  }, 120_000); // prettier-ignore

  it('whose encoder is killed midway says so and leaves nothing half written', async () => {
    const id = await project((draft) => plain(draft, { loop: 900 }));
    const { body } = await call<Made>('POST', `/projects/${id}/films`, { format: 'mp4' });
    for (let tries = 0; ; tries++) {
      const found = programsWith(`${body.id}.mp4.part`);
      if (found.length > 0) {
        for (const pid of found) process.kill(pid, 'SIGKILL');
        break;
      }
      expect(tries).toBeLessThan(400);
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    const film = await finished(id, body.id);
    expect([film.state, film.failure]).toEqual(['failed', expect.stringMatching(/could not be encoded: .*signal/)]);
    expect(readdirSync(join(folder, 'films')).some((name) => name.startsWith(body.id))).toBe(false);
  }, 60_000);

  it('of what is gone is refused with the clip that it is', async () => {
    const id = await project((draft) => {
      plain(draft);
      draft.reel.clips['gone'] = newClip({ kind: 'take', take: 'gone' }, { id: 'gone', order: 5 });
    });
    const { status, body } = await call<{ detail: string }>('POST', `/projects/${id}/films`, { format: 'mp4' });
    expect([status, body.detail]).toEqual([422, expect.stringMatching(/Clip 2 on the reel: Take is gone/)]);
    const vast = await call<{ detail: string }>('POST', `/projects/${id}/films`, { format: 'mp4', size: { width: 8192, height: 8192 } }); // prettier-ignore
    expect([vast.status, vast.body.detail]).toEqual([422, expect.stringMatching(/Choose a smaller size/)]);
  });
});

describe('a sound', () => {
  it.each([
    ['wav', []],
    ['mp3', ['-c:a', 'libmp3lame']],
    ['ogg', ['-c:a', 'libvorbis']],
    ['flac', []],
    ['m4a', ['-c:a', 'aac']],
  ])(
    'is read from %s with how loud it is',
    async (ending, args) => {
      const file = made(`tone.${ending}`, '-f', 'lavfi', '-i', "aevalsrc='if(lt(t,1),0,0.5*sin(2000*t))':d=2:s=44100", ...args); // prettier-ignore
      const { body } = await call<{ hash: string; sound: { seconds: number; loudness: string } }>('POST', '/sounds', await send(`tone.${ending}`, file)); // prettier-ignore
      expect(Math.abs(body.sound.seconds - 2)).toBeLessThan(0.1);
      const levels = new Uint8Array(await (await fetch(`${address}/api/blobs/${body.sound.loudness}`)).arrayBuffer());
      expect(Math.abs(levels.length - 100)).toBeLessThan(6);
      expect([levels[20], Math.abs(levels[70]! - 127) < 20]).toEqual([0, true]);
    },
    30_000,
  );

  it('that is none, or a list of other files, is refused with a sentence', async () => {
    const secret = join(folder, 'tone.wav');
    for (const text of ['no sound at all', `#EXTM3U\n#EXTINF:1,\nfile://${secret}\n`, '']) {
      const { status, body } = await call<{ detail: string }>(
        'POST',
        '/sounds',
        await send('x.mp3', Buffer.from(text)),
      );
      expect([status, body.detail]).toEqual([422, expect.stringMatching(/"x.mp3" holds no sound/)]);
    }
    const silent = made('silent.mp4', '-f', 'lavfi', '-i', 'testsrc=d=0.2:s=32x32');
    expect((await call('POST', '/sounds', await send('silent.mp4', silent))).status).toBe(422);
    expect(readdirSync(join(folder, 'blobs')).filter((name) => name.startsWith('sound-'))).toEqual([]);
  }, 30_000);
});

describe('words', () => {
  const outline = async (words: string, font: unknown = 'hanken') =>
    (await call<TitleOutline>('POST', '/title-outlines', { words, font })).body;

  it('become outlines, line by line, closer where the font says so', async () => {
    const { lines, ascent, missing } = await outline('AV\nHi there');
    expect([lines.length, missing]).toEqual([2, []]);
    expect(ascent).toBeGreaterThan(0.5);
    const [a, v] = [await outline('A'), await outline('V')];
    expect(lines[0]!.width).toBeLessThan(a.lines[0]!.width + v.lines[0]!.width);
    expect(lines[1]!.glyphs.filter(({ path }) => path === '')).toHaveLength(1);
  });

  it('of other scripts are found in other fonts, right-to-left from right to left, letters joined', async () => {
    const { missing, lines } = await outline('Größe Ωμέγα Привет नमस्ते สวัสดี ✚');
    expect([missing, lines[0]!.glyphs.length > 20]).toEqual([[], true]);
    const [hebrew] = (await outline('אב')).lines;
    const [alef] = (await outline('א')).lines;
    expect(hebrew!.glyphs.at(-1)!.path).toBe(alef!.glyphs[0]!.path);
    // Mixed: the numbers stay as they are, the words stand to their left.
    const mixed = (await outline('ab אב')).lines[0]!;
    const latin = (await outline('a')).lines[0]!;
    expect(mixed.glyphs[0]!.path).toBe(latin.glyphs[0]!.path);
    expect(mixed.glyphs.at(-1)!.path).toBe(alef!.glyphs[0]!.path);
    const [joined] = (await outline('بب')).lines;
    const [alone] = (await outline('ب')).lines;
    expect(joined!.glyphs.map(({ path }) => path)).not.toContain(alone!.glyphs[0]!.path);
  });

  it('with signs that no font has name them, and nothing breaks', async () => {
    expect((await outline('漢字 a')).missing).toEqual(['漢', '字']);
    for (const words of ['', '\n\n', '\u0000\u202e\ufffe', '\ud800', '👩‍🚀'.repeat(100), 'a\u0301'.repeat(900)])
      expect((await call('POST', '/title-outlines', { words, font: 'nobody' })).status).toBe(200);
    expect((await call('POST', '/title-outlines', { words: 'x'.repeat(3000), font: 'hanken' })).status).toBe(422);
  });

  it('are drawn in own fonts; what is no font is refused', async () => {
    const file = readFileSync(new URL('../../../node_modules/@fontsource/syne/files/syne-latin-800-normal.woff2', import.meta.url)); // prettier-ignore
    const own = await send('Own.woff2', file);
    expect((await call<{ name: string }>('POST', '/fonts', own)).body.name).toMatch(/Syne/);
    const [mine, shipped] = [await outline('Wide', own), await outline('Wide', 'syne')];
    expect(mine.lines[0]!.width).toBeCloseTo(shipped.lines[0]!.width, 3);
    for (const bytes of [Buffer.from('no font'), file.subarray(0, 3000), Buffer.alloc(0)]) {
      const { status, body } = await call<{ detail: string }>('POST', '/fonts', await send('bad.ttf', bytes));
      expect([status, body.detail]).toEqual([422, expect.stringMatching(/"bad.ttf" cannot be read as a font/)]);
    }
  });
});
