import { describe, expect, it } from 'vitest';
import { encodingSchema, planAnswerSchema, readerAnswerSchema, traceAnswerSchema } from './index';

describe('what threads tell', () => {
  it('is taken as it is meant', () => {
    expect(traceAnswerSchema.parse({ id: 3, stopped: true })).toEqual({ id: 3, stopped: true });
    expect(planAnswerSchema.parse({ names: ['a', 'b'] })).toEqual({ names: ['a', 'b'] });
    expect(encodingSchema.parse({ encoded: 7 })).toEqual({ encoded: 7 });
    const drawn = { job: 'a', drawn: Uint8Array.from([1, 2]), spent: false };
    expect(readerAnswerSchema.parse(drawn)).toEqual(drawn);
  });

  it('is refused where it is something else', () => {
    for (const wrong of [null, 'done', { failure: 'without a number' }, { id: 1, probe: { errors: 'many' } }])
      expect(traceAnswerSchema.safeParse(wrong).success).toBe(false);
    for (const wrong of [{}, { names: [1] }, { end: false }])
      expect(planAnswerSchema.safeParse(wrong).success).toBe(false);
    for (const wrong of [{ drawn: [1] }, { job: 'a', drawn: [1] }, { job: 'a', summary: 'none' }])
      expect(readerAnswerSchema.safeParse(wrong).success).toBe(false);
    expect(encodingSchema.safeParse({ encoded: 1.5 }).success).toBe(false);
  });
});
