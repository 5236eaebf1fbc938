import { Router } from 'express';
import { KEPT } from '@zippy/core/wire';
import type { Services } from '../services';
import { serve } from './serve';

/** The user's own shelf. */
export function keptRoutes({ kept, reserve }: Services): Router {
  const router = Router();
  serve(router, KEPT.list, () => kept.list());
  serve(router, KEPT.keep, ({ body: { name, folder, document } }) => kept.keep(name, folder, document));
  serve(router, KEPT.change, ({ parameters: { id }, body: { name, folder } }) => kept.change(id, name, folder));
  serve(router, KEPT.remove, ({ parameters: { id } }) => reserve.spend(() => kept.remove(id)));
  return router;
}
