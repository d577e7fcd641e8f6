import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { ChangesOfDataset } from '../../api/types';
import { AT, show } from '../../testing/page';
import { server } from '../../testing/server';
import { DataChanges } from './DataChanges';

const changes = (over: Partial<ChangesOfDataset> = {}): ChangesOfDataset => ({
  waiting: ['Route Recipients', 'Matching for people'],
  made: false,
  means: 'COUNTERS',
  lookedAt: AT,
  changedAt: AT,
  millis: 1_204,
  everySeconds: 60,
  problem: '',
  ...over,
});

async function shown(found: ChangesOfDataset) {
  server.on('GET', '/api/datasets/{id}/changes', found);
  show(<DataChanges datasetId={3} />);
  const heading = await screen.findByRole('heading', { name: 'Change detection' });
  return within(heading.closest('section') ?? document.body);
}

describe('how changes of a dataset are noticed', () => {
  it('names what begins, by what it is noticed, and what a look costs', async () => {
    const card = await shown(changes());
    expect(card.getByText('Matching for people')).toBeVisible();
    expect(card.getByText(/The database counts the writes/)).toBeVisible();
    expect(card.getByText(/took 1,204 ms. Checked every minute/)).toBeVisible();
    expect(card.queryByRole('alert')).toBeNull();
  });

  it('says what is not noticed without an updated-at', async () => {
    const card = await shown(changes({ waiting: ['Route Recipients'], means: 'COUNT', everySeconds: 240 }));
    expect(card.getByText('Route Recipients')).toBeVisible();
    expect(card.getByText(/Changed rows are not detected/)).toBeVisible();
    expect(card.getByText(/every 240 seconds/)).toBeVisible();
  });

  it('says why the last look failed', async () => {
    const card = await shown(changes({ problem: 'User shop_reader may not read this.' }));
    expect(card.getByRole('alert')).toHaveTextContent('User shop_reader may not read this.');
  });

  it('says that nothing begins, and how something would', async () => {
    const never: ChangesOfDataset = { waiting: [], made: false, millis: 0, everySeconds: 60, problem: '' };
    const card = await shown(never);
    expect(card.getByText(/Nothing starts/)).toBeVisible();
    expect(card.queryByText('Method')).toBeNull();
  });

  it('looks at nothing where the rows are made by counting', async () => {
    const card = await shown(changes({ made: true, waiting: ['Route Over 75'] }));
    expect(card.getByText(/Starts after audiences have been counted/)).toBeVisible();
    expect(card.queryByText('Method')).toBeNull();
  });
});
