import type { Look, ProjectDocument } from './schema';

/** What says which look pictures wear: that of a take comes before that of its shot, and that before the project's. */
export function lookOf(
  {
    look,
    takeLooks,
    shots,
  }: Pick<ProjectDocument, 'look' | 'takeLooks'> & { shots: Record<string, { look: Look | null }> },
  shot: string | null,
  take: string | null = null,
): Look {
  return (take !== null && takeLooks[take]) || (shot !== null && shots[shot]?.look) || look;
}
