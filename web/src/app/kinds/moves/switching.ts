import type { Move } from '@zippy/core/document';
import { choice } from '../field';
import type { MoveOf, MoveView } from './view';

const BY = { frames: 'At frames', pattern: 'By a pattern' };

export const switching: MoveView<MoveOf<'switching'>> = {
  family: 'light',
  needs: 'Select a light or part',
  starts: [
    {
      title: 'Switch',
      does: 'On and off at exactly the frames that you list',
      words: 'toggle on off show hide frames cut',
      drawing: 'M3 12h9V4h8v8h11',
    },
    {
      title: 'Pattern',
      does: 'On and off by a row of ones and noughts, again and again',
      words: 'morse strobe code rhythm sequence signal',
      drawing: 'M2 12h3V4h3v8h3V4h6v8h3V4h3v8h3V4h6',
      numbers: () => ({ by: 'pattern', pattern: '101000' }),
    },
  ],
  fields: ({ at, own, write }, { by, start, frames, pattern }) => [
    {
      ...choice(`${at}/by`, 'Switches', BY),
      still: true,
      write: write((move, value) => {
        if (move.kind === 'switching') move.by = value as 'frames' | 'pattern';
      }),
    },
    ...(by === 'frames'
      ? [
          {
            path: `${at}/frames`,
            label: 'Frames',
            kind: 'text' as const,
            still: true,
            hint: 'Such as 12, 24, 36-40: at each it changes over; a range changes over and back',
            read: () => sayFrames(frames, start),
            write: write((move, value) => takeFrames(move, String(value ?? ''))),
          },
        ]
      : [
          {
            path: `${at}/pattern`,
            label: 'Pattern',
            kind: 'text' as const,
            still: true,
            hint: '1 for switched and 0 for as it is, each for as long',
            read: () => pattern,
            write: write((move, value) => {
              const signs = String(value ?? '')
                .replace(/[^01]/g, '')
                .slice(0, 200);
              if (move.kind === 'switching' && signs !== '') move.pattern = signs;
            }),
          },
          own('every', 'Each for'),
        ]),
  ],
  says: ({ by, start, frames, pattern }) =>
    by === 'pattern' ? pattern : frames.length > 0 ? `at ${sayFrames(frames, start)}` : 'at no frame yet',
};

/** Frames of the shot, from those after a beginning. */
const sayFrames = (frames: readonly number[], start: number): string =>
  frames.map((frame) => Math.round(frame + start)).join(', ');

/** Reads frames of the shot; those before the move begins make it begin there. */
function takeFrames(move: Move, text: string): void {
  if (move.kind !== 'switching') return;
  const wanted = [...new Set((text.match(/\d+/g) ?? []).map(Number))].sort((a, b) => a - b).slice(0, 2000);
  const [first = move.start] = wanted;
  if (first < move.start) {
    move.length += move.start - first;
    move.start = first;
  }
  move.frames = wanted.map((frame) => frame - move.start);
}
