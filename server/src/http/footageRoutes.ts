import { Router } from 'express';
import { FOOTAGE } from '@zippy/core/wire';
import type { Services } from '../services';
import { serve } from './serve';

/** Moving pictures that are taken apart. */
export function footageRoutes({ footages }: Services): Router {
  const router = Router();
  serve(router, FOOTAGE.start, ({ body: { files, rate } }) => footages.start(files, rate));
  serve(router, FOOTAGE.show, ({ parameters: { id } }) => footages.show(id));
  serve(router, FOOTAGE.stop, ({ parameters: { id } }) => footages.stop(id));
  return router;
}
