import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { PeopleSummary } from '../../api/types';
import { count, counted } from '../../components/format';
import { Ago } from '../../components/Moment';
import { useSettled } from '../../components/settled';
import { ButtonLink, Card, Empty, Failure, Input, Page, Pill, Skeleton, TD, TH } from '../../components/ui';
import { type Kin, useKin } from './entityTypes';
import { Kinds } from './Kinds';
import { PeopleSources } from './PeopleSources';
import { Plan } from './Plan';
import { QualityCard } from './QualityCard';
import { RunState } from './RunState';
import { attributeWords, bits } from './words';
import { useMay } from '../session/useSession';
import { Act } from '../session/Editors';
import { at } from '../../components/base';

const RIGHT = 'text-right font-mono';

/** Who the records are of: how many became how many people, by what evidence, and single people to look at. */
export function PeoplePage() {
  const whom = useKin();
  const client = useQueryClient();
  const query = { params: { query: { entityType: whom.entityType } } };
  const overview = useQuery({
    queryKey: ['people', whom.entityType],
    queryFn: () => ok(api.GET('/api/people/overview', query)),
    refetchInterval: (shown) =>
      shown.state.data?.latest && !shown.state.data.latest.finishedAt ? 500 : false,
  });
  const join = useMutation({
    mutationFn: () => ok(api.POST('/api/people/runs', query)),
    onSuccess: () => client.invalidateQueries({ queryKey: ['people'] }),
  });
  const latest = overview.data?.latest;
  const underWay = latest !== undefined && !latest.finishedAt;
  const good = overview.data?.good;
  const summary = good?.summary;
  return (
    <Page
      title={whom.title}
      note={
        summary ? (
          <>
            {counted(summary.records, 'record')} of {counted(summary.sources.length, 'dataset')} became{' '}
            {count(summary.persons)} {summary.persons === 1 ? whom.one : whom.many}, matched by{' '}
            {good.startedBy} <Ago at={good.startedAt} />.
          </>
        ) : (
          `Records of the same ${whom.one}, matched across datasets.`
        )
      }
      actions={
        <>
          {whom.base === '/people' && <ButtonLink to="/people/erasures">Erasures</ButtonLink>}
          <ButtonLink to={`${whom.base}/rules`}>Rules</ButtonLink>
          {summary && (
            <ButtonLink to={`${whom.base}/review`}>
              Review {counted(summary.asks + summary.refused, 'pair')}
            </ButtonLink>
          )}
          <Act
            kind="primary"
            disabled={underWay || join.isPending || (overview.data?.sources.length ?? 0) === 0}
            onClick={() => join.mutate()}
          >
            {underWay ? 'Matching…' : summary ? 'Run matching again' : 'Run matching'}
          </Act>
        </>
      }
    >
      <Kinds />
      <Failure error={overview.error ?? join.error} />
      {latest && <RunState run={latest} />}
      {overview.isPending ? (
        <Skeleton />
      ) : (
        <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,5fr)_minmax(0,6fr)] items-start gap-4">
          <div className="flex min-w-0 flex-col gap-3">
            <Find key={`${whom.entityType}${good?.id ?? 0}`} whom={whom} />
            <PeopleSources key={whom.entityType} sources={overview.data?.sources ?? []} whom={whom} />
            <Plan key={`plan${whom.entityType}`} whom={whom} />
            {summary && <UseThem whom={whom} source={overview.data?.source} />}
            {summary && <QualityCard key={`quality${whom.entityType}`} whom={whom} />}
          </div>
          {summary ? (
            <Found summary={summary} whom={whom} whole={good.whole} />
          ) : (
            <Empty>
              Map the columns of datasets that describe {whom.many}, then run matching. This sends nothing.
            </Empty>
          )}
        </div>
      )}
    </Page>
  );
}

/** Where they go from here: into datasets and routes, or into files. */
function UseThem({ whom, source }: { whom: Kin; source?: number }) {
  const mayDownload = useMay('DOWNLOAD_PERSONAL_VALUES');
  const file = (name: string) => at(`/api/people/${name}?entityType=${whom.entityType}`);
  const link = (href: string, text: string) => (
    <a href={href} className="text-deep underline">
      {text}
    </a>
  );
  return (
    <Card title={`Use the ${whom.many}`}>
      <div className="px-4 pb-3">
        <p className="m-0">
          {source === undefined ? (
            <>
              To build datasets from them, Remitto needs a separate database login. See the operations guide.
            </>
          ) : (
            <>
              One row per {whom.one}:{' '}
              <Link
                className="text-deep underline"
                to={`/datasets/new?source=${source}&sql=${encodeURIComponent(`select * from people.${whom.one}`)}&name=${whom.title}`}
              >
                create a dataset
              </Link>{' '}
              for routes. Or{' '}
              <Link
                className="text-deep underline"
                to={`/datasets/new?source=${source}&sql=${encodeURIComponent('select * from people.record')}&name=${encodeURIComponent('Which record belongs to whom')}`}
              >
                one row per record
              </Link>{' '}
              with the person it belongs to.
            </>
          )}
        </p>
        {mayDownload && (
          <p className="mt-2 mb-0">
            Download: {whom.many} in {link(file('people.csv'), 'CSV')} or{' '}
            {link(file('people.jsonl'), 'JSON Lines')}; record assignments in {link(file('links.csv'), 'CSV')}{' '}
            or {link(file('links.jsonl'), 'JSON Lines')}.{' '}
            <span className="text-soft">Downloads are recorded in the journal.</span>
          </p>
        )}
      </div>
    </Card>
  );
}

function Find({ whom }: { whom: Kin }) {
  const [text, setText] = useState('');
  const settled = useSettled(text, 200);
  const found = useQuery({
    queryKey: ['people-found', whom.entityType, settled],
    queryFn: () =>
      ok(api.GET('/api/people', { params: { query: { entityType: whom.entityType, find: settled } } })),
    placeholderData: (before) => before,
  });
  return (
    <Card>
      <div className="px-4 pt-3 pb-1">
        <Input
          aria-label={`Find a ${whom.one}`}
          placeholder="Name, e-mail, phone, or an id from any dataset"
          className="w-full"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </div>
      <Failure error={found.error} />
      <div
        className="max-h-[330px] overflow-auto"
        tabIndex={0}
        role="region"
        aria-label={`${whom.title} found`}
      >
        <table className="w-full border-collapse">
          <thead>
            <tr>
              <th className={TH}>{whom.one === 'person' ? 'Person' : 'Company'}</th>
              <th className={TH}>Id</th>
              <th className={`${TH} text-right`}>Records</th>
            </tr>
          </thead>
          <tbody>
            {(found.data ?? []).map((person) => (
              <tr key={person.id}>
                <td className={TD}>
                  <Link to={`${whom.base}/${person.id}`} className="text-deep underline">
                    {person.label}
                  </Link>
                </td>
                <td className={`${TD} font-mono`}>{person.id}</td>
                <td className={`${TD} ${RIGHT}`}>{person.records}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {found.data?.length === 0 && (
          <p className="text-soft px-4 py-2" role="status">
            {settled ? 'No match.' : 'None yet.'}
          </p>
        )}
      </div>
    </Card>
  );
}

function Found({ summary, whom, whole }: { summary: PeopleSummary; whom: Kin; whole: boolean }) {
  const people = whom.entityType === 'PERSON';
  const most = Math.max(1, ...summary.sizes.map((size) => size.persons));
  return (
    <div className="flex min-w-0 flex-col gap-3">
      <Card
        title="Overlap of sources"
        aside={`${count(summary.fresh)} new, ${count(summary.retired)} ids retired, ${count(summary.split)} split in this run`}
      >
        <table className="w-full border-collapse">
          <thead>
            <tr>
              <th className={TH}>Dataset</th>
              <th className={`${TH} text-right`}>Records</th>
              <th className={`${TH} text-right`}>{whom.title}</th>
            </tr>
          </thead>
          <tbody>
            {summary.sources.map((source) => (
              <tr key={source.datasetId}>
                <td className={TD}>{source.dataset}</td>
                <td className={`${TD} ${RIGHT}`}>{count(source.records)}</td>
                <td className={`${TD} ${RIGHT}`}>{count(source.persons)}</td>
              </tr>
            ))}
            {summary.joined.map((pair) => (
              <tr key={pair.one + pair.other}>
                <td className={TD}>
                  both {pair.one} and {pair.other}
                </td>
                <td className={`${TD} text-soft ${RIGHT}`}>{Math.round(pair.share * 100)}%</td>
                <td className={`${TD} ${RIGHT}`}>{count(pair.persons)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <p className="text-soft m-0 px-4 py-2">Shares are of the smaller dataset of each pair.</p>
      </Card>
      <Card title="This run">
        <p className="m-0 px-4 pb-3">
          {count(summary.changed)} records were new or changed and {count(summary.gone)} were deleted;{' '}
          {whole ? 'everything' : counted(summary.judged, 'record')} was evaluated again,{' '}
          {counted(summary.compared, 'pair')} compared.
          {summary.withoutKey > 0 &&
            ` ${counted(summary.withoutKey, 'row')} had no key and were skipped.`}{' '}
          Matched by{' '}
          {summary.rules
            .filter((rule) => rule.pairs > 0)
            .map((rule) => `${rule.words} (${counted(rule.pairs, 'pair')})`)
            .join(', ') || 'nothing'}
          .
        </p>
      </Card>
      <Card title={`Records per ${whom.one}`}>
        <table className="mx-4 mb-3 border-collapse">
          <tbody>
            {summary.sizes.map((size) => (
              <tr key={size.records}>
                <th scope="row" className="py-0.5 pr-3 text-right font-mono font-normal">
                  {size.records}
                </th>
                <td className="w-[320px] py-0.5" aria-hidden>
                  <span
                    className="bg-deep inline-block h-2.5 rounded-sm"
                    style={{ width: `${Math.max(2, (300 * size.persons) / most)}px` }}
                  />
                </td>
                <td className={`py-0.5 ${RIGHT}`}>{count(size.persons)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Card>
      <Card
        title={`Evidence that records are the same ${whom.one}`}
        aside={`${count(summary.compared)} pairs compared`}
      >
        <div className="max-h-[300px] overflow-auto" tabIndex={0} role="region" aria-label="Evidence weights">
          <table className="w-full border-collapse">
            <thead>
              <tr>
                <th className={TH}>Level of agreement</th>
                <th className={`${TH} text-right`}>against unrelated people</th>
                {people && <th className={`${TH} text-right`}>against one household</th>}
                <th className={`${TH} text-right`}>one {whom.one}</th>
                <th className={`${TH} text-right`}>any two records</th>
              </tr>
            </thead>
            <tbody>
              {summary.evidence.map((row) => (
                <tr key={row.words}>
                  <td className={TD}>
                    {row.words} {row.byHand && <Pill tone="warn">set manually</Pill>}
                  </td>
                  <td className={`${TD} ${RIGHT}`}>{bits(row.strangers)}</td>
                  {people && <td className={`${TD} ${RIGHT}`}>{bits(row.household)}</td>}
                  <td className={`${TD} ${RIGHT} text-soft`}>
                    {row.words === 'start' ? '' : `${(row.amongMatches * 100).toFixed(1)}%`}
                  </td>
                  <td className={`${TD} ${RIGHT} text-soft`}>
                    {row.words === 'start' ? '' : `${(row.amongOthers * 100).toFixed(3)}%`}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <p className="text-soft m-0 px-4 py-2">
          In bits, estimated from the records. One bit doubles the odds.
        </p>
      </Card>
      <Card title="Candidate pairs">
        <table className="w-full border-collapse">
          <thead>
            <tr>
              <th className={TH}>Records that share</th>
              <th className={`${TH} text-right`}>Pairs</th>
              <th className={`${TH} text-right`}>Skipped</th>
            </tr>
          </thead>
          <tbody>
            {summary.keys.map((key) => (
              <tr key={key.words}>
                <td className={TD}>{key.words}</td>
                <td className={`${TD} ${RIGHT}`}>{count(key.pairs)}</td>
                <td className={`${TD} ${RIGHT}`}>{count(key.leftOut)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Card>
      {summary.common.length > 0 && (
        <Card title="Ignored values" aside="Values that do not identify a person">
          <table className="w-full border-collapse">
            <tbody>
              {summary.common.map((one) => (
                <tr key={one.attribute + one.value}>
                  <td className={TD}>{attributeWords(one.attribute)}</td>
                  <td className={`${TD} font-mono`}>{one.value}</td>
                  <td className={`${TD} ${RIGHT}`}>{count(one.records)}</td>
                  <td className={`${TD} text-soft`}>{one.reason}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Card>
      )}
    </div>
  );
}
