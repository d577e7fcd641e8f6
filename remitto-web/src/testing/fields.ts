import type { Field } from '../api/types';

/** A field of a destination, a text that may be written unless something else is said. */
export function field(name: string, changes: Partial<Field> = {}): Field {
  return {
    name,
    title: name,
    kind: 'TEXT',
    required: false,
    unique: false,
    readOnly: false,
    writable: true,
    custom: false,
    choices: [],
    theirs: [],
    ...changes,
  };
}
