import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { Erasure } from '../../api/types';
import { count } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { Button, Card, Failure, Input, Labelled, Page, Pill, TD, TH } from '../../components/ui';
import { useMayApprove } from '../session/useMayApprove';

/** Everybody who was erased, by request. */
export function ErasuresPage() {
  const erasures = useQuery({ queryKey: ['erasures'], queryFn: () => ok(api.GET('/api/erasures')) });
  return (
    <Loaded title="Erasures" query={erasures}>
      {(found) => (
        <Page
          title="Erasures"
          note={
            <>
              People who asked to be erased. Open a{' '}
              <Link className="text-deep underline" to="/people">
                person
              </Link>{' '}
              to erase them.
            </>
          }
        >
          <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,7fr)_minmax(320px,4fr)] items-start gap-4">
            <Card>
              <List erasures={found} />
            </Card>
            <Question />
          </div>
        </Page>
      )}
    </Loaded>
  );
}

function List({ erasures }: { erasures: Erasure[] }) {
  if (erasures.length === 0) return <p className="text-soft m-0 px-4 py-3">No erasures yet.</p>;
  return (
    <table className="w-full border-collapse">
      <thead>
        <tr>
          <th className={TH}>Erasure</th>
          <th className={TH}>Request</th>
          <th className={TH}>Asked</th>
          <th className={`${TH} text-right`}>In destinations</th>
          <th className={TH}>State</th>
        </tr>
      </thead>
      <tbody>
        {erasures.map((one) => (
          <tr key={one.id}>
            <td className={TD}>
              <Link className="text-deep underline" to={`/people/erasures/${one.id}`}>
                Receipt {one.id}
              </Link>
            </td>
            <td className={TD}>{one.reference}</td>
            <td className={TD}>
              <Ago at={one.askedAt} />, by {one.askedBy}
            </td>
            <td className={`${TD} text-right font-mono`}>{count(one.removals.length)}</td>
            <td className={TD}>
              {one.finishedAt ? (
                <Pill tone="good">done</Pill>
              ) : (
                <Pill tone="warn">
                  {one.removals.some((removal) => removal.state === 'BY_HAND')
                    ? 'manual step needed'
                    : 'in progress'}
                </Pill>
              )}
              {one.letBackIn !== '' && (
                <span className="text-soft block">allowed again: {one.letBackIn}</span>
              )}
              {one.waitsFor !== '' && <span className="text-soft block">{one.waitsFor}</span>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** No list of those who were erased can be shown; whether an address was theirs can be asked. */
function Question() {
  const mayAsk = useMayApprove();
  const [address, setAddress] = useState('');
  const ask = useMutation({
    mutationFn: () => ok(api.POST('/api/erasures/question', { body: { address } })),
  });
  if (!mayAsk) return null;
  return (
    <Card title="Check an address">
      <form
        className="flex flex-col gap-2 px-4 pb-3"
        onSubmit={(event) => {
          event.preventDefault();
          ask.mutate();
        }}
      >
        <p className="text-soft m-0">
          Only keyed hashes are stored, so addresses cannot be listed. You can check a single address.
        </p>
        <div className="flex items-end gap-2">
          <Labelled label="E-mail address or phone number">
            <Input value={address} onChange={(event) => setAddress(event.target.value)} />
          </Labelled>
          <Button type="submit" disabled={ask.isPending}>
            Check
          </Button>
        </div>
        <Failure error={ask.error} />
        {ask.data && (
          <p role="status" className="m-0">
            {ask.data.erasureId === undefined ? (
              'Not rejected.'
            ) : (
              <>
                Rejected since{' '}
                <Link className="text-deep underline" to={`/people/erasures/${ask.data.erasureId}`}>
                  erasure {ask.data.erasureId}
                </Link>
                .
              </>
            )}
          </p>
        )}
      </form>
    </Card>
  );
}
