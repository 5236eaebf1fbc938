import * as z from 'zod';
import { route } from './route';

const serverStateSchema = z.object({
  /** Films can be encoded on this machine. */
  encoder: z.boolean(),
  /** Threads that trace. */
  workers: z.number().int(),
  /** What takes the noise out of pictures and films: a learned filter with our own, or our own alone. */
  filter: z.enum(['learned', 'own']),
  /** Frames can be written into a folder of the server's own machine. */
  delivers: z.boolean(),
});
export type ServerState = z.infer<typeof serverStateSchema>;

export const SERVER = {
  state: route('get', '/api/state', { answer: serverStateSchema }),
  events: route('get', '/api/events'),
};
