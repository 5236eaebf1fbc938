import * as z from 'zod';

/**
 * Values of foreign files as a document can keep them: numbers beyond a property's range are put to its end; what is no value
 * of the property at all is left out.
 */
export function intoRange<T extends object>(schema: z.ZodObject, values: T): T {
  const sound = Object.entries(values).flatMap(([name, value]): [string, unknown][] => {
    const kind = schema.shape[name] as z.ZodType | undefined;
    if (!kind) return [];
    if (kind.safeParse(value).success) return [[name, value]];
    const nearest = nearestValue(kind, value);
    return kind.safeParse(nearest).success ? [[name, nearest]] : [];
  });
  return Object.fromEntries(sound) as T;
}

function nearestValue(kind: z.ZodType, value: unknown): unknown {
  if (kind instanceof z.ZodNumber && typeof value === 'number') {
    return Math.min(kind.maxValue ?? Infinity, Math.max(kind.minValue ?? -Infinity, value));
  }
  if (kind instanceof z.ZodTuple && Array.isArray(value)) {
    return kind.def.items.map((item, k) => nearestValue(item as z.ZodType, value[k]));
  }
  return value;
}
