// One of the processes that render the shelf: told a finish by its number, it answers with its pixels.
import { FINISH_SHELF } from '@zippy/core/shelf';
import { openSampleStudio } from './studio';

const [width, height, samples] = process.argv.slice(2).map(Number) as [number, number, number];
const finishes = FINISH_SHELF.flatMap((family) => family.finishes);
const render = await openSampleStudio(width, height, samples);
process.on('message', (index: number) => {
  void render(finishes[index]!).then((pixels) => process.send!({ index, pixels }));
});
process.send!('ready');
