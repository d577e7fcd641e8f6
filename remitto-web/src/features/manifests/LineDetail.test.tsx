import { fireEvent, screen, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { LineView } from '../../api/types';
import { AT, show as page } from '../../testing/page';
import { server } from '../../testing/server';
import { LineDetail } from './LineDetail';

const LINE: LineView = {
  line: 12,
  key: 'P-7',
  label: 'Ingrid Solvang',
  verdict: 'CHANGED',
  state: 'NONE',
  code: '',
  reason: '',
  remoteId: 'con/41',
  fields: [
    {
      field: 'tier',
      outcome: 'WRITTEN',
      old: 'Gold',
      fresh: 'Silver',
      reason: '',
      otherRoute: 'Churn score',
    },
    { field: 'port', outcome: 'WRITTEN', old: '', fresh: 'Lysø', reason: '', otherRoute: '' },
    { field: 'email', outcome: 'KEPT', old: 'a@b.example', reason: 'never written', otherRoute: '' },
  ],
  thereReadAt: AT,
  answer: '',
};

function show(line: LineView, template?: string) {
  server.on('GET', '/api/destinations/{id}/record-page', { template });
  const close = vi.fn();
  page(<LineDetail line={line} place={{ destinationId: 3, object: 'con tact' }} onClose={() => close()} />);
  return close;
}

const field = (name: string) => within(screen.getByText(name).closest('li') as HTMLElement);

describe('a line of a manifest', () => {
  it('tells of each field what becomes of it, and whose value that overwrites', () => {
    show(LINE);
    expect(field('tier').getByText('by Churn score')).toBeVisible();
    expect(field('tier').getByText('Gold')).toBeVisible();
    expect(field('tier').getByText('Silver')).toBeVisible();
    expect(field('tier').getByText('to be written')).toBeVisible();
    expect(field('port').queryByText(/^by /)).toBeNull();
    expect(field('port').getByText('(empty)')).toBeVisible();
    expect(field('email').getByText('kept')).toBeVisible();
    expect(field('email').getByText('never written')).toBeVisible();
  });

  it.each([
    ['ACKNOWLEDGED', 'written'],
    ['SENDING', 'being sent'],
    ['REFUSED', 'refused'],
    ['CANCELLED', 'not sent'],
  ] as const)('that is %s says so of its values too', (state, word) => {
    show({ ...LINE, state });
    expect(field('tier').getByText(word)).toBeVisible();
    expect(field('email').getByText('kept')).toBeVisible();
  });

  it('opens the record in the destination where its profile names a page', async () => {
    show(LINE, 'https://crm.example/desk/{object}/{id}');
    expect(await screen.findByRole('link', { name: /Open in destination/ })).toHaveAttribute(
      'href',
      'https://crm.example/desk/con%20tact/con%2F41',
    );
  });

  it('offers no such link without a page, or for a record that is removed', async () => {
    show(LINE);
    await server.settle();
    expect(screen.queryByRole('link', { name: /Open in destination/ })).toBeNull();
    show({ ...LINE, key: 'P-8', verdict: 'REMOVED' }, 'https://crm.example/desk/{object}/{id}');
    await server.settle();
    expect(screen.queryByRole('link', { name: /Open in destination/ })).toBeNull();
  });

  it('takes the keyboard when it opens, and closes at Escape', () => {
    const close = show(LINE);
    expect(screen.getByRole('heading', { name: /P-7 Ingrid Solvang/ })).toHaveFocus();
    fireEvent.keyDown(screen.getByRole('heading', { name: /P-7/ }), { key: 'Escape' });
    expect(close).toHaveBeenCalledOnce();
  });
});
