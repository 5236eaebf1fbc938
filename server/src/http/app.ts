import compression from 'compression';
import express, { Router, type Express } from 'express';
import helmet from 'helmet';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { UserProblem } from '@zippy/core/document';
import { FILES, SERVER } from '@zippy/core/wire';
import type { Services } from '../services';
import { fileRoutes } from './fileRoutes';
import { filmRoutes } from './filmRoutes';
import { finishRoutes } from './finishRoutes';
import { footageRoutes } from './footageRoutes';
import { keptRoutes } from './keptRoutes';
import { packageRoutes } from './packageRoutes';
import { overFilmRoutes } from './overFilmRoutes';
import { modelRoutes } from './modelRoutes';
import { hostOf, isOwnHost } from './ownHost';
import { answerProblems } from './problems';
import { projectRoutes } from './projectRoutes';
import { serve } from './serve';
import { takeRoutes } from './takeRoutes';
import { hasLearnedFilter } from '../workers/learnedFilter';

/**
 * All routes of the server, and the page where it has been built.
 * @param hosts names and addresses it may be called by besides those of this machine itself
 */
export function createApp(services: Services, page: string | null, hosts: readonly string[] = []): Express {
  const { films, blobs, events } = services;
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

  app.post(FILES.store.path, async (request, response) => void response.json(await blobs.store(request)));
  app.get('/api/blobs/:hash', (request, response) => {
    response.set('Cache-Control', 'public, max-age=31536000, immutable').type('application/octet-stream');
    response.sendFile(blobs.path(request.params.hash), { dotfiles: 'allow' });
  });

  // Before bodies are read as JSON: this one is a file.
  app.use(packageRoutes(services));
  app.use('/api', express.json({ limit: '32mb' }));
  app.get(SERVER.events.path, events.connect);
  const state = Router();
  const filter = hasLearnedFilter() ? ('learned' as const) : ('own' as const);
  serve(state, SERVER.state, () => ({
    encoder: films.encoder !== null,
    workers: services.workers,
    filter,
    delivers: services.stills.folder !== null,
  }));
  app.use(
    state,
    projectRoutes(services),
    modelRoutes(services),
    fileRoutes(services),
    finishRoutes(services),
    footageRoutes(services),
    takeRoutes(services),
    filmRoutes(services),
    overFilmRoutes(services),
    keptRoutes(services),
  );

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
