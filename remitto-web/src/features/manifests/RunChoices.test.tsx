import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { MemoryRouter, Route, Routes } from 'react-router';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Run, RunChoice } from '../../api/types';
import { type ApprovedPart, RunChoices, useRunAction, WhyNot } from './RunChoices';

const server = vi.hoisted(() => ({ POST: vi.fn() }));
vi.mock('../../api/client', () => ({ api: server, ok: (answer: unknown) => answer }));

const run = (more: Partial<Run> = {}): Run =>
  ({
    id: 7,
    routeId: 3,
    state: 'READY',
    suspension: 'NONE',
    counts: { added: 1000, changed: 200, removed: 34 },
    outcomes: {},
    ...more,
  }) as Run;

const may = (action: RunChoice['action']): RunChoice => ({ action, allowed: true, why: '' });
const mayNot = (action: RunChoice['action'], why: string): RunChoice => ({ action, allowed: false, why });

function Shown({ of, choices, part }: { of: Run; choices: RunChoice[]; part: ApprovedPart }) {
  const act = useRunAction(of, part);
  return (
    <>
      <RunChoices run={of} choices={choices} part={part} act={act} />
      <WhyNot choices={choices} />
    </>
  );
}

const all: ApprovedPart = { verdicts: [], without: [], lines: 1234 };

const shown = (of: Run, choices: RunChoice[], part = all) =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>
        <Routes>
          <Route path="/" element={<Shown of={of} choices={choices} part={part} />} />
          <Route path="/manifests/:id" element={<p>another manifest</p>} />
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );

const buttons = () => screen.getAllByRole('button').map((one) => one.textContent);

afterEach(() => {
  cleanup();
  vi.clearAllMocks();
});

describe('what may be done with a run', () => {
  it('is what the server says, what is meant next last', () => {
    shown(run(), [may('SEND'), may('DISCARD'), may('PREPARE_AGAIN')]);
    expect(buttons()).toEqual(['Discard', 'Prepare again', 'Send 1,234']);
  });

  it('counts what is left of one that halted', () => {
    shown(run({ state: 'SUSPENDED', outcomes: { PLANNED: 17 } }), [may('SEND')]);
    expect(buttons()).toEqual(['Send the 17 left']);
  });

  it('says once why somebody may not', () => {
    shown(run(), [
      mayNot('SEND', 'An editor decides about it.'),
      mayNot('DISCARD', 'An editor decides about it.'),
    ]);
    expect(screen.getAllByText('An editor decides about it.')).toHaveLength(1);
    for (const button of screen.getAllByRole('button')) expect(button).toHaveProperty('disabled', true);
  });

  it('approves the part that was chosen, and no empty one', async () => {
    server.POST.mockResolvedValue({ id: 7 });
    const some: ApprovedPart = { verdicts: ['ADDED'], without: [4], lines: 999 };
    const page = shown(run({ state: 'AWAITING_APPROVAL' }), [may('APPROVE')], some);
    fireEvent.click(screen.getByRole('button', { name: 'Approve and send 999' }));
    await waitFor(() =>
      expect(server.POST).toHaveBeenCalledWith('/api/runs/{id}/approve', {
        params: { path: { id: 7 } },
        body: { verdicts: ['ADDED'], without: [4] },
      }),
    );
    page.unmount();
    shown(run({ state: 'AWAITING_APPROVAL' }), [may('APPROVE')], { ...some, lines: 0 });
    expect(screen.getByRole('button', { name: 'Approve and send 0' })).toHaveProperty('disabled', true);
  });

  it.each([
    ['UNDO', 'Undo', '/api/runs/{id}/undo', 7],
    ['PREPARE_AGAIN', 'Prepare again', '/api/runs/{id}/prepare-again', 7],
    ['PREPARE_NEW', 'Prepare manifest', '/api/routes/{id}/runs', 3],
  ] as const)('goes to the manifest that comes of %s', async (action, name, address, id) => {
    server.POST.mockResolvedValue({ runId: 8 });
    shown(run({ state: 'SENT' }), [may(action)]);
    fireEvent.click(screen.getByRole('button', { name }));
    await screen.findByText('another manifest');
    expect(server.POST).toHaveBeenCalledWith(address, { params: { path: { id } } });
  });

  it.each([
    ['SEND', 'Send 1,234', '/api/runs/{id}/send'],
    ['DISCARD', 'Discard', '/api/runs/{id}/discard'],
    ['CANCEL', 'Cancel', '/api/runs/{id}/cancel'],
  ] as const)('stays where it is after %s', async (action, name, address) => {
    server.POST.mockResolvedValue({ id: 7 });
    shown(run(), [may(action)]);
    fireEvent.click(screen.getByRole('button', { name }));
    await waitFor(() => expect(server.POST).toHaveBeenCalledWith(address, { params: { path: { id: 7 } } }));
    expect(screen.queryByText('another manifest')).toBeNull();
  });
});
