import { z } from 'zod';

const unit = z.number().min(0).max(1);
const finite = z.number().min(-1e9).max(1e9);

/** How something travels from one value to the next over its time. */
export const paceSchema = z.union([
  z.enum(['linear', 'ease', 'ease-in', 'ease-out', 'held']),
  /** Cubic Bézier handles (x1, y1, x2, y2) of a curve from (0, 0) to (1, 1). */
  z.object({ curve: z.tuple([unit, finite, unit, finite]) }),
]);

export type Pace = z.infer<typeof paceSchema>;
