import { readFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { deflateSync, inflateSync } from 'node:zlib';
import sharp from 'sharp';
import { Darkroom, decodeFrame, toWords, type LinearFrame } from '@zippy/core/develop';
import type { Look } from '@zippy/core/document';
import { encodeSrgb } from '@zippy/core/optics';
import {
  drawTitles,
  fill,
  filmPicture,
  giveWay,
  layFilm,
  layOver,
  mixShares,
  outlineKey,
  placeIn,
  putInto,
  titlesAt,
  veil,
  type Film,
  type FilmPicture,
  type LaidClip,
  type Pixels,
  type Size,
} from '@zippy/core/reel';
import { blobPath } from '../storage/blobs';
import { compileKernel } from '../workers/compileKernel';
import { learnedFilter } from '../workers/learnedFilter';
import { readLookup } from '../workers/readLookup';
import { filmedFrame } from './filmedFrame';
import type { FilmJob } from './filmJob';

const deflate = { pack: (bytes: Uint8Array) => deflateSync(bytes), unpack: (bytes: Uint8Array) => inflateSync(bytes) };
const shown = (color: readonly number[]) => color.map(encodeSrgb) as [number, number, number];

interface Picture extends Size {
  pixels: Pixels;
}

/** Frames of takes, and pictures of sources, that are kept: each is its neighbours' neighbour, and is often asked for again. */
const KEPT_FRAMES = 3;
const KEPT_PICTURES = 4;

/** Makes the pictures of a film, one after another. */
export class FilmFrames {
  readonly film: Film;
  private readonly frames = new Map<string, LinearFrame>();
  private readonly pictures = new Map<string, Promise<Picture>>();
  private readonly opaque = new WeakMap<Pixels, boolean>();
  private drawn: { svg: string; pixels: Pixels } | null = null;
  private readonly overlays = new Map<string, string>();

  private constructor(
    private readonly job: FilmJob,
    private readonly darkroom: Darkroom,
    /** Of the pictures that are made. */
    readonly size: Size,
    /** 8 or 16 of a channel. */
    private readonly bits: number,
    /** What is open stays open. */
    private readonly open: boolean,
  ) {
    this.film = layFilm(job.document, job.takes);
  }

  static async of(job: FilmJob, size: Size, bits: number, open: boolean): Promise<FilmFrames> {
    const frames = new FilmFrames(job, await Darkroom.open(await compileKernel()), size, bits, open);
    await frames.readOverlays();
    return frames;
  }

  /** The film in another size is fitted, or filled about the point of each clip that counts. @param frame from 1 */
  async picture(frame: number): Promise<Pixels> {
    const made = filmPicture({ ...this.film, size: this.size }, frame);
    const parts = await Promise.all(made.shown.map(({ laid, frames }) => this.ofClip(laid, frames, frame)));
    const over = await this.titlesOver(frame);
    const [first = this.empty(), second] = parts;
    if (!second && !made.veil && !over) return first;
    // What is made of one clip is kept for the frames after it.
    const pixels = first.slice();
    if (second && made.mask) giveWay(pixels, second, this.size.width, made.mask);
    if (made.veil) veil(pixels, shown(made.veil.color), made.veil.share);
    if (over) layOver(pixels, over, this.size.width, null);
    return pixels;
  }

  private empty(): Pixels {
    const length = 4 * this.size.width * this.size.height;
    return this.bits > 8 ? new Uint16Array(length) : new Uint8Array(length);
  }

  /** A clip in the size of the film, on its ground. */
  private async ofClip(
    laid: LaidClip,
    frames: FilmPicture['shown'][number]['frames'],
    filmFrame: number,
  ): Promise<Pixels> {
    const { clip, source } = laid;
    if (!source.of) return this.ground(laid);
    const grain = (this.job.looks[clip.id]?.look.grain ?? 0) > 0;
    const pictures = await Promise.all(
      frames.map(({ frame }) => this.once(JSON.stringify([clip.id, frame, grain ? filmFrame : null]), () => this.ofSource(laid, frame, filmFrame))),
    ); // prettier-ignore
    const mixed = mixShares(pictures.map(({ pixels: each }, k) => ({ pixels: each, share: frames[k]!.share })));
    const { width, height } = pictures[0]!;
    return this.place({ pixels: mixed, width, height }, laid);
  }

  /** What a clip stands on. */
  private ground({ clip }: LaidClip): Pixels {
    const pixels = this.empty();
    if (!this.open || clip.source.kind === 'plain') fill(pixels, shown(clip.ground));
    return pixels;
  }

  private async place(picture: Picture, laid: LaidClip): Promise<Pixels> {
    const { clip } = laid;
    const fit = this.job.delivery.shape === 'fill' ? 'fill' : clip.fit;
    // A film that is made smaller makes pictures smaller that are shown pixel for pixel.
    const zoom = clip.zoom * (clip.fit === 'trueSize' ? this.size.width / this.film.size.width : 1);
    const place = placeIn(picture, this.size, { ...clip, fit, zoom });
    const [width, height] = [Math.max(1, Math.round(place.width)), Math.max(1, Math.round(place.height))];
    const same = width === picture.width && height === picture.height;
    const [x, y] = [Math.round(place.x), Math.round(place.y)];
    if (same && x === 0 && y === 0 && width === this.size.width && height === this.size.height) {
      if (this.open || this.isOpaque(picture.pixels)) return picture.pixels;
      const whole = this.ground(laid);
      layOver(whole, picture.pixels, width, null);
      return whole;
    }
    const ground = this.ground(laid);
    const fitted = same ? picture.pixels : await this.resized(picture, width, height);
    putInto(ground, this.size.width, fitted, { width, height }, x, y);
    return ground;
  }

  /** Whether nothing of a picture is open. It is asked of the same pictures again and again. */
  private isOpaque(pixels: Pixels): boolean {
    let known = this.opaque.get(pixels);
    if (known === undefined) {
      const full = pixels instanceof Uint16Array ? 65_535 : 255;
      known = true;
      for (let at = 3; at < pixels.length && known; at += 4) known = pixels[at] === full;
      this.opaque.set(pixels, known);
    }
    return known;
  }

  private async resized({ pixels, ...size }: Picture, width: number, height: number): Promise<Pixels> {
    let picture = sharp(pixels, { raw: { ...size, channels: 4 } });
    if (this.bits > 8) picture = picture.toColourspace('rgb16');
    const { data } = await picture
      .resize(width, height, { fit: 'fill' })
      .raw({ depth: this.bits > 8 ? 'ushort' : 'uchar' })
      .toBuffer({ resolveWithObject: true });
    return this.bits > 8 ? new Uint16Array(data.buffer, data.byteOffset, data.length / 2) : data;
  }

  /** A frame of what a clip is of, developed. */
  private async ofSource({ clip, source }: LaidClip, frame: number, filmFrame: number): Promise<Picture> {
    const of = source.of!;
    const graded = this.job.looks[clip.id] ?? null;
    if ('asset' in of) {
      const path = this.blob(of.asset.footage!.frames[frame - 1]!);
      if (!graded) return this.asItIs(path);
      const linear = await filmedFrame(path);
      return this.developed(linear, graded, { neighbours: { before: null, after: null }, filmFrame });
    }
    const paths = this.job.paths[`${of.take.id}@${frame}`]!;
    const { look } = graded!;
    const linear = await this.read(paths.path, look);
    const steady = look.denoise > 0;
    const neighbours = {
      before: steady && paths.before ? await this.read(paths.before, look) : null,
      after: steady && paths.after ? await this.read(paths.after, look) : null,
    };
    return this.developed(linear, graded!, { neighbours, filmFrame });
  }

  private async developed(
    frame: LinearFrame,
    { look, lookup }: { look: Look; lookup: string | null },
    { neighbours, filmFrame }: { neighbours: { before: LinearFrame | null; after: LinearFrame | null }; filmFrame: number },
  ): Promise<Picture> {
    const besides = { neighbours, lookup: await readLookup(lookup), frame: filmFrame };
    const { width, height } = frame;
    if (this.bits <= 8) return { width, height, pixels: this.darkroom.develop(frame, look, besides) };
    return { width, height, pixels: toWords(this.darkroom.print(frame, look, besides)) };
  } // prettier-ignore

  private async asItIs(path: string): Promise<Picture> {
    const { data, info } = await sharp(path).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    const pixels = this.bits > 8 ? Uint16Array.from(data, (value) => value * 257) : new Uint8Array(data);
    return { width: info.width, height: info.height, pixels };
  }

  private async read(path: string, { lights, denoise }: Look): Promise<LinearFrame> {
    const key = JSON.stringify([path, lights]);
    const frame = this.frames.get(key) ?? decodeFrame(new Uint8Array(await readFile(path)), deflate, lights);
    if (denoise > 0 && frame.guides)
      frame.learned ??= await (await learnedFilter(availableParallelism()))?.filter(frame, frame.guides);
    keep(this.frames, key, frame, KEPT_FRAMES);
    return frame;
  }

  private once(key: string, make: () => Promise<Picture>): Promise<Picture> {
    const known = this.pictures.get(key) ?? make();
    keep(this.pictures, key, known, KEPT_PICTURES);
    return known;
  }

  /** What is drawn over a frame; null where that is nothing. */
  private async titlesOver(frame: number): Promise<Pixels | null> {
    const parts = {
      outline: (title: { words: string; font: string }) => this.job.outlines[outlineKey(title)] ?? null,
      picture: (asset: string) => this.overlays.get(asset) ?? null,
    };
    const svg = drawTitles(titlesAt(this.film.reel, frame), this.size, parts, this.film.size);
    if (svg === '') return null;
    if (this.drawn?.svg !== svg) {
      const { width, height } = this.size;
      const { data } = await sharp(Buffer.from(svg), { unlimited: true })
        .resize(width, height, { fit: 'fill' })
        .ensureAlpha()
        .raw()
        .toBuffer({ resolveWithObject: true });
      this.drawn = { svg, pixels: this.bits > 8 ? Uint16Array.from(data, (value) => value * 257) : data };
    }
    return this.drawn.pixels;
  }

  /** Pictures that lie over the film stand in the drawing itself: it fetches nothing. */
  private async readOverlays(): Promise<void> {
    const { reel, assets } = this.job.document;
    for (const { picture } of Object.values(reel.titles)) {
      const asset = picture === null ? undefined : assets[picture];
      if (!asset || this.overlays.has(asset.id)) continue;
      const bytes = await readFile(this.blob(asset.hash));
      this.overlays.set(asset.id, `data:image/png;base64,${bytes.toString('base64')}`);
    }
  }

  private blob = (hash: string): string => blobPath(this.job.blobs, hash);
}

/** Puts something last of what is kept, and lets go of what is oldest. */
function keep<T>(all: Map<string, T>, key: string, value: T, most: number): void {
  all.delete(key);
  all.set(key, value);
  if (all.size > most) all.delete(all.keys().next().value!);
}
