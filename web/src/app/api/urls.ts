import type { Recipe } from '@zippy/core/document';
import { addressOf, FILES, FILMS, FINISHES, type FinishForm, MODELS, PROJECTS } from '@zippy/core/wire';

/** A file by its content. */
export const blobUrl = (hash: string): string => addressOf(FILES.blob, { hash });
/** The scene of a project as a glTF file. */
export const sceneUrl = (project: string): string => addressOf(PROJECTS.scene, { id: project });
/** A finish of a project as an open file. */
export const finishUrl = (project: string, finish: string, form: FinishForm): string =>
  addressOf(FINISHES.file, { id: project, finish }, { as: form });
/** How a model that is being brought in stands with other choices. */
export const portraitUrl = (job: string, { up, front }: Pick<Recipe, 'up' | 'front'>): string =>
  addressOf(MODELS.portrait, { id: job }, { up, front: String(front) });
/** A film. @param save has the browser keep it under its name instead of showing it */
export const filmUrl = (id: string, save = false): string => addressOf(FILMS.file, { id }, save ? { save: '' } : {});
