import { LabelledList } from '../labels/LabelledList';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { api, ok } from '../../api/client';
import type { AudienceRow, ConditionWords, RefreshState } from '../../api/types';
import { count } from '../../components/format';
import { type ListColumn } from '../../components/ListTable';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { ButtonLink, Card, Empty, Failure, Page, Pill } from '../../components/ui';
import { ScheduleToken } from '../routes/ScheduleToken';
import { conditionWords } from './conditions';
import { OverlapMatrix } from './OverlapMatrix';
import { Act } from '../session/Editors';

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

/** Members are counted as of the latest count; there are none where it failed. */
function members({ latest }: AudienceRow): number | undefined {
  return latest && latest.problem === '' ? latest.members : undefined;
}

function columns(words: ConditionWords | undefined): ListColumn<AudienceRow>[] {
  return [
    {
      id: 'name',
      title: 'Audience',
      by: ({ audience }) => audience.name,
      cell: ({ audience }) => (
        <>
          <Link className="text-deep font-medium underline" to={`/audiences/${audience.id}`}>
            {audience.name}
          </Link>{' '}
          {audience.liveVersion === undefined && <Pill>not in service</Pill>}
          {audience.entityType === 'COMPANY' && <Pill>companies</Pill>}
          <span className="text-soft block">{audience.description}</span>
        </>
      ),
    },
    {
      id: 'condition',
      title: 'Condition',
      className: 'text-soft max-w-[22.5rem]',
      cell: ({ audience }) =>
        audience.spec.sql === '' ? conditionWords(audience.spec.condition, words) : 'defined by SQL',
    },
    {
      id: 'members',
      title: 'Members',
      right: true,
      by: members,
      cell: (row) => (members(row) === undefined ? '' : count(members(row) ?? 0)),
    },
    {
      id: 'change',
      title: 'Change at the latest count',
      right: true,
      by: ({ latest }) => (latest?.problem === '' ? latest.joined - latest.gone : undefined),
      cell: ({ latest }) =>
        latest?.problem === '' && (
          <>
            <span className="text-added">+{count(latest.joined)}</span>{' '}
            <span className="text-removed">−{count(latest.gone)}</span>
          </>
        ),
    },
    {
      id: 'counted',
      title: 'Counted',
      by: ({ latest }) => latest?.countedAt,
      cell: ({ latest }) =>
        latest ? (
          latest.problem === '' ? (
            <Ago at={latest.countedAt} />
          ) : (
            <Pill tone="bad">failed</Pill>
          )
        ) : (
          'never'
        ),
    },
    {
      id: 'routes',
      title: 'Routes',
      right: true,
      by: (row) => row.audience.routes,
      cell: (row) => row.audience.routes,
    },
  ];
}

function Audiences({ rows, refresh }: { rows: AudienceRow[]; refresh: RefreshState }) {
  const navigate = useNavigate();
  const words = useQuery({
    queryKey: ['condition-words', 'PERSON'],
    queryFn: () => ok(api.GET('/api/conditions/words', { params: { query: { entityType: 'PERSON' } } })),
  });
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
          <LabelledList
            kind="AUDIENCE"
            main
            of={['audience', 'audiences']}
            rows={rows}
            id={(row) => row.audience.id}
            name={(row) => row.audience.name}
            words={(row) => `${row.audience.name} ${row.audience.description}`}
            columns={columns(words.data)}
          />
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
