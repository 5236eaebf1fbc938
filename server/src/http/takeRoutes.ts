import { pipeline } from 'node:stream/promises';
import { Router } from 'express';
import { UserProblem } from '@zippy/core/document';
import { LAYER_RANGE, TAKES } from '@zippy/core/wire';
import type { Services } from '../services';
import { abandonedWith, readLook } from './asked';
import { attachment } from './attachment';
import { serve, serveItself, Text } from './serve';

/** @throws UserProblem `not-found` where that is no number of a frame */
function readNumber(text: string): number {
  if (!/^\d{1,6}$/.test(text)) throw new UserProblem('not-found', 'There is no such frame.', 404);
  return Number(text);
}

/** Takes and their frames. */
export function takeRoutes({ takes, stills, reserve }: Services): Router {
  const router = Router();
  serve(router, TAKES.list, ({ parameters: { id } }) => takes.list(id));
  serve(
    router,
    TAKES.create,
    ({ parameters: { id }, body: { shot, first, last, settings, scene, colourway, anyway } }) =>
      takes.create(id, shot, first, last, settings, scene, colourway, anyway),
  );
  serve(router, TAKES.predict, ({ parameters: { id }, body: { shot, first, last, settings, others } }) =>
    takes.predict(id, shot, first, last, settings, others),
  );
  serve(router, TAKES.disk, ({ parameters: { id } }) => takes.disk(id));
  serve(router, TAKES.tidy, async () => ({ freed: await takes.tidy() }));
  serve(router, TAKES.show, ({ parameters: { id } }) => takes.show(id));
  serve(router, TAKES.document, async ({ parameters: { id } }) => new Text(await takes.documentText(id)));
  serve(router, TAKES.stop, ({ parameters: { id } }) => takes.stop(id));
  serve(router, TAKES.resume, ({ parameters: { id } }) => takes.continue(id));
  serve(router, TAKES.queue, ({ parameters: { id }, body: { before } }) => takes.queueBefore(id, before));
  serve(router, TAKES.remove, ({ parameters: { id } }) => reserve.spend(() => takes.remove(id)));
  serve(router, TAKES.layers, ({ parameters: { id } }) => takes.layers(id));
  serveItself(router, TAKES.frame, async ({ parameters: { id, frame: file }, query, response }) => {
    const [, digits, format] = /^(\d{1,6})\.(png|webp|exr)$/.exec(file) ?? [];
    if (!digits) throw new UserProblem('not-found', 'There is no such frame.', 404);
    const frame = Number(digits);
    if (format === 'exr') {
      response.type('image/x-exr').sendFile(await takes.framePath(id, frame), { dotfiles: 'allow' });
      return;
    }
    const { layer = null, matte = null, width = null } = query;
    const shown = { look: readLook(query.look), layer, matte, width };
    const { files, range, final } = await stills.show(id, frame, shown, format as 'png' | 'webp', abandonedWith(response)); // prettier-ignore
    if (range) response.set(LAYER_RANGE, `${range.low} ${range.high} ${range.unit}`);
    response
      .set('Cache-Control', final ? 'private, max-age=86400' : 'no-store')
      .type(format!)
      .send(Buffer.from(files[0]!.bytes));
  });
  serve(router, TAKES.probe, ({ parameters: { id, frame }, query }) => stills.probe(id, readNumber(frame), query));
  serveItself(router, TAKES.still, async ({ parameters: { id, frame }, query, response }) => {
    const { format, display, ground = null, layer = null, matte = null } = query;
    const leaving = { format, display, ground, layer, matte, look: readLook(query.look) };
    const { name, mediaType, bytes } = await stills.one(id, readNumber(frame), leaving, abandonedWith(response));
    response.type(mediaType).set('Content-Disposition', attachment(name)).send(Buffer.from(bytes));
  });
  serve(router, TAKES.deliver, ({ parameters: { id }, query, response }) => {
    const { format, display, ground = null, layer = null, matte = null } = query;
    const leaving = { format, display, ground, layer, matte, look: readLook(query.look) };
    return stills.deliver(id, leaving, abandonedWith(response));
  });
  serveItself(router, TAKES.stills, async ({ parameters: { id }, query, response }) => {
    const { format, display, ground = null, layer = null, matte = null } = query;
    const leaving = { format, display, ground, layer, matte, look: readLook(query.look) };
    const { name, stream } = await stills.all(id, leaving, abandonedWith(response));
    response.type('application/zip').set('Content-Disposition', attachment(name));
    // A reader that goes away, or a frame that cannot be had, ends the answer unfinished: browsers tell that as failed.
    await pipeline(stream, response).catch(() => response.destroy());
  });
  return router;
}
