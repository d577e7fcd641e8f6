import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { ColumnOverReads } from '../../api/types';
import { AT, show } from '../../testing/page';
import { server } from '../../testing/server';
import { ColumnProfilesCard, share } from './ColumnProfilesCard';

const column = (over: Partial<ColumnOverReads> = {}): ColumnOverReads => ({
  name: 'town',
  type: 'TEXT',
  empty: 10,
  distinct: 2,
  distinctExact: true,
  unreadable: 0,
  shortest: 4,
  longest: 6,
  commonest: [
    { text: 'Holm', rows: 20 },
    { text: 'Brevik', rows: 10 },
  ],
  commonestExact: true,
  histogram: [],
  valuesKept: true,
  emptyShares: [0, 0.25],
  ...over,
});

const read = (rows: number, broken = 0) => ({
  at: AT,
  version: 1,
  readFor: { reader: 'ROUTE' as const, name: 'Pass holders' },
  rows,
  broken,
});

async function row(one: ColumnOverReads) {
  server.on('GET', '/api/datasets/{id}/column-profiles', { reads: [read(40), read(40, 1)], columns: [one] });
  show(<ColumnProfilesCard datasetId={3} />);
  return within(await screen.findByRole('row', { name: new RegExp(`^${one.name}`) }));
}

describe('profiles of columns', () => {
  it('say how the first one comes about', async () => {
    server.on('GET', '/api/datasets/{id}/column-profiles', { reads: [], columns: [] });
    show(<ColumnProfilesCard datasetId={3} />);
    expect(await screen.findByText(/No profile yet/)).toBeVisible();
  });

  it('tell of texts how many are empty, how long they are, and which are the commonest', async () => {
    const cells = await row(column());
    expect(cells.getByRole('cell', { name: '25 %' })).toBeVisible();
    expect(cells.getByText('4 – 6 characters')).toBeVisible();
    expect(cells.getByText('Holm')).toBeVisible();
    expect(cells.getByText('50 %')).toBeVisible();
    expect(
      cells.getByRole('img', { name: /Empty share of town over the last 2 reads: 0 % empty.*25 % empty/ }),
    ).toBeVisible();
    expect(screen.getByText(/by route Pass holders/)).toBeVisible();
    expect(screen.getByRole('img', { name: /40 rows.*1 expectation not met/ })).toBeVisible();
  });

  it('tell of numbers how they are spread', async () => {
    const cells = await row(
      column({
        name: 'points',
        type: 'INTEGER',
        least: '1',
        greatest: '90',
        shortest: undefined,
        longest: undefined,
        distinct: 1_204,
        distinctExact: false,
        unreadable: 3,
        histogram: [
          { from: '1', to: '45', rows: 30 },
          { from: '45', to: '90', rows: 10 },
        ],
      }),
    );
    expect(cells.getByText('1 – 90')).toBeVisible();
    expect(cells.getByText('≈ 1,204')).toBeVisible();
    expect(cells.getByText('3 unreadable cells')).toBeVisible();
    expect(
      cells.getByRole('img', { name: /Distribution of points: 1 – 45: 30 rows; 45 – 90: 10 rows/ }),
    ).toBeVisible();
  });

  it('say that no value of a column is kept', async () => {
    const cells = await row(
      column({ commonest: [], shortest: undefined, longest: undefined, valuesKept: false }),
    );
    expect(cells.getByText('not kept for keys, identifiers and sensitive columns')).toBeVisible();
    expect(cells.getByText('not kept')).toBeVisible();
  });

  it('never round something to nothing or to everything', () => {
    expect([
      share(0, 5),
      share(1, 100_000),
      share(1, 30),
      share(99_999, 100_000),
      share(5, 5),
      share(0, 0),
    ]).toEqual(['0 %', '< 0.1 %', '3.3 %', '> 99.9 %', '100 %', '0 %']);
  });
});
