/// <reference lib="webworker" />
import { expose } from 'comlink';
import { fitShot, surveyShot, type FitBy, type Shapes, type Surveyed } from '@zippy/core/checks';
import type { ProjectDocument, Shot } from '@zippy/core/document';

let shapes: Shapes = new Map();

/** What the page asks of the thread that looks through shots. */
const thread = {
  /** The shapes of all meshes that are known; they stay until others come. */
  learn(known: Shapes): void {
    shapes = known;
  },
  survey(document: ProjectDocument, shot: string, aspect: number): Surveyed | null {
    return surveyShot(document, document.shots[shot]!, shapes, aspect);
  },
  fit(document: ProjectDocument, shot: string, aspect: number, by: FitBy): Shot | null {
    return fitShot(document, document.shots[shot]!, shapes, aspect, by);
  },
};

export type SurveyThread = typeof thread;

expose(thread);
