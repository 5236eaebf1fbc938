import { hexFromLinear } from '@zippy/core/optics';
import { placeIn, type FilmPicture, type Mask, type Size } from '@zippy/core/reel';

/** What pictures a clip shows on a frame, each with its part; null where one has not come yet. */
export type ClipPictures = (shown: FilmPicture['shown'][number]) => { picture: ImageBitmap; share: number }[] | null;

/**
 * Paints a frame of the film in the colours that a page shows, as the film's file has it.
 * @param scale pixels of the canvas in one of the film
 * @returns whether all that it is made of was there
 */
export function paintFilm(
  canvas: HTMLCanvasElement | OffscreenCanvas,
  made: FilmPicture,
  film: Size,
  scale: number,
  pictures: ClipPictures,
): boolean {
  const context = canvas.getContext('2d') as CanvasRenderingContext2D;
  const parts = made.shown.map((shown) => ({ shown, pictures: pictures(shown) }));
  if (parts.some(({ pictures: each }) => each === null)) return false;
  context.globalCompositeOperation = 'source-over';
  context.globalAlpha = 1;
  context.clearRect(0, 0, canvas.width, canvas.height);
  for (const [k, { shown, pictures: each }] of parts.entries()) {
    if (k === 0) paintClip(context, shown, each!, film, scale);
    else {
      const above = new OffscreenCanvas(canvas.width, canvas.height);
      const over = above.getContext('2d')!;
      paintClip(over, shown, each!, film, scale);
      context.globalAlpha = maskWith(over, made.mask, scale);
      context.drawImage(above, 0, 0);
      context.globalAlpha = 1;
    }
  }
  if (made.veil) {
    context.globalAlpha = made.veil.share;
    context.fillStyle = hexFromLinear(made.veil.color);
    context.fillRect(0, 0, canvas.width, canvas.height);
    context.globalAlpha = 1;
  }
  return true;
}

type Context = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

function paintClip(
  context: Context,
  { laid }: FilmPicture['shown'][number],
  pictures: { picture: ImageBitmap; share: number }[],
  film: Size,
  scale: number,
): void {
  const { width, height } = context.canvas;
  context.globalAlpha = 1;
  context.fillStyle = hexFromLinear(laid.clip.ground);
  context.fillRect(0, 0, width, height);
  let seen = 0;
  for (const { picture, share } of pictures) {
    seen += share;
    // Each is laid over the mixture of those before it.
    context.globalAlpha = share / seen;
    const place = placeIn(laid.source.size ?? picture, film, laid.clip);
    context.drawImage(picture, place.x * scale, place.y * scale, place.width * scale, place.height * scale);
  }
  context.globalAlpha = 1;
}

/** Leaves of a picture what a mask lets be seen. @returns how much of it is seen on the whole */
function maskWith(context: Context, mask: Mask | null, scale: number): number {
  if (!mask) return 1;
  if (mask.kind === 'even') return mask.share;
  const [from, to] = [mask.from, mask.to].map(([x, y]) => [x * scale, y * scale]) as [number[], number[]];
  const edge = context.createLinearGradient(from[0]!, from[1]!, to[0]!, to[1]!);
  edge.addColorStop(0, '#000');
  edge.addColorStop(1, '#0000');
  context.globalCompositeOperation = 'destination-in';
  context.fillStyle = edge;
  context.fillRect(0, 0, context.canvas.width, context.canvas.height);
  context.globalCompositeOperation = 'source-over';
  return 1;
}
