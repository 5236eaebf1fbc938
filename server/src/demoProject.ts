import { createReadStream, existsSync } from 'node:fs';
import { copyFile, readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Services } from './services';

/** Puts the demo project into an empty data folder, with its models, surroundings and finished film. */
export async function addDemoProject(services: Services, made: string, folder: string): Promise<void> {
  if ((await services.projects.list()).length > 0) return;
  for (const name of await readdir(made)) {
    if (/\.(glb|exr|step)$/.test(name)) await services.blobs.store(createReadStream(join(made, name)));
  }
  const document = await readFile(join(made, 'project.json'), 'utf8');
  const { id } = await services.projects.create('Ferrow R2 launch', document, 'demo');
  const film = join(made, 'ferrow-r2-film.mp4');
  if (existsSync(film)) {
    const row = await services.films.addFinished(id, 'Ferrow R2 launch', film);
    await copyFile(film, join(folder, 'films', `${row.id}.mp4`));
  }
}
