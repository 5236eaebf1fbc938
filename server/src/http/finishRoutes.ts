import { Router } from 'express';
import { FINISHES } from '@zippy/core/wire';
import type { Services } from '../services';
import { attachment } from './attachment';
import { serve, serveItself } from './serve';

/** Finishes that come and go as open files. */
export function finishRoutes({ projects, imports }: Services): Router {
  const router = Router();
  serve(router, FINISHES.read, ({ body: { files } }) => imports.readFinishes(files));
  serveItself(router, FINISHES.file, async ({ parameters: { id, finish }, query, response }) => {
    const { text, part } = await projects.withPart(id, ['assets', 'finishes']);
    const bytes = await imports.packFinish(text, part, finish, query.as);
    const name = part.finishes[finish]?.name ?? 'Finish';
    response
      .type(query.as === 'gltf' ? 'model/gltf-binary' : 'application/zip')
      .set('Content-Disposition', attachment(query.as === 'gltf' ? `${name}.glb` : `${name}.zip`))
      .send(Buffer.from(bytes));
  });
  return router;
}
