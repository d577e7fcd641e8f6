import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, ok } from '../../api/client';
import type { AudienceRow, RefreshState } from '../../api/types';
import { count } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { ButtonLink, Card, Empty, Failure, Input, Page, Pill, TD, TH } from '../../components/ui';
import { ScheduleToken } from '../routes/ScheduleToken';
import { conditionWords } from './conditions';
import { OverlapMatrix } from './OverlapMatrix';
import { Act } from '../session/Editors';

const RIGHT = `${TD} text-right font-mono`;

/** All audiences, how large they are, and when they are brought up to date. */
export function AudiencesPage() {
  const list = useQuery({
    queryKey: ['audiences'],
    queryFn: () => ok(api.GET('/api/audiences')),
    refetchInterval: (shown) => (shown.state.data?.refresh.stage ? 700 : false),
  });
  return (
    <Loaded title="Audiences" query={list}>
      {(found) => <Audiences rows={found.audiences} refresh={found.refresh} />}
    </Loaded>
  );
}

function Audiences({ rows, refresh }: { rows: AudienceRow[]; refresh: RefreshState }) {
  const navigate = useNavigate();
  const [find, setFind] = useState('');
  const words = useQuery({
    queryKey: ['condition-words', 'PERSON'],
    queryFn: () => ok(api.GET('/api/conditions/words', { params: { query: { entityType: 'PERSON' } } })),
  });
  const shown = rows.filter((row) =>
    `${row.audience.name} ${row.audience.description}`.toLowerCase().includes(find.toLowerCase()),
  );
  return (
    <Page
      title="Audiences"
      note="Groups of people who match a condition. Counting sends nothing; routes send."
      actions={
        <>
          <ButtonLink to="/audiences/measures">Measures</ButtonLink>
          <ButtonLink to="/audiences/events">Events</ButtonLink>
          <ButtonLink to="/audiences/consent">Consent</ButtonLink>
          <Act kind="primary" onClick={() => void navigate('/audiences/new')}>
            New audience
          </Act>
        </>
      }
    >
      <UpToDate refresh={refresh} />
      {rows.length === 0 ? (
        <Empty>
          An audience is a group of people who match a condition on their attributes, events or consent. To
          use events, first choose which datasets hold them.
        </Empty>
      ) : (
        <>
          <Card className="overflow-x-auto">
            <div className="px-3 pt-2">
              <Input
                aria-label="Find an audience"
                placeholder="Find an audience"
                value={find}
                onChange={(event) => setFind(event.target.value)}
              />
            </div>
            <table className="mt-1 w-full border-collapse">
              <thead>
                <tr>
                  <th className={TH}>Audience</th>
                  <th className={TH}>Condition</th>
                  <th className={`${TH} text-right`}>Members</th>
                  <th className={`${TH} text-right`}>Change at the latest count</th>
                  <th className={TH}>Counted</th>
                  <th className={`${TH} text-right`}>Routes</th>
                </tr>
              </thead>
              <tbody>
                {shown.map(({ audience, latest }) => (
                  <tr key={audience.id}>
                    <td className={TD}>
                      <Link className="text-deep font-medium underline" to={`/audiences/${audience.id}`}>
                        {audience.name}
                      </Link>{' '}
                      {audience.liveVersion === undefined && <Pill>not in service</Pill>}
                      {audience.entityType === 'COMPANY' && <Pill>companies</Pill>}
                      <span className="text-soft block">{audience.description}</span>
                    </td>
                    <td className={`${TD} text-soft max-w-[360px]`}>
                      {audience.spec.sql === ''
                        ? conditionWords(audience.spec.condition, words.data)
                        : 'defined by SQL'}
                    </td>
                    <td className={RIGHT}>{latest && latest.problem === '' ? count(latest.members) : ''}</td>
                    <td className={RIGHT}>
                      {latest && latest.problem === '' && (
                        <>
                          <span className="text-added">+{count(latest.joined)}</span>{' '}
                          <span className="text-removed">−{count(latest.gone)}</span>
                        </>
                      )}
                    </td>
                    <td className={TD}>
                      {latest ? (
                        latest.problem === '' ? (
                          <Ago at={latest.countedAt} />
                        ) : (
                          <Pill tone="bad">failed</Pill>
                        )
                      ) : (
                        'never'
                      )}
                    </td>
                    <td className={RIGHT}>{audience.routes}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Card>
          <OverlapMatrix />
        </>
      )}
    </Page>
  );
}

function UpToDate({ refresh }: { refresh: RefreshState }) {
  const client = useQueryClient();
  const done = () => client.invalidateQueries({ queryKey: ['audiences'] });
  const now = useMutation({ mutationFn: () => ok(api.POST('/api/audiences/refreshes')), onSuccess: done });
  const plan = useMutation({
    mutationFn: (schedule: RefreshState['schedule']) =>
      ok(api.PUT('/api/audiences/refreshes/schedule', { body: { schedule } })),
    onSuccess: done,
  });
  return (
    <Card className="mb-3 px-4 py-2">
      <div className="flex items-center gap-2">
        <span>Events are read, and measures and audiences computed,</span>
        <ScheduleToken schedule={refresh.schedule} onChange={(schedule) => plan.mutate(schedule)} />
        <span className="text-soft">
          {refresh.stage !== '' ? (
            <strong role="status">{refresh.stage}…</strong>
          ) : refresh.finishedAt ? (
            <>
              and after identity resolution; last run <Ago at={refresh.finishedAt} /> by {refresh.runBy}
            </>
          ) : (
            'and after identity resolution; not yet run'
          )}
        </span>
        <Act
          kind="quiet"
          className="ml-auto"
          disabled={refresh.stage !== '' || now.isPending}
          onClick={() => now.mutate()}
        >
          Refresh now
        </Act>
      </div>
      {refresh.problem !== '' && <Failure error={new Error(refresh.problem)} />}
      <Failure error={now.error ?? plan.error} />
    </Card>
  );
}
