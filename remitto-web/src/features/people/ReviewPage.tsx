import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { ReviewPair } from '../../api/types';
import { Button, Card, Empty, Failure, Page, Skeleton, TD, TH } from '../../components/ui';
import { useKin } from './entityTypes';
import { Ledger } from './Ledger';
import { attributeWords, bits } from './words';

/** Pairs in between, one after the other, decided by two keys. */
export function ReviewPage() {
  const whom = useKin();
  const pairs = useQuery({
    queryKey: ['people-review', whom.entityType],
    queryFn: () => ok(api.GET('/api/people/review', { params: { query: { entityType: whom.entityType } } })),
  });
  const [at, setAt] = useState(0);
  const pair = pairs.data?.[at];
  return (
    <Page
      title="Pairs to review"
      of={whom.many}
      note="The evidence is inconclusive, or a guard held the pair back. Your decision takes effect the next time matching runs."
    >
      <Failure error={pairs.error} />
      {pairs.isPending ? (
        <Skeleton />
      ) : pair ? (
        <Decide key={pair.one.key + pair.other.key} pair={pair} onNext={() => setAt(at + 1)} />
      ) : (
        <Empty action={<Link to={whom.base}>Back to {whom.many}</Link>}>
          Nothing is left to review. Run matching again to apply your decisions.
        </Empty>
      )}
    </Page>
  );
}

function Decide({ pair, onNext }: { pair: ReviewPair; onNext: () => void }) {
  const decide = useMutation({
    mutationFn: (together: boolean) =>
      ok(
        api.POST('/api/people/corrections', {
          body: { one: pair.evidence.one, other: pair.evidence.other, together, reason: 'reviewed' },
        }),
      ),
    onSuccess: onNext,
  });
  const { mutate, isPending } = decide;
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (isPending || event.ctrlKey || event.metaKey || event.target instanceof HTMLInputElement) return;
      if (event.key === 'j') mutate(true);
      if (event.key === 'a') mutate(false);
      if (event.key === 'n') onNext();
    };
    window.addEventListener('keydown', pressed);
    return () => window.removeEventListener('keydown', pressed);
  }, [mutate, isPending, onNext]);
  const attributes = [...new Set([...Object.keys(pair.one.cells), ...Object.keys(pair.other.cells)])];
  return (
    <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,3fr)_minmax(320px,2fr)] items-start gap-4">
      <Card>
        <table className="w-full border-collapse">
          <thead>
            <tr>
              <th className={TH}>
                <span className="sr-only">Attribute</span>
              </th>
              {[pair.one, pair.other].map((record, index) => (
                <th key={record.key} className={TH}>
                  {record.dataset}{' '}
                  <Link
                    to={`/people/${index === 0 ? pair.onePerson : pair.otherPerson}`}
                    className="text-deep font-mono underline"
                  >
                    {record.key}
                  </Link>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {attributes.map((attribute) => (
              <tr key={attribute}>
                <th scope="row" className={`${TD} text-left font-normal`}>
                  {attributeWords(attribute)}
                </th>
                {[pair.one, pair.other].map((record) => (
                  <td key={record.key} className={TD}>
                    {record.cells[attribute] ?? <span className="text-soft">empty</span>}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Card>
      <Card title={`Weight ${bits(pair.evidence.weight)}`} aside={pair.evidence.reason}>
        <div className="px-4 pb-3">
          <Ledger evidence={pair.evidence} />
          <Failure error={decide.error} />
          <div className="mt-3 flex gap-2">
            <Button kind="primary" disabled={isPending} onClick={() => mutate(true)}>
              Link <kbd className="font-mono">J</kbd>
            </Button>
            <Button disabled={isPending} onClick={() => mutate(false)}>
              Keep apart <kbd className="font-mono">A</kbd>
            </Button>
            <Button kind="quiet" onClick={onNext}>
              Later <kbd className="font-mono">N</kbd>
            </Button>
          </div>
        </div>
      </Card>
    </div>
  );
}
