import * as z from 'zod';
import { FILM_FORMAT_NAMES, FILM_QUALITIES, filmFormat } from './formats';
import type { Size } from './compose/place';

const side = z.number().int().min(16).max(8192);

/** How a film is handed over. */
export const deliverySchema = z.object({
  format: z.enum(FILM_FORMAT_NAMES),
  quality: z.enum(FILM_QUALITIES).default('good'),
  /** Null is the film's own size. */
  size: z.object({ width: side, height: side }).nullable().default(null),
  /** Of a film of another shape: whole with ground beside it, or filled about the point of each clip that counts. */
  shape: z.enum(['whole', 'fill']).default('whole'),
  /** Of so many frames one is kept, at a rate that is so much lower. */
  every: z.number().int().min(1).max(60).default(1),
  /** Of a palette. */
  colors: z.number().int().min(2).max(256).default(256),
  /** What is open behind the product stays open, where the format can. */
  open: z.boolean().default(false),
  /** Frame of a poster, from 1. */
  frame: z.number().int().min(1).default(1),
  /** Pictures of one row of a spin viewer. */
  pictures: z.number().int().min(4).max(360).default(36),
});
export type Delivery = z.infer<typeof deliverySchema>;

/** The film's own size, or that which was asked for; made even where an encoder halves its colours. */
export const deliveredSize = ({ size }: Pick<Delivery, 'size'>, film: Size): Size => size ?? film;

/** A use with what is delivered for it. */
export interface Use {
  id: string;
  title: string;
  says: string;
  delivery: Partial<Delivery> & Pick<Delivery, 'format'>;
}

export const USES: readonly Use[] = [
  {
    id: 'page',
    title: 'Web page',
    says: 'MP4 that plays everywhere, in the size of the film.',
    delivery: { format: 'mp4', quality: 'good' },
  },
  {
    id: 'square',
    title: 'Social, square',
    says: '1080 × 1080, filled about the point of each clip that counts.',
    delivery: { format: 'mp4', quality: 'good', size: { width: 1080, height: 1080 }, shape: 'fill' },
  },
  {
    id: 'upright',
    title: 'Social, upright',
    says: '1080 × 1920, filled about the point of each clip that counts.',
    delivery: { format: 'mp4', quality: 'good', size: { width: 1080, height: 1920 }, shape: 'fill' },
  },
  {
    id: 'broadcast',
    title: 'Broadcast',
    says: 'ProRes 422 HQ, 1920 × 1080, 10 bits.',
    delivery: { format: 'prores422hq', size: { width: 1920, height: 1080 } },
  },
  {
    id: 'compositing',
    title: 'Compositing',
    says: 'ProRes 4444, open behind the product.',
    delivery: { format: 'prores4444', open: true },
  },
  {
    id: 'mail',
    title: 'Mail',
    says: 'A GIF 480 pixels wide with half the frames.',
    delivery: { format: 'gif', every: 2, colors: 128 },
  },
  {
    id: 'spin',
    title: 'Turn it yourself',
    says: 'One page with 36 pictures of each clip.',
    delivery: { format: 'spin', quality: 'good', pictures: 36 },
  },
];

/** All of a delivery for a use, in a film of a size. */
export function deliveryFor({ id, delivery }: Use, film: Size): Delivery {
  const small = { mail: 480, spin: 960 }[id];
  const shrink = small === undefined ? 1 : Math.min(1, small / film.width);
  const even = (length: number) => Math.max(16, 2 * Math.round((length * shrink) / 2));
  const size = shrink < 1 ? { width: even(film.width), height: even(film.height) } : null;
  return deliverySchema.parse({ size, ...delivery });
}

/** Frames of the film that are delivered, from 1. */
export function deliveredFrames(
  { format, every, frame }: Pick<Delivery, 'format' | 'every' | 'frame'>,
  frames: number,
): number[] {
  if (filmFormat(format).plan.by === 'poster') return [Math.min(frame, frames)];
  return Array.from({ length: Math.ceil(frames / every) }, (_, k) => 1 + k * every);
}
