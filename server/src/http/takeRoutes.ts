import { Router } from 'express';
import { lookSchema, UserProblem, type Look } from '@zippy/core/document';
import { TAKES } from '@zippy/core/wire';
import type { Services } from '../services';
import { serve, serveItself } from './serve';

function readLook(text: string | undefined): Look {
  try {
    return lookSchema.parse(JSON.parse(text!));
  } catch {
    throw new UserProblem('request-invalid', 'The request says no look to develop the frame with.', 422);
  }
}

/** Takes and their frames. */
export function takeRoutes({ takes, blobs, pictures, reserve }: Services): Router {
  const router = Router();
  serve(router, TAKES.list, ({ parameters: { id } }) => takes.list(id));
  serve(router, TAKES.create, ({ parameters: { id }, body: { shot, first, last, settings, scene, colourway } }) =>
    takes.create(id, shot, first, last, settings, scene, colourway),
  );
  serve(router, TAKES.predict, ({ parameters: { id }, body: { shot, first, last, settings, others } }) =>
    takes.predict(id, shot, first, last, settings, others),
  );
  serve(router, TAKES.show, ({ parameters: { id } }) => takes.show(id));
  serve(router, TAKES.stop, ({ parameters: { id } }) => takes.stop(id));
  serve(router, TAKES.resume, ({ parameters: { id } }) => takes.continue(id));
  serve(router, TAKES.remove, ({ parameters: { id } }) => reserve.spend(() => takes.remove(id)));
  serve(router, TAKES.lights, ({ parameters: { id } }) => takes.lights(id));
  serveItself(router, TAKES.frame, async ({ parameters: { id, frame }, query, response }) => {
    const [, digits, format] = /^(\d{1,6})\.(png|webp|exr)$/.exec(frame) ?? [];
    if (!digits) throw new UserProblem('not-found', 'There is no such frame.', 404);
    const { final, ...beside } = await takes.frameBesides(id, Number(digits));
    if (format === 'exr') {
      response.type('image/x-exr').sendFile(beside.path, { dotfiles: 'allow' });
      return;
    }
    const look = readLook(query.look);
    const abandoned = new AbortController();
    response.on('close', () => abandoned.abort());
    const lookup = await blobs.lookupPath(look);
    const shown = { frame: Number(digits), format: format as 'png' | 'webp', width: query.width ?? null };
    const develop = pictures.develop({ ...beside, look, lookup, ...shown }, abandoned.signal);
    const picture = await develop.catch(async (error: unknown) => {
      if (!(error instanceof UserProblem) || error.code !== 'exr-broken') throw error;
      await takes.frameBroken(id, Number(digits));
      throw error;
    });
    response
      .set('Cache-Control', final ? 'private, max-age=86400' : 'no-store')
      .type(format!)
      .send(Buffer.from(picture));
  });
  return router;
}
