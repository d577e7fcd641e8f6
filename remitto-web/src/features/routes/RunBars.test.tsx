import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { RunsOfRoute } from '../../api/types';
import { AT, show } from '../../testing/page';
import { RunBars, runWords } from './RunBars';

type RecentRun = RunsOfRoute['runs'][number];
const run = (runId: number, state: RecentRun['state'], moving = 4, held = 0): RecentRun => ({
  runId,
  state,
  suspension: 'NONE',
  startedAt: AT,
  moving,
  held,
});

describe('the latest runs of a route', () => {
  it('are counted by how they ended, the newest kind first', () => {
    expect(runWords([run(1, 'SENT'), run(2, 'SENT'), run(3, 'SENT', 4, 1), run(4, 'FAILED', 0)])).toBe(
      '1 failed, 1 sent in part, 2 sent',
    );
    expect(runWords([run(1, 'SENT', 0)])).toBe('1 nothing to send');
  });

  it('lead to the latest manifest, and say when the route was sent', async () => {
    show(
      <RunBars
        of={{ routeId: 1, runs: [run(7, 'SENT'), run(9, 'FAILED')], lastSentAt: AT, behind: false }}
      />,
    );
    const link = await screen.findByRole('link', { name: '2 runs: 1 failed, 1 sent' });
    expect(link).toHaveAttribute('href', '/manifests/9');
    expect(screen.getByText(/^sent/)).toBeVisible();
  });

  it('say that a departure is missing', async () => {
    show(<RunBars of={{ routeId: 1, runs: [run(7, 'SENT')], lastSentAt: AT, behind: true }} />);
    expect(await screen.findByText('behind schedule')).toBeVisible();
  });

  it('of a route that never ran are none', async () => {
    show(<RunBars of={{ routeId: 1, runs: [], behind: false }} />);
    expect(await screen.findByText('never run')).toBeVisible();
  });
});
