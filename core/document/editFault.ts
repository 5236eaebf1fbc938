import * as z from 'zod';
import type { DocumentPatch } from './edits';
import { referenceFault } from './references';
import { documentSchema, type ProjectDocument } from './schema';

/**
 * Why an edit that leads to a document would be refused, as a sentence, or null. Looks only at what its patches touch, so that it costs
 * little while something is dragged.
 */
export function editFault(document: ProjectDocument, patches: readonly DocumentPatch[]): string | null {
  for (const patch of patches) {
    const touched = touchedBy(document, patch);
    const issue = touched && touched.schema.safeParse(touched.value).error?.issues[0];
    if (issue) return `${issue.message}.`;
  }
  return patches.some(changesReferences) ? referenceFault(document) : null;
}

/** The innermost value on a patch's way that tells whether the patch is right, with its schema; null where nothing can be wrong. */
function touchedBy(
  document: ProjectDocument,
  { op, path }: DocumentPatch,
): { schema: z.ZodType; value: unknown } | null {
  let schema: z.ZodType = documentSchema;
  let value: unknown = document;
  for (const [k, step] of path.entries()) {
    const holder = bare(schema);
    // An entity that is gone leaves nothing that could be wrong in its collection.
    if (op === 'remove' && k === path.length - 1 && holder instanceof z.ZodRecord) return null;
    const inner = within(holder, step);
    const next = (value as Record<string | number, unknown> | null)?.[step];
    if (!inner || next === undefined) break;
    schema = inner;
    value = next;
  }
  return { schema, value };
}

const bare = (schema: z.ZodType): z.ZodType =>
  schema instanceof z.ZodNullable || schema instanceof z.ZodOptional ? bare(schema.unwrap() as z.ZodType) : schema;

/** Schema of one part of a value; null where the value can only be judged as a whole. */
function within(schema: z.ZodType, step: string | number): z.ZodType | null {
  if (schema instanceof z.ZodArray) return typeof step === 'number' ? (schema.element as z.ZodType) : null;
  if ((schema.def.checks?.length ?? 0) > 0) return null;
  if (schema instanceof z.ZodObject) return (schema.shape as Record<string, z.ZodType>)[step] ?? null;
  return schema instanceof z.ZodRecord ? (schema.valueType as z.ZodType) : null;
}

const changesReferences = ({ path: [collection, , property] }: DocumentPatch): boolean =>
  ['nodes', 'lights', 'cameras'].includes(String(collection)) && (property === undefined || property === 'parent');
