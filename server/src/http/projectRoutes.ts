import { Router } from 'express';
import { PROJECTS } from '@zippy/core/wire';
import type { StoredProject } from '../projects/projects';
import type { Services } from '../services';
import { attachment } from './attachment';
import { serve, serveItself, Text } from './serve';

/** A project goes out as it is stored: its document is text already. */
const projectText = ({ id, revision, text }: StoredProject): Text =>
  new Text(`{"id":${JSON.stringify(id)},"revision":${revision},"document":${text}}`);

/** Projects, their edits and their versions. */
export function projectRoutes({ projects, imports, takes, films, reserve }: Services): Router {
  const router = Router();
  serve(router, PROJECTS.list, () => projects.list());
  serve(router, PROJECTS.create, async ({ body: { name, document } }) =>
    projectText(await projects.create(name, document === undefined ? undefined : JSON.stringify(document))),
  );
  serve(router, PROJECTS.open, async ({ parameters: { id } }) => projectText(await projects.stored(id)));
  serve(router, PROJECTS.remove, async ({ parameters: { id } }) => {
    await reserve.spend(() => projects.remove(id));
    await reserve.spend(() => takes.removeAllOf(id));
    await reserve.spend(() => films.removeAllOf(id));
  });
  serveItself(router, PROJECTS.scene, async ({ parameters: { id }, response }) => {
    const { text, name, part } = await projects.withPart(id, ['assets']);
    const glb = await imports.exportScene(text, part);
    response
      .type('model/gltf-binary')
      .set('Content-Disposition', attachment(`${name}.glb`))
      .send(Buffer.from(glb));
  });
  serve(router, PROJECTS.edit, async ({ parameters: { id }, body: { revision, patches, window, save } }) => ({
    revision: await projects.edit(id, revision, patches, window, save),
  }));
  serve(router, PROJECTS.versions, ({ parameters: { id } }) => projects.versions(id));
  serve(router, PROJECTS.keepVersion, ({ parameters: { id }, body }) => projects.keepVersion(id, body.name));
  serve(router, PROJECTS.restoreVersion, async ({ parameters: { id, version }, body }) =>
    projectText(await projects.restoreVersion(id, version, body.window)),
  );
  return router;
}
