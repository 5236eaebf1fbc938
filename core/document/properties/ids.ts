import { nanoid } from 'nanoid';
import * as z from 'zod';
import { LIMITS } from './limits';

/** What tells an entity from all others of its project. */
export const idSchema = z.string().regex(/^[A-Za-z0-9_-]{1,40}$/);

/** What people call something. */
export const nameSchema = z.string().min(1).max(LIMITS.nameLength);

/** Slash-separated way from the document's root to a property, such as `lights/KEY/power`. */
export const pathSchema = z.string().regex(/^[A-Za-z0-9_-]+(\/[A-Za-z0-9_-]+){1,5}$/);

/** A new id, unique over all documents. */
export const newId = (): string => nanoid(12);
