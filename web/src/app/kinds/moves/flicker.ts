import type { Asset, Move, ProjectDocument } from '@zippy/core/document';
import { choice } from '../field';
import type { MoveOf, MoveView } from './view';

const PATTERNS = { candle: 'A candle', fire: 'Fire', tube: 'A faulty tube', random: 'At random', footage: 'Footage' };

export const flicker: MoveView<MoveOf<'flicker'>> = {
  family: 'light',
  needs: 'Select a light, finish or part',
  starts: [
    {
      title: 'Flicker',
      does: 'Unsteady light: a flame, a faulty tube, or as bright as footage is',
      words: 'candle flame fire fluorescent neon unsteady video',
      drawing: 'M2 9l3-4 3 6 3-8 3 9 4-7 3 5 3-6 4 7 4-5',
    },
  ],
  fields: ({ document, at, own, write }, { pattern }) => [
    {
      ...choice(`${at}/pattern`, 'Like', PATTERNS),
      write: write((move, value, draft) => {
        if (move.kind !== 'flicker') return;
        move.pattern = value as typeof move.pattern;
        if (value === 'footage' && move.footage === null) follow(move, clipsOf(draft)[0], draft);
      }),
    },
    ...(pattern === 'footage'
      ? [
          {
            ...choice(
              `${at}/footage`,
              'Footage',
              Object.fromEntries(clipsOf(document).map(({ id, name }) => [id, name])),
            ),
            placeholder: clipsOf(document).length > 0 ? 'Choose one' : 'Bring a film first',
            still: true,
            write: write((move, value, draft) => follow(move, draft.assets[String(value)], draft)),
          },
        ]
      : []),
    own('low', 'Low'),
    own('high', 'High'),
    ...(pattern === 'footage' ? [] : [own('every', 'Changes every'), own('seed', 'Variation')]),
  ],
  says: ({ pattern }) => PATTERNS[pattern].toLowerCase(),
};

const clipsOf = ({ assets }: ProjectDocument): Asset[] => Object.values(assets).filter(({ footage }) => footage);

/** Makes a flicker as bright as footage is, at its brightest as high as it goes, and one run as long as the footage. */
function follow(move: Move, clip: Asset | undefined, { frameRate }: ProjectDocument): void {
  if (move.kind !== 'flicker' || !clip?.footage) return;
  const { brightness, rate } = clip.footage;
  const most = Math.max(1e-6, ...brightness);
  move.footage = clip.id;
  move.brightness = brightness.map((light) => light / most);
  const whole = move.length * move.repeat;
  move.length = Math.max(1, Math.round((brightness.length / rate) * (frameRate.numerator / frameRate.denominator)));
  move.repeat = Math.max(1, Math.ceil(whole / move.length));
}
