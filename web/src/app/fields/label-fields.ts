import { choice, field, type FieldSpec } from '../kinds/field';

/** Fields of a label of a part. */
export function labelFields(node: string, label: string): FieldSpec[] {
  const at = `nodes/${node}/labels/${label}`;
  return [
    field(`${at}/visible`, 'Shown'),
    field(`${at}/width`, 'Width'),
    field(`${at}/height`, 'Height'),
    field(`${at}/opacity`, 'Opacity'),
    field(`${at}/recolored`, 'Colour of its finish'),
    field(`${at}/raised`, 'Raised'),
    choice(`${at}/wrap`, 'Lies', { flat: 'Flat', round: 'Wrapped round' }),
    field(`${at}/radius`, 'Round a radius of'),
    choice(`${at}/sides`, 'Seen on', { front: 'The side it faces', both: 'Both sides' }),
    field(`${at}/depth`, 'Reaches'),
    field(`${at}/position`, 'Middle'),
    field(`${at}/turn`, 'Turn'),
  ];
}
