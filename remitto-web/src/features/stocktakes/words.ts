import type { FindingKind } from '../../api/types';

type Action = 'ADOPT' | 'OVERWRITE' | 'FORGET' | 'LEAVE';

export const KINDS: Record<FindingKind, { word: string; means: string; none: string }> = {
  EDITED: {
    word: 'edited there',
    means: 'A field that a route wrote holds something else now.',
    none: 'every value is as it was written.',
  },
  DELETED: {
    word: 'deleted there',
    means: 'A record that a route keeps is no longer there.',
    none: 'every record that a route keeps is there.',
  },
  STRAY: {
    word: 'strays',
    means: 'A record there that no route keeps.',
    none: 'a route keeps every record there.',
  },
  DOUBLE: {
    word: 'doubles',
    means: 'Several records there share this value.',
    none: 'no two records there share a value that should tell them apart.',
  },
};

export const ACTIONS: Record<FindingKind, { action: Action; text: string }[]> = {
  EDITED: [
    { action: 'ADOPT', text: 'Keep theirs' },
    { action: 'OVERWRITE', text: 'Overwrite' },
    { action: 'LEAVE', text: 'Leave' },
  ],
  DELETED: [
    { action: 'FORGET', text: 'Forget, so that it can be added again' },
    { action: 'LEAVE', text: 'Leave' },
  ],
  STRAY: [{ action: 'LEAVE', text: 'Leave' }],
  DOUBLE: [{ action: 'LEAVE', text: 'Leave' }],
};
