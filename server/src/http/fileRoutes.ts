import { Router } from 'express';
import { Readable } from 'node:stream';
import { FILES } from '@zippy/core/wire';
import type { Services } from '../services';
import { serve } from './serve';

/** Files that come in by themselves, looked through before they are used. */
export function fileRoutes({ imports, files, blobs }: Services): Router {
  const router = Router();
  serve(router, FILES.unpack, ({ body }) => imports.unpack(body));
  serve(router, FILES.surroundings, async ({ body: { hash, name } }) => ({
    hash,
    ...(await files.surroundings(blobs.path(hash), name)),
  }));
  serve(router, FILES.lookup, async ({ body: { hash, name } }) => {
    await files.lookup(blobs.path(hash), name);
    return { hash };
  });
  const keep = async (bytes: Uint8Array) => (await blobs.store(Readable.from([bytes]))).hash;
  serve(router, FILES.picture, async ({ body: { hash, name } }) => {
    const { png, deep, clipped, smaller } = await files.picture(blobs.path(hash), name);
    return { hash: await keep(png), deep: deep && (await keep(deep)), clipped, smaller };
  });
  return router;
}
