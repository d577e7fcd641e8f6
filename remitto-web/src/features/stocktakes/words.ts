import type { FindingKind } from '../../api/types';

type Action = 'ADOPT' | 'OVERWRITE' | 'FORGET' | 'LEAVE';

export const KINDS: Record<FindingKind, { word: string; means: string; none: string }> = {
  EDITED: {
    word: 'edited in the destination',
    means: 'A field that a route wrote now has another value.',
    none: 'every value is as it was written.',
  },
  DELETED: {
    word: 'deleted in the destination',
    means: 'A record known to a route is no longer in the destination.',
    none: 'every record known to a route is in the destination.',
  },
  STRAY: {
    word: 'strays',
    means: 'A record in the destination that no route knows.',
    none: 'every record in the destination is known to a route.',
  },
  DOUBLE: {
    word: 'doubles',
    means: 'Several records in the destination share this value.',
    none: 'no two records share a value that should be unique.',
  },
};

export const ACTIONS: Record<FindingKind, { action: Action; text: string }[]> = {
  EDITED: [
    { action: 'ADOPT', text: "Keep the destination's value" },
    { action: 'OVERWRITE', text: 'Overwrite' },
    { action: 'LEAVE', text: 'Ignore' },
  ],
  DELETED: [
    { action: 'FORGET', text: 'Forget, so it can be added again' },
    { action: 'LEAVE', text: 'Ignore' },
  ],
  STRAY: [{ action: 'LEAVE', text: 'Ignore' }],
  DOUBLE: [{ action: 'LEAVE', text: 'Ignore' }],
};
