import type { FieldRule } from '../../api/types';

export const WRITTEN: Record<FieldRule['written'], string> = {
  ALWAYS: 'always',
  WHEN_CREATING: 'when creating',
  ONLY_IF_EMPTY_THERE: 'only if empty',
  IF_NEWER: 'if newer',
  DESTINATION_DECIDES: 'once, then the destination owns it',
  NEVER: 'never',
};
export const IF_EMPTY: Record<FieldRule['ifEmpty'], string> = {
  LEAVE: 'leave unchanged',
  CLEAR: 'clear',
  DEFAULT: 'use',
  HOLD_RECORD: 'hold the record',
};
export const IF_UNUSABLE: Record<FieldRule['ifUnusable'], string> = {
  HOLD_VALUE: 'hold the value',
  HOLD_RECORD: 'hold the record',
  LEAVE: 'leave unchanged',
};
export const ON_DRIFT: Record<FieldRule['onDrift'], string> = {
  OVERWRITE: 'overwrite',
  KEEP_THEIRS: "keep the destination's",
  HOLD_VALUE: 'hold the value',
};

/** A rule for a field that has none yet. */
export function freshRule(field: string, receives: FieldRule['receives']): FieldRule {
  return {
    field,
    receives,
    shapers: [],
    written: 'ALWAYS',
    ifEmpty: 'LEAVE',
    defaultText: '',
    ifUnusable: 'HOLD_VALUE',
    onDrift: 'OVERWRITE',
  };
}
