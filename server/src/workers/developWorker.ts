// Develops one kept frame into a picture, or into files that leave.
import { readFile } from 'node:fs/promises';
import { inflateSync, deflateSync } from 'node:zlib';
import sharp from 'sharp';
import {
  Darkroom,
  decodeFrame,
  fillOpen,
  forDisplay,
  keptLayers,
  leavingExr,
  PRODUCT_ALONE,
  probeLayers,
  showLayer,
  showMatte,
  stillFormat,
  tagPng,
  tagTiff,
  toBytes,
  toWords,
  type Display,
  type LayerPicture,
  type LinearFrame,
  type Matte,
  type Probed,
  type StillFormatName,
} from '@zippy/core/develop';
import { defaultLook, UserProblem, type Look } from '@zippy/core/document';
import { linearFromHex } from '@zippy/core/optics';
import { filmedFrame } from '../films/filmedFrame';
import type { Answer } from './answering';
import { learnedFilter } from './learnedFilter';
import { compileKernel } from './compileKernel';
import { readLookup } from './readLookup';

const deflate = { pack: (bytes: Uint8Array) => deflateSync(bytes), unpack: (bytes: Uint8Array) => inflateSync(bytes) };

const darkroom = await Darkroom.open(await compileKernel());

export interface DevelopRequest {
  path: string;
  /** It is a picture of what was filmed, and no frame of a take. */
  filmed?: boolean;
  /** Frames of the same take beside it; null where there is none, or the same picture. */
  before: string | null;
  after: string | null;
  look: Look;
  /** Path of the look's look-up table. */
  lookup: string | null;
  /** Number of the frame. */
  frame: number;
  format: StillFormatName;
  /** Longest width of a small picture; null keeps the size. */
  width: number | null;
  /** What is looked at instead of the picture. */
  layer: string | null;
  matte: Matte | null;
  /** `#rrggbb` that fills what is open; null leaves it open where the format can. */
  ground: string | null;
  /** What the picture is to be shown on. */
  display: Display;
  /** What the file says of its size on paper; null where it says nothing of itself. */
  dotsPerInch: number | null;
}

/** A frame developed. */
export interface Developed {
  /** One file, or one for each layer. */
  files: { layer: string; bytes: Uint8Array }[];
  /** What black and white stand for in a layer that is a measure. */
  range: LayerPicture['range'];
}

/** Width of a picture in pixels from which on the learned filter is used. */
const LEARNED_FROM = 400;
/** Fills what is open in formats that leave nothing open. */
const PAPER = '#ffffff';

interface Print {
  width: number;
  height: number;
  pixels: Float32Array;
  range: LayerPicture['range'];
}

const read = async (path: string, { lights }: Look, alone: boolean): Promise<LinearFrame> =>
  decodeFrame(new Uint8Array(await readFile(path)), deflate, lights, alone);

/** The frame with its neighbours, and what the learned filter makes of it. */
async function opened({ path, before, after, look, width, filmed, layer }: DevelopRequest) {
  const alone = layer === PRODUCT_ALONE;
  const frame = filmed ? await filmedFrame(path) : await read(path, look, alone);
  const steady = look.denoise > 0;
  const neighbours = {
    before: steady && before ? await read(before, look, alone) : null,
    after: steady && after ? await read(after, look, alone) : null,
  };
  // Small pictures show no noise that would be worth its time.
  if (steady && frame.guides && (width === null || width >= LEARNED_FROM))
    frame.learned = await (await learnedFilter(1))?.filter(frame, frame.guides);
  return { frame, neighbours };
}

async function print(request: DevelopRequest): Promise<Print> {
  const { path, look, lookup, layer, matte } = request;
  const missing = () =>
    new UserProblem('layer-missing', 'This take does not keep that layer. Choose it before the next one.', 404);
  if (matte !== null || (layer !== null && layer !== PRODUCT_ALONE)) {
    const bytes = new Uint8Array(await readFile(path));
    const shown = matte ? showMatte(bytes, matte, look, deflate) : showLayer(bytes, layer!, look, deflate);
    if (!shown) throw missing();
    return shown;
  }
  if (layer !== null && !keptLayers(new Uint8Array(await readFile(path))).includes(layer)) throw missing();
  const { frame, neighbours } = await opened(request);
  const besides = { neighbours, lookup: await readLookup(lookup), frame: request.frame, display: request.display };
  const { width, height } = frame;
  return { width, height, pixels: darkroom.print(frame, look, besides), range: null };
}

const PROFILES: Record<Display, 'srgb' | 'p3'> = { bt709: 'srgb', p3: 'p3' };
const profiles = new Map<Display, Promise<Uint8Array>>();
/** The profile of the colours of pictures for a display. */
function profileOf(display: Display): Promise<Uint8Array> {
  let known = profiles.get(display);
  if (!known) {
    known = sharp({ create: { width: 1, height: 1, channels: 3, background: '#000' } })
      .withIccProfile(PROFILES[display])
      .png()
      .toBuffer()
      .then(async (bytes) => new Uint8Array((await sharp(bytes).metadata()).icc!));
    profiles.set(display, known);
  }
  return known;
}

async function develop(request: DevelopRequest): Promise<Developed> {
  const { format, ground, width, dotsPerInch, display } = request;
  const { plan, alpha } = stillFormat(format);
  if (plan.by === 'exr') {
    if (request.layer !== null || request.matte !== null)
      throw new UserProblem('layer-no-exr', 'An EXR holds all layers at once. Choose another format for one alone.', 422); // prettier-ignore
    const { look, path } = request;
    const bytes = new Uint8Array(await readFile(path));
    const cleans = look.denoise > 0 || look.specks > 0 || Object.keys(look.lights).length > 0;
    const { frame, neighbours } = cleans ? await opened(request) : { frame: null, neighbours: undefined };
    const cleaned = frame && darkroom.clean(frame, look, neighbours).beauty;
    return { files: leavingExr(bytes, cleaned, plan, deflate), range: null };
  }
  // The encoders of small pictures take them to the colours of the display themselves.
  const byHand = plan.as === 'png' || plan.as === 'tiff';
  const { pixels, range, ...size } = await print({ ...request, display: byHand ? display : 'bt709' });
  const filled = ground ?? (alpha ? null : PAPER);
  if (filled !== null) {
    const [r, g, b] = forDisplay(new Float32Array([...linearFromHex(filled)!, 1]), byHand ? display : 'bt709');
    fillOpen(pixels, [r!, g!, b!]);
  }
  const coded = plan.bits === 16 ? toWords(pixels) : toBytes(pixels);
  let picture = sharp(coded, { raw: { ...size, channels: 4 } });
  if (plan.bits === 16) picture = picture.toColourspace('rgb16');
  if (width !== null && width < size.width) picture = picture.resize({ width });
  if (filled !== null) picture = picture.removeAlpha();
  const perInch = dotsPerInch;
  if (perInch === null) return { files: [{ layer: '', bytes: await picture.toFormat(plan.as, plan.options).toBuffer() }], range }; // prettier-ignore
  // PNG and TIFF are tagged by hand: the encoder would take their sixteen bits through the profile, which changes them.
  if (plan.as === 'png') {
    const bytes = await picture.png(plan.options).toBuffer();
    return {
      files: [{ layer: '', bytes: tagPng(bytes, { profile: await profileOf(display), dotsPerInch: perInch }) }],
      range,
    };
  }
  if (plan.as === 'tiff') {
    const perMillimetre = perInch / 25.4;
    const bytes = await picture.tiff({ ...plan.options, xres: perMillimetre, yres: perMillimetre, resolutionUnit: 'inch' }).toBuffer(); // prettier-ignore
    return { files: [{ layer: '', bytes: tagTiff(bytes, await profileOf(display)) }], range };
  }
  const bytes = await picture.withMetadata({ density: perInch }).withIccProfile(PROFILES[display]).toFormat(plan.as, plan.options).toBuffer(); // prettier-ignore
  return { files: [{ layer: '', bytes }], range };
}

/** A point of a kept frame that is asked about: parts of its width and height. */
export interface ProbeRequest {
  path: string;
  at: { x: number; y: number };
}

/** Answers problems, such as a damaged frame, as such. */
async function answer<R>(work: () => Promise<R>): Promise<Answer<R>> {
  try {
    return { result: await work() };
  } catch (error) {
    if (!(error instanceof UserProblem)) throw error;
    return { problem: { code: error.code, message: error.message, status: error.status } };
  }
}

export default (request: DevelopRequest | ProbeRequest): Promise<Answer<Developed | Probed>> =>
  answer(async () =>
    'at' in request
      ? probeLayers(new Uint8Array(await readFile(request.path)), request.at, defaultLook(), deflate)
      : develop(request),
  );
