import { entityName, sayNumber, type ProjectDocument } from '@zippy/core/document';
import type { SeamFault } from '@zippy/core/motion';

const DEGREE = Math.PI / 180;
const rounded = (value: number): string => sayNumber(Number(value.toPrecision(3)));

/** A sentence on what does not run evenly from a shot's last frame into its first. */
export function saySeamFault(document: ProjectDocument, { path, of, jump, before, after, twice }: SeamFault): string {
  const property = path.split('/').at(-1)!;
  const words = property.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);
  const name = entityName(document, path);
  const thing = { place: name, turn: name, aim: `The aim of ${name}`, value: `${words[0]!.toUpperCase()}${words.slice(1)} of ${name}` }[of]; // prettier-ignore
  const amount = (value: number) =>
    of === 'turn'
      ? `${rounded(value / DEGREE)}°`
      : of === 'place' || of === 'aim'
        ? `${rounded(value)} mm`
        : rounded(value);
  if (jump > 0) return `${thing} jumps by ${amount(jump)} from the last frame to the first`;
  if (twice) return `${thing} is back on the last frame already: a loop shows it twice. Let it arrive one frame later`;
  return `${thing} changes its pace where it loops: ${amount(before)} a frame before, ${amount(after)} after`;
}
