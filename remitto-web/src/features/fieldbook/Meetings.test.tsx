import { fireEvent, screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import type { FieldMeeting } from '../../api/types';
import { show } from '../../testing/page';
import { server } from '../../testing/server';
import { Meetings } from './Meetings';

const ENDS = { datasetId: 1, destinationId: 2, object: 'contact' };
const met = (over: Partial<FieldMeeting> = {}): FieldMeeting => ({
  field: 'town',
  others: [{ routeId: 9, route: 'Prospects', records: 12, written: 40, sentence: 'town receives home' }],
  wins: 'LATEST_RUN',
  settled: false,
  already: false,
  words: 'Nobody has decided, so the run that sends last wins.',
  ...over,
});

function Asking({ meetings }: { meetings: FieldMeeting[] }) {
  const [left, setLeft] = useState<string[]>([]);
  return (
    <>
      <Meetings routeId={4} ends={ENDS} meetings={meetings} left={left} onLeft={setLeft} />
      <output aria-label="Left">{left.join()}</output>
    </>
  );
}

const BOOK = {
  destinationId: 2,
  destination: 'Purser CRM',
  object: 'contact',
  title: 'Contact',
  there: 0,
  known: 0,
  fields: [],
  clients: [],
};
const OWNER = '/api/destinations/{id}/objects/{object}/book/{field}/owner';
const ORDER = '/api/destinations/{id}/objects/{object}/book/{field}/order';
const choose = (words: string) => {
  const select = screen.getByLabelText('Whose value wins in town');
  const option = [...select.querySelectorAll('option')].find((one) => one.textContent === words);
  fireEvent.change(select, { target: { value: option?.getAttribute('value') } });
};

describe('a field that several routes write', () => {
  it('names the other route, how many records meet, and whose value wins', async () => {
    show(<Asking meetings={[met()]} />);
    expect(await screen.findByRole('link', { name: 'Prospects' })).toHaveAttribute('href', '/routes/9');
    expect(screen.getByText(/both write 12 records/)).toBeVisible();
    expect(screen.getByText(/the run that sends last wins\./)).toBeVisible();
    expect(screen.getByRole('link', { name: 'Field book' })).toHaveAttribute(
      'href',
      '/destinations/2/contact',
    );
  });

  it('is settled by an owner', async () => {
    server.on('PUT', OWNER, BOOK);
    show(<Asking meetings={[met()]} />);
    await screen.findByLabelText('Whose value wins in town');
    choose('Prospects owns the field');
    await waitFor(() =>
      expect(server.askedOf('PUT', OWNER).map((one) => one.body)).toEqual([{ routeId: 9 }]),
    );
  });

  it('is settled by an order', async () => {
    server.on('PUT', ORDER, BOOK);
    show(<Asking meetings={[met()]} />);
    await screen.findByLabelText('Whose value wins in town');
    choose('this route first, then Prospects');
    await waitFor(() =>
      expect(server.askedOf('PUT', ORDER).map((one) => one.body)).toEqual([{ routeIds: [4, 9] }]),
    );
  });

  it('may be left undecided, on purpose only', async () => {
    show(<Asking meetings={[met()]} />);
    await screen.findByLabelText('Whose value wins in town');
    expect(screen.getByLabelText('Left')).toHaveTextContent('');
    choose('leave undecided: the run that sends last wins');
    expect(screen.getByLabelText('Left')).toHaveTextContent('town');
  });

  it('that is settled asks nothing', async () => {
    show(<Asking meetings={[met({ settled: true, wins: 'OWNER', words: 'Prospects owns the field.' })]} />);
    expect(await screen.findByText(/Prospects owns the field\./)).toBeVisible();
    expect(screen.queryByLabelText('Whose value wins in town')).toBeNull();
  });
});
