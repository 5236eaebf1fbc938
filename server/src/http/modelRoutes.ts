import { Router } from 'express';
import { UserProblem } from '@zippy/core/document';
import { MODELS } from '@zippy/core/wire';
import type { Services } from '../services';
import { serve, serveItself } from './serve';

/** Models: bringing them in, making them again, telling them apart. */
export function modelRoutes({ imports }: Services): Router {
  const router = Router();
  serve(router, MODELS.startImport, ({ body: { files } }) => imports.start(files));
  serve(router, MODELS.showImport, ({ parameters: { id } }) => imports.show(id));
  serve(router, MODELS.stopImport, ({ parameters: { id } }) => imports.stop(id));
  serveItself(router, MODELS.portrait, async ({ parameters: { id }, query: { up, front }, response }) => {
    const picture = await imports.portray(id, up, front);
    response.set('Cache-Control', 'no-store').type('png').send(Buffer.from(picture));
  });
  serve(router, MODELS.acceptImport, ({ parameters: { id }, body: { recipe } }) => imports.accept(id, recipe));
  serve(router, MODELS.rebuild, ({ body: { source, companions, recipe, meshes } }) =>
    imports.rebuild(source, companions, recipe, meshes),
  );
  serve(router, MODELS.compare, ({ body: { before, after } }) => imports.compare(before, after));
  serveItself(router, MODELS.mesh, async ({ parameters: { hash, mesh }, response }) => {
    const [, number] = /^(\d{1,6})\.png$/.exec(mesh) ?? [];
    if (number === undefined) throw new UserProblem('not-found', 'There is no such picture.', 404);
    const picture = await imports.drawMesh(hash, Number(number));
    response.set('Cache-Control', 'public, max-age=31536000, immutable').type('png').send(Buffer.from(picture));
  });
  return router;
}
