import compression from 'compression';
import express, { type Express, type Request } from 'express';
import helmet from 'helmet';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { z } from 'zod';
import { LIMITS, lookSchema, patchSchema, recipeSchema, UserProblem, type DocumentPatch } from '@zippy/core/document';
import { FILM_QUALITIES } from '@zippy/core/reel';
import { renderSettingsSchema } from '@zippy/core/trace';
import type { StoredProject } from '../projects/projects';
import type { Services } from '../services';
import { hostOf, isOwnHost } from './ownHost';
import { answerProblems } from './problems';

const nameSchema = z
  .string()
  .trim()
  .min(1)
  .max(200)
  .refine((name) => name.isWellFormed(), 'it holds half of a character');
const hash = z.string().regex(/^[0-9a-f]{64}$/);
/** A stored file with the name it came under. */
const sourceSchema = z.object({ name: z.string().min(1).max(300), hash });
const filesSchema = z.array(sourceSchema).max(2000);
const param = (request: Request, name: string): string => String(request.params[name]);

const frameNumber = z.number().int().min(1).max(100_000);
/** Frames of a shot, and how they are to be rendered. */
const rangeSchema = z.object({
  shot: z.string().max(40),
  first: frameNumber,
  last: frameNumber,
  settings: renderSettingsSchema,
});

/** A project goes out as it is stored: its document is text already. */
const projectText = ({ id, revision, text }: StoredProject): string =>
  `{"id":${JSON.stringify(id)},"revision":${revision},"document":${text}}`;

/** For a header: some browsers would read a name of half a character as none. */
const attachment = (name: string): string => `attachment; filename*=UTF-8''${encodeURIComponent(name.toWellFormed())}`;

/**
 * All routes of the server, and the page where it has been built.
 * @param hosts names and addresses it may be called by besides those of this machine itself
 */
export function createApp(services: Services, page: string | null, hosts: readonly string[] = []): Express {
  const { projects, imports, takes, films, blobs, events, pictures, files, reserve } = services;
  const app = express();
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          mediaSrc: ["'self'", 'blob:'],
          workerSrc: ["'self'", 'blob:'],
          upgradeInsecureRequests: null,
        },
      },
      crossOriginOpenerPolicy: { policy: 'same-origin' },
      crossOriginEmbedderPolicy: { policy: 'require-corp' },
      strictTransportSecurity: false,
    }),
  );
  // A page of another site must not be able to make this server work: only requests from its own page carry this host.
  app.use((request, _response, next) => {
    const host = request.get('host') ?? '';
    if (!isOwnHost(host, hosts))
      throw new UserProblem(
        'foreign-host',
        'This server is not called by that name. Open it by its own address, or name the host in ZIPPY_HOST.',
        421,
      );
    const origin = request.get('origin');
    if (origin !== undefined && hostOf(origin) !== host)
      throw new UserProblem('foreign-origin', 'Requests from other sites are refused.', 403);
    next();
  });

  app.post('/api/blobs', async (request, response) => void response.json(await blobs.store(request)));
  app.get('/api/blobs/:hash', (request, response) => {
    response.set('Cache-Control', 'public, max-age=31536000, immutable').type('application/octet-stream');
    response.sendFile(blobs.path(param(request, 'hash')), { dotfiles: 'allow' });
  });

  app.use('/api', express.json({ limit: '32mb' }));
  app.get('/api/events', events.connect);
  app.get(
    '/api/state',
    (_request, response) => void response.json({ encoder: films.encoder !== null, workers: services.workers }),
  );

  app.get('/api/projects', async (_request, response) => void response.json(await projects.list()));
  app.post('/api/projects', async (request, response) => {
    const { name, document } = z.object({ name: nameSchema, document: z.unknown().optional() }).parse(request.body);
    const text = document === undefined ? undefined : JSON.stringify(document);
    response
      .status(201)
      .type('json')
      .send(projectText(await projects.create(name, text)));
  });
  app.get(
    '/api/projects/:id',
    async (request, response) =>
      void response.type('json').send(projectText(await projects.stored(param(request, 'id')))),
  );
  app.delete('/api/projects/:id', async (request, response) => {
    const id = param(request, 'id');
    await reserve.spend(() => projects.remove(id));
    await reserve.spend(() => takes.removeAllOf(id));
    await reserve.spend(() => films.removeAllOf(id));
    response.status(204).end();
  });
  app.get('/api/projects/:id/scene.glb', async (request, response) => {
    const { document } = await projects.open(param(request, 'id'));
    const glb = await imports.exportScene(document);
    response
      .type('model/gltf-binary')
      .set('Content-Disposition', attachment(`${document.name}.glb`))
      .send(Buffer.from(glb));
  });
  app.post('/api/projects/:id/edits', async (request, response) => {
    const body = z
      .object({
        revision: z.number().int(),
        patches: z.array(patchSchema).min(1).max(100_000),
        window: z.string().max(40),
      })
      .parse(request.body);
    const revision = await projects.edit(
      param(request, 'id'),
      body.revision,
      body.patches as DocumentPatch[],
      body.window,
    );
    response.json({ revision });
  });
  app.get(
    '/api/projects/:id/versions',
    async (request, response) => void response.json(await projects.versions(param(request, 'id'))),
  );
  app.post('/api/projects/:id/versions', async (request, response) => {
    const { name } = z.object({ name: nameSchema }).parse(request.body);
    response.status(201).json(await projects.keepVersion(param(request, 'id'), name));
  });
  app.post('/api/projects/:id/versions/:version/restore', async (request, response) => {
    const { window } = z.object({ window: z.string().max(40) }).parse(request.body);
    const opened = await projects.restoreVersion(param(request, 'id'), param(request, 'version'), window);
    response.type('json').send(projectText(opened));
  });

  app.post('/api/imports', (request, response) => {
    const { files } = z.object({ files: filesSchema.min(1) }).parse(request.body);
    response.status(202).json(imports.start(files));
  });
  app.get('/api/imports/:id', (request, response) => void response.json(imports.show(param(request, 'id'))));
  app.get('/api/imports/:id/portrait.png', async (request, response) => {
    const { up, front } = z
      .object({ up: recipeSchema.shape.up, front: z.coerce.number().pipe(recipeSchema.shape.front) })
      .parse(request.query);
    const picture = await imports.portray(param(request, 'id'), up, front);
    response.set('Cache-Control', 'no-store').type('png').send(Buffer.from(picture));
  });
  app.post('/api/imports/:id/accept', async (request, response) => {
    const { recipe } = z.object({ recipe: recipeSchema }).parse(request.body);
    response.json(await imports.accept(param(request, 'id'), recipe));
  });
  app.post('/api/archives', async (request, response) => {
    response.json(await imports.unpack(sourceSchema.parse(request.body)));
  });
  app.post('/api/models', async (request, response) => {
    const { source, companions, recipe, meshes } = z
      .object({
        source: sourceSchema,
        companions: filesSchema,
        recipe: recipeSchema,
        meshes: z.number().int().min(1).max(LIMITS.parts),
      })
      .parse(request.body);
    response.json(await imports.rebuild(source, companions, recipe, meshes));
  });
  app.post('/api/models/compare', async (request, response) => {
    const { before, after } = z
      .object({ before: sourceSchema.shape.hash, after: sourceSchema.shape.hash })
      .parse(request.body);
    response.json(await imports.compare(before, after));
  });
  app.get('/api/models/:hash/meshes/:mesh', async (request, response) => {
    const [, mesh] = /^(\d{1,6})\.png$/.exec(param(request, 'mesh')) ?? [];
    if (mesh === undefined) throw new UserProblem('not-found', 'There is no such picture.', 404);
    const picture = await imports.drawMesh(param(request, 'hash'), Number(mesh));
    response.set('Cache-Control', 'public, max-age=31536000, immutable').type('png').send(Buffer.from(picture));
  });
  app.delete('/api/imports/:id', async (request, response) => {
    await imports.stop(param(request, 'id'));
    response.status(204).end();
  });
  app.post('/api/surroundings', async (request, response) => {
    const body = sourceSchema.parse(request.body);
    response.json({ hash: body.hash, ...(await files.surroundings(blobs.path(body.hash), body.name)) });
  });

  app.post('/api/lookups', async (request, response) => {
    const body = sourceSchema.parse(request.body);
    await files.lookup(blobs.path(body.hash), body.name);
    response.json({ hash: body.hash });
  });
  app.post('/api/pictures', async (request, response) => {
    const body = sourceSchema.parse(request.body);
    const picture = await files.picture(blobs.path(body.hash), body.name);
    response.json(await blobs.store(Readable.from([picture])));
  });

  app.get(
    '/api/projects/:id/takes',
    async (request, response) => void response.json(await takes.list(param(request, 'id'))),
  );
  app.post('/api/projects/:id/takes', async (request, response) => {
    const { shot, first, last, settings } = rangeSchema.parse(request.body);
    response.status(201).json(await takes.create(param(request, 'id'), shot, first, last, settings));
  });
  app.post('/api/projects/:id/predictions', async (request, response) => {
    const { shot, first, last, settings } = rangeSchema.parse(request.body);
    response.json(await takes.predict(param(request, 'id'), shot, first, last, settings));
  });
  app.get('/api/takes/:id', async (request, response) => void response.json(await takes.show(param(request, 'id'))));
  app.post('/api/takes/:id/stop', async (request, response) => {
    await takes.stop(param(request, 'id'));
    response.status(204).end();
  });
  app.post('/api/takes/:id/continue', async (request, response) => {
    await takes.continue(param(request, 'id'));
    response.status(204).end();
  });
  app.delete('/api/takes/:id', async (request, response) => {
    await reserve.spend(() => takes.remove(param(request, 'id')));
    response.status(204).end();
  });
  app.get(
    '/api/takes/:id/lights',
    async (request, response) => void response.json(await takes.lights(param(request, 'id'))),
  );
  app.get('/api/takes/:id/frames/:frame', async (request, response) => {
    const [, digits, format] = /^(\d{1,6})\.(png|webp|exr)$/.exec(param(request, 'frame')) ?? [];
    if (!digits) throw new UserProblem('not-found', 'There is no such frame.', 404);
    const { final, ...beside } = await takes.frameBesides(param(request, 'id'), Number(digits));
    if (format === 'exr') return response.type('image/x-exr').sendFile(beside.path, { dotfiles: 'allow' });
    let look: unknown;
    try {
      look = JSON.parse(String(request.query['look']));
    } catch {
      throw new UserProblem('request-invalid', 'The request says no look to develop the frame with.', 422);
    }
    const width =
      request.query['width'] === undefined
        ? null
        : z.coerce.number().int().min(16).max(8192).parse(request.query['width']);
    const parsed = lookSchema.parse(look);
    const abandoned = new AbortController();
    response.on('close', () => abandoned.abort());
    const develop = pictures.develop(
      {
        ...beside,
        look: parsed,
        lookup: await blobs.lookupPath(parsed),
        frame: Number(digits),
        format: format as 'png' | 'webp',
        width,
      },
      abandoned.signal,
    );
    const picture = await develop.catch(async (error: unknown) => {
      if (!(error instanceof UserProblem) || error.code !== 'exr-broken') throw error;
      await takes.frameBroken(param(request, 'id'), Number(digits));
      throw error;
    });
    const cache = final ? 'private, max-age=86400' : 'no-store';
    return response.set('Cache-Control', cache).type(format!).send(Buffer.from(picture));
  });

  app.get(
    '/api/projects/:id/films',
    async (request, response) => void response.json(await films.list(param(request, 'id'))),
  );
  app.post('/api/projects/:id/films', async (request, response) => {
    const { format, quality } = z
      .object({ format: z.enum(['mp4', 'gif', 'png-zip']), quality: z.enum(FILM_QUALITIES).optional() })
      .parse(request.body);
    response.status(201).json(await films.create(param(request, 'id'), format, quality));
  });
  app.post('/api/films/:id/stop', async (request, response) => {
    await films.stop(param(request, 'id'));
    response.status(204).end();
  });
  app.delete('/api/films/:id', async (request, response) => {
    await reserve.spend(() => films.remove(param(request, 'id')));
    response.status(204).end();
  });
  app.get('/api/films/:id/file', async (request, response) => {
    const { path, name } = await films.file(param(request, 'id'));
    const saved = request.query['save'] !== undefined;
    response.sendFile(path, {
      dotfiles: 'allow',
      headers: saved ? { 'Content-Disposition': attachment(name) } : {},
    });
  });

  app.use('/api', () => {
    throw new UserProblem('not-found', 'There is nothing at this address.', 404);
  });
  if (page && existsSync(join(page, 'index.html'))) {
    app.use(compression());
    app.use(express.static(page, { index: false, maxAge: '1y', immutable: true }));
    app.get('/{*path}', (_request, response) => {
      response.set('Cache-Control', 'no-cache').sendFile(join(page, 'index.html'), { dotfiles: 'allow' });
    });
  }
  app.use(answerProblems);
  return app;
}
