import { expect, it } from 'vitest';
import { nicknamesOf, nicknamesText } from './nicknames';

it('reads a line each and passes over what is not finished', () => {
  const pairs = nicknamesOf('Bea, Beatrix\n\nKalle\nPelle ,Per\nUlla,');
  expect(pairs).toEqual([
    { nickname: 'Bea', name: 'Beatrix' },
    { nickname: 'Pelle', name: 'Per' },
  ]);
  expect(nicknamesOf(nicknamesText(pairs))).toEqual(pairs);
});
