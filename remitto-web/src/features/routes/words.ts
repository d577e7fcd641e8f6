import type { FieldRule, Shaper } from '../../api/types';

export const WRITTEN: Record<FieldRule['written'], string> = {
  ALWAYS: 'always',
  WHEN_CREATING: 'when creating',
  ONLY_IF_EMPTY_THERE: 'only if empty there',
  NEVER: 'never',
};
export const IF_EMPTY: Record<FieldRule['ifEmpty'], string> = {
  LEAVE: 'leave as it is',
  CLEAR: 'clear',
  DEFAULT: 'use',
  HOLD_RECORD: 'hold the record',
};
export const IF_UNUSABLE: Record<FieldRule['ifUnusable'], string> = {
  HOLD_VALUE: 'hold the value',
  HOLD_RECORD: 'hold the record',
  LEAVE: 'leave as it is',
};
export const ON_DRIFT: Record<FieldRule['onDrift'], string> = {
  OVERWRITE: 'overwrite',
  KEEP_THEIRS: 'keep theirs',
  HOLD_VALUE: 'hold the value',
};

export function shaperName(shaper: Shaper): string {
  switch (shaper.kind) {
    case 'trim':
      return 'trim';
    case 'lower':
      return 'lower case';
    case 'e164':
      return `E.164, ${shaper.countryColumn ? `country in ${shaper.countryColumn}` : shaper.country}`;
    case 'date':
      return `date${shaper.pattern ? ` ${shaper.pattern}` : ''}`;
    case 'sha256':
      return 'SHA-256';
    default: {
      const never: never = shaper;
      return never;
    }
  }
}

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
