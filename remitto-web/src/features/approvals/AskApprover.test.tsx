import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { AT, show as page, signIn } from '../../testing/page';
import { server } from '../../testing/server';
import { AskApprover, AskedForApproval } from './AskApprover';

const ASKED = {
  kind: 'MANIFEST',
  subjectId: 31,
  version: 0,
  subject: 'manifest 31 of Commuter passes',
  note: 'They moved away',
  askedBy: 'Edda Lysne',
  askedAt: AT,
};

const show = () =>
  page(
    <>
      <AskedForApproval kind="MANIFEST" subjectId={31} version={0} />
      <AskApprover kind="MANIFEST" subjectId={31} version={0} />
    </>,
  );

describe('asking an approver', () => {
  it('says what to know, once, and then who asked', async () => {
    let asked = false;
    server.by('GET', '/api/approval-requests', () => (asked ? [ASKED] : [{ ...ASKED, subjectId: 30 }]));
    server.by('POST', '/api/approval-requests', () => {
      asked = true;
      return ASKED;
    });
    show();
    await server.settle();
    expect(screen.queryByText(/asked for approval/)).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: 'Ask an approver' }));
    fireEvent.change(await screen.findByLabelText('What should they know? (optional)'), {
      target: { value: 'They moved away' },
    });
    fireEvent.click(screen.getAllByRole('button', { name: 'Ask an approver' }).at(-1) as HTMLElement);
    await waitFor(() =>
      expect(server.askedOf('POST', '/api/approval-requests')[0]?.body).toEqual({
        kind: 'MANIFEST',
        subjectId: 31,
        version: 0,
        note: 'They moved away',
      }),
    );
    expect(await screen.findByText(/Edda Lysne asked for approval/)).toHaveTextContent('They moved away');
    expect(screen.getByRole('button', { name: 'Ask again' })).toBeVisible();
  });

  it('is told when it does not wait any longer', async () => {
    server.on('GET', '/api/approval-requests', []);
    server.refuse('POST', '/api/approval-requests', 409, 'This manifest does not wait for an approval.');
    show();
    fireEvent.click(screen.getByRole('button', { name: 'Ask an approver' }));
    await screen.findByLabelText('What should they know? (optional)');
    fireEvent.click(screen.getAllByRole('button', { name: 'Ask an approver' }).at(-1) as HTMLElement);
    expect(await screen.findByRole('alert')).toHaveTextContent('does not wait for an approval');
  });

  it('is not offered to viewers', async () => {
    signIn('VIEWER');
    server.on('GET', '/api/approval-requests', [ASKED]);
    show();
    expect(await screen.findByText(/Edda Lysne asked for approval/)).toBeVisible();
    expect(screen.queryByRole('button')).toBeNull();
  });
});
