import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import { moment } from '../../components/format';
import { Button, Card, Failure, Input, Page, Skeleton, TD, TH } from '../../components/ui';

const HOMES: Record<string, string> = {
  source: 'sources',
  dataset: 'datasets',
  route: 'routes',
  destination: 'destinations',
  manifest: 'manifests',
};

export function JournalPage() {
  const [find, setFind] = useState('');
  const journal = useInfiniteQuery({
    queryKey: ['journal', find],
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      ok(api.GET('/api/journal', { params: { query: { before: pageParam, find } } })),
    getNextPageParam: (page) => page.next,
  });
  return (
    <Page
      title="Journal"
      note="Who changed what, and when. Entries are chained by hashes, so none can be altered or removed unnoticed."
      actions={
        <Input
          aria-label="Find in the journal"
          placeholder="Find a person, action or object"
          className="w-[260px]"
          value={find}
          onChange={(e) => setFind(e.target.value)}
        />
      }
    >
      <Failure error={journal.error} />
      {journal.isPending ? (
        <Skeleton />
      ) : (
        <Card>
          <table className="w-full border-collapse">
            <thead>
              <tr>
                <th className={TH}>When</th>
                <th className={TH}>Who</th>
                <th className={TH}>Action</th>
                <th className={TH}>Object</th>
                <th className={TH}>Detail</th>
              </tr>
            </thead>
            <tbody>
              {(journal.data?.pages ?? []).flatMap((page) =>
                page.entries.map((entry) => (
                  <tr key={entry.id}>
                    <td className={`${TD} font-mono whitespace-nowrap`}>{moment(entry.at)}</td>
                    <td className={TD}>{entry.actor}</td>
                    <td className={TD}>{entry.action}</td>
                    <td className={TD}>
                      {HOMES[entry.subjectKind] && entry.subjectId > 0 ? (
                        <Link to={`/${HOMES[entry.subjectKind]}/${entry.subjectId}`} className="text-deep">
                          {entry.subject}
                        </Link>
                      ) : (
                        entry.subject
                      )}
                    </td>
                    <td className={`${TD} text-soft`}>{entry.detail}</td>
                  </tr>
                )),
              )}
            </tbody>
          </table>
          {journal.hasNextPage && (
            <div className="p-3">
              <Button onClick={() => void journal.fetchNextPage()}>Show earlier</Button>
            </div>
          )}
        </Card>
      )}
    </Page>
  );
}
