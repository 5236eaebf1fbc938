import { describe, expect, it } from 'vitest';
import { newDocument, newLight, newNode } from '@zippy/core/document';
import { saySeamFault } from './seam-words';

const document = newDocument('Words');
document.nodes = { knob: newNode({ id: 'knob', name: 'Knob' }) };
document.lights = { key: newLight('panel', { id: 'key', name: 'Key' }) };
const fault = { path: 'nodes/knob', of: 'place' as const, jump: 0, before: 0, after: 0, twice: false };

describe('what does not loop', () => {
  it.each([
    [{ ...fault, jump: 12.3456 }, 'Knob jumps by 12.3 mm from the last frame to the first'],
    [
      { ...fault, path: 'lights/key', of: 'aim' as const, jump: 4 },
      'The aim of Key jumps by 4 mm from the last frame to the first',
    ],
    [{ ...fault, of: 'turn' as const, jump: Math.PI / 2 }, 'Knob jumps by 90° from the last frame to the first'],
    [
      { ...fault, of: 'turn' as const, after: Math.PI / 90 },
      'Knob changes its pace where it loops: 0° a frame before, 2° after',
    ],
    [
      { ...fault, path: 'lights/key/coneAngle', of: 'value' as const, jump: 0.5 },
      'Cone angle of Key jumps by 0.5 from the last frame to the first',
    ],
    [
      { ...fault, path: 'lights/key/power', of: 'value' as const, twice: true },
      'Power of Key is back on the last frame already: a loop shows it twice. Let it arrive one frame later',
    ],
  ])('is said: %o', (given, text) => {
    expect(saySeamFault(document, given)).toBe(text);
  });
});
