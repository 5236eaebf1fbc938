import { Router } from 'express';
import { FILMS } from '@zippy/core/wire';
import type { Services } from '../services';
import { abandonedWith } from './asked';
import { attachment } from './attachment';
import { serve, serveItself } from './serve';

/** Films. */
export function filmRoutes({ films, reserve }: Services): Router {
  const router = Router();
  serve(router, FILMS.list, ({ parameters: { id } }) => films.list(id));
  serve(router, FILMS.create, ({ parameters: { id }, body }) => films.create(id, body));
  serve(router, FILMS.foretell, ({ parameters: { id }, body, response }) =>
    films.foretell(id, body, abandonedWith(response)),
  );
  serve(router, FILMS.stop, ({ parameters: { id } }) => films.stop(id));
  serve(router, FILMS.remove, ({ parameters: { id } }) => reserve.spend(() => films.remove(id)));
  serveItself(router, FILMS.file, async ({ parameters: { id }, query: { save }, response }) => {
    const { path, name } = await films.file(id);
    const headers = save === undefined ? {} : { 'Content-Disposition': attachment(name) };
    response.sendFile(path, { dotfiles: 'allow', headers });
  });
  return router;
}
