import type { Finish, ProjectDocument } from '@zippy/core/document';
import { FINISH_SHELF } from '@zippy/core/shelf';
import type { Option } from '../ui/choice.component';

const SHELF = FINISH_SHELF.flatMap(({ finishes }) => finishes);
/** Before the name of a finish that is on the shelf and not in the project. */
const FROM_SHELF = 'shelf: ';
const SHELF_OPTIONS = SHELF.map(({ name }) => ({ value: `${FROM_SHELF}${name}`, label: `${name}, from the shelf` }));

/** Finishes of the project, then those of the shelf. */
export const finishOptions = ({ finishes }: ProjectDocument): Option[] => [
  ...Object.values(finishes).map(({ id, name }) => ({ value: id, label: name })),
  ...SHELF_OPTIONS,
];

/** What was chosen of them: the id of a finish of the project, or a finish of the shelf. */
export const chosenFinish = (value: string): string | Partial<Finish> =>
  SHELF.find(({ name }) => `${FROM_SHELF}${name}` === value) ?? value;
