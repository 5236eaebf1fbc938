import { z } from 'zod';
import { route } from './route';

const serverStateSchema = z.object({
  /** Films can be encoded on this machine. */
  encoder: z.boolean(),
  /** Threads that trace. */
  workers: z.number().int(),
});
export type ServerState = z.infer<typeof serverStateSchema>;

export const SERVER = {
  state: route('get', '/api/state', { answer: serverStateSchema }),
  events: route('get', '/api/events'),
};
