import { randomBytes } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Router } from 'express';
import { PROJECTS } from '@zippy/core/wire';
import type { Services } from '../services';
import { attachment } from './attachment';
import { serve, serveItself } from './serve';

/** Whole projects as files, and beside each other. */
export function packageRoutes({ packages, blobs, stills, takes }: Services): Router {
  const router = Router();
  serveItself(router, PROJECTS.pack, async ({ parameters: { id }, query: { frames, films }, response }) => {
    const { name, stream } = await packages.pack(id, { frames: frames !== undefined, films: films !== undefined });
    response.type('application/zip').set('Content-Disposition', attachment(`${name}.reel.zip`));
    // What cannot be read ends the answer unfinished: browsers tell that as failed.
    await pipeline(stream, response).catch(() => response.destroy());
  });
  router.post(PROJECTS.unpack.path, async (request, response) => {
    const { name } = PROJECTS.unpack.query.parse(request.query);
    const path = join(blobs.folder, 'arriving', `${randomBytes(12).toString('hex')}.package`);
    try {
      await pipeline(request, createWriteStream(path));
      response.status(201).json(await packages.unpack(path, name));
    } finally {
      await rm(path, { force: true });
    }
  });
  serve(router, PROJECTS.copy, ({ parameters: { id } }) => packages.copy(id));
  serveItself(router, PROJECTS.picture, async ({ parameters: { id }, response }) => {
    const list = (await takes.list(id)).filter(({ done }) => done.length > 0);
    const take = list.at(-1);
    if (!take) return void response.status(204).end();
    const frame = take.done[Math.floor(take.done.length / 2)]!;
    const bytes = await stills.small(id, take, frame);
    response.set('Cache-Control', 'private, max-age=60').type('webp').send(Buffer.from(bytes));
  });
  return router;
}
