import type { Recipe } from '@zippy/core/document';
import type { Display, StillFormatName } from '@zippy/core/develop';
import type { Look } from '@zippy/core/document';
import {
  addressOf,
  FILES,
  FILMS,
  FINISHES,
  type FinishForm,
  MODELS,
  OVER_FILM,
  PROJECTS,
  TAKES,
} from '@zippy/core/wire';
import { insteadQuery, type ShownInstead } from './api';

/** A file by its content. */
export const blobUrl = (hash: string): string => addressOf(FILES.blob, { hash });
/** The scene of a project as a glTF file. */
export const sceneUrl = (project: string): string => addressOf(PROJECTS.scene, { id: project });
/** The whole of a project as one file. @param all with its frames and films */
export const packageUrl = (project: string, all: boolean): string =>
  addressOf(PROJECTS.pack, { id: project }, all ? { frames: '', films: '' } : {});
/** A small picture of a project; there is none before its first take. */
export const projectPictureUrl = (project: string): string => addressOf(PROJECTS.picture, { id: project });
/** A finish of a project as an open file. */
export const finishUrl = (project: string, finish: string, form: FinishForm): string =>
  addressOf(FINISHES.file, { id: project, finish }, { as: form });
/** How a model that is being brought in stands with other choices. */
export const portraitUrl = (job: string, { up, front }: Pick<Recipe, 'up' | 'front'>): string =>
  addressOf(MODELS.portrait, { id: job }, { up, front: String(front) });
/** A film. @param save has the browser keep it under its name instead of showing it */
export const filmUrl = (id: string, save = false): string => addressOf(FILMS.file, { id }, save ? { save: '' } : {});

/** A picture of what was filmed. @param look null shows it as it is */
export const filmedUrl = (hash: string, look: Look | null, width?: number): string =>
  addressOf(
    OVER_FILM.filmed,
    { hash },
    { ...(look && { look: JSON.stringify(look) }), ...(width && { width: String(width) }) },
  );

/** How frames leave. */
export interface Leaving {
  format: StillFormatName;
  look: Look;
  /** `#rrggbb` that fills what is open; null leaves it open where the format can. */
  ground: string | null;
  display: Display;
  /** What leaves instead of the picture. */
  instead: ShownInstead;
}
export const leavingQuery = ({ format, look, ground, display, instead }: Leaving): Record<string, string> => ({
  format,
  look: JSON.stringify(look),
  ...(ground === null ? {} : { ground }),
  ...(display === 'bt709' ? {} : { display }),
  ...insteadQuery(instead),
});
/** One frame of a take as a file. */
export const stillUrl = (take: string, frame: number, leaving: Leaving): string =>
  addressOf(TAKES.still, { id: take, frame: String(frame) }, leavingQuery(leaving));
/** All frames of a take that are there, packed. */
export const stillsUrl = (take: string, leaving: Leaving): string =>
  addressOf(TAKES.stills, { id: take }, leavingQuery(leaving));
