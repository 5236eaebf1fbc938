import { shotsInOrder } from '../document';
import type { Check } from './check';

/** Shots that no camera takes. */
export const noCamera: Check<{ shot: string }> = (document) =>
  shotsInOrder(document).flatMap(({ id, camera }) => (camera && document.cameras[camera] ? [] : [{ shot: id }]));
