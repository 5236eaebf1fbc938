import { Router } from 'express';
import { OVER_FILM } from '@zippy/core/wire';
import { readSound } from '../reel/sounds';
import type { Services } from '../services';
import { abandonedWith, readLook } from './asked';
import { serve, serveItself } from './serve';

/** Titles, sounds and what was filmed. */
export function overFilmRoutes({ films, files, blobs, stills }: Services): Router {
  const router = Router();
  serve(router, OVER_FILM.outline, ({ body: { words, font } }) =>
    files.outline(words, typeof font === 'string' ? { font } : { path: blobs.path(font.hash), name: font.name }),
  );
  serve(router, OVER_FILM.font, ({ body: { hash, name } }) => files.font(blobs.path(hash), name));
  serve(router, OVER_FILM.sound, ({ body }) => readSound(blobs, blobs.folder, films.encoder, body));
  serveItself(router, OVER_FILM.filmed, async ({ parameters: { hash }, query: { look, width = null }, response }) => {
    const bytes = await stills.filmed(
      blobs.path(hash),
      look === undefined ? null : readLook(look),
      width,
      abandonedWith(response),
    );
    response.set('Cache-Control', 'private, max-age=86400').type('webp').send(Buffer.from(bytes));
  });
  return router;
}
