import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { Explanation } from '../../api/types';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { Card, Page, Pill } from '../../components/ui';
import { RecordPageLink } from '../destinations/RecordPageLink';

/** Why a field there holds what it holds, as a chain from the row to the answer. */
export function ExplainPage() {
  const [params, setParams] = useSearchParams();
  const query = {
    destinationId: Number(params.get('destination') ?? 0),
    object: params.get('object') ?? '',
    remoteId: params.get('record') ?? '',
    field: params.get('field') ?? '',
    routeId: Number(params.get('route') ?? 0),
    key: params.get('key') ?? '',
  };
  const explained = useQuery({
    queryKey: ['explain', query],
    queryFn: () =>
      query.routeId > 0
        ? ok(
            api.GET('/api/routes/{id}/explain', {
              params: { path: { id: query.routeId }, query: { key: query.key, field: query.field } },
            }),
          )
        : ok(api.GET('/api/explain', { params: { query } })),
    retry: false,
    placeholderData: (before) => before,
  });
  return (
    <Loaded title="Explain" query={explained}>
      {(found) => (
        <Page
          actions={
            query.destinationId > 0 && (
              <RecordPageLink
                destinationId={query.destinationId}
                object={found.object}
                remoteId={found.remoteId}
              />
            )
          }
          title={`Why ${found.field || 'nothing'} of record ${found.remoteId}`}
          of={found.object}
          note="From the source row to the destination's answer, as recorded at the time, compared with what would happen now."
        >
          <div className="grid grid-cols-1 lg:grid-cols-[250px_minmax(0,1fr)_320px] items-start gap-4">
            <Fields
              found={found}
              onChoose={(field) => {
                const next = new URLSearchParams(params);
                next.set('field', field);
                setParams(next, { replace: true });
              }}
            />
            <Chain found={found} />
            <Now found={found} />
          </div>
        </Page>
      )}
    </Loaded>
  );
}

function Fields({ found, onChoose }: { found: Explanation; onChoose: (field: string) => void }) {
  return (
    <Card title="Fields with a value">
      <ul className="m-0 max-h-[calc(100vh-240px)] list-none overflow-auto p-2 pt-0">
        {found.fields.map((one) => (
          <li key={one.field}>
            <button
              type="button"
              aria-pressed={one.field === found.field}
              className={`w-full cursor-pointer rounded px-2 py-1 text-left ${one.field === found.field ? 'bg-sunk' : 'hover:bg-sunk'}`}
              onClick={() => onChoose(one.field)}
            >
              <span className="font-mono font-semibold">{one.field}</span>{' '}
              <span className="text-soft">{one.writer || 'not written by Remitto'}</span>
              <div className="truncate font-mono">{one.there ?? one.known}</div>
            </button>
          </li>
        ))}
      </ul>
    </Card>
  );
}

function Chained({ title, detail, children }: { title: string; detail?: ReactNode; children?: ReactNode }) {
  return (
    <li className="border-hairline border-b px-4 py-2 last:border-0">
      <strong>{title}</strong> <span className="text-soft">{detail}</span>
      {children}
    </li>
  );
}

function Shown({ value }: { value?: string }) {
  return value === undefined || value === '' ? (
    <span className="text-soft">empty</span>
  ) : (
    <span className="font-mono break-all">{value}</span>
  );
}

/** A value that was there before the route, and is what its rule gives. */
function Adopted({ value }: { value: NonNullable<Explanation['adopted']> }) {
  return (
    <Chained
      title="Adopted"
      detail={
        <>
          run{' '}
          <Link to={`/manifests/${value.runId}`} className="text-deep underline">
            {value.runId}
          </Link>{' '}
          of{' '}
          <Link to={`/routes/${value.routeId}`} className="text-deep underline">
            {value.route}
          </Link>
          , <Ago at={value.readAt} />
        </>
      }
    >
      <div>
        The destination held this value when the record was matched with row {value.key}. Its rule gives the
        same value, so nothing was written.
      </div>
    </Chained>
  );
}

function Chain({ found }: { found: Explanation }) {
  const { made } = found;
  return (
    <Card>
      <ol className="m-0 list-none p-0">
        {found.adopted && <Adopted value={found.adopted} />}
        {!made && !found.adopted && (
          <Chained title="Not written by Remitto">
            <div>
              {found.told
                ? 'No route wrote this value.'
                : 'No route wrote this value, and the destination does not report who did.'}
            </div>
          </Chained>
        )}
        {made && (
          <>
            <Chained
              title="Source row"
              detail={
                <>
                  {made.key} {made.label}, read <Ago at={made.readAt} /> by dataset version{' '}
                  {made.datasetVersion}
                </>
              }
            >
              {Object.keys(made.inputs).length > 0 ? (
                <table className="mt-1 border-collapse">
                  <tbody>
                    {Object.entries(made.inputs).map(([column, cell]) => (
                      <tr key={column}>
                        <th scope="row" className="text-soft pr-3 text-left font-normal">
                          {column}
                        </th>
                        <td className="font-mono break-all">{cell}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              ) : (
                <div className="text-soft">Its cells were not kept.</div>
              )}
            </Chained>
            <Chained
              title="Rule"
              detail={
                <>
                  version {made.routeVersion} of{' '}
                  <Link to={`/routes/${made.routeId}`} className="text-deep underline">
                    {made.route}
                  </Link>
                </>
              }
            >
              <div>{made.sentence}</div>
            </Chained>
            {made.steps?.map((step, i) => (
              <Chained key={i} title={step.step} detail={step.detail}>
                <div>
                  <Shown value={step.value} />
                </div>
              </Chained>
            ))}
            <Chained
              title="Written"
              detail={
                <>
                  line {made.line} of{' '}
                  <Link
                    to={`/manifests/${made.runId}?find=${encodeURIComponent(made.key)}`}
                    className="text-deep underline"
                  >
                    manifest {made.runId}
                  </Link>
                  {made.reason && `; ${made.reason}`}
                </>
              }
            >
              <div className="font-mono break-all">
                {made.old !== undefined && (
                  <del className="text-removed mr-2">{made.old === '' ? '(empty)' : made.old}</del>
                )}
                <span className="text-added">{made.fresh === '' ? '(cleared)' : made.fresh}</span>
              </div>
              {made.thereReadAt && (
                <div className="text-soft">
                  Values in the destination were read <Ago at={made.thereReadAt} />.
                </div>
              )}
            </Chained>
            <Chained
              title="The destination's answer"
              detail={made.answeredAt ? <Ago at={made.answeredAt} /> : undefined}
            >
              <div className="font-mono">{made.answer || 'none yet'}</div>
            </Chained>
          </>
        )}
        <Chained
          title="Now in the destination"
          detail={
            found.told && (
              <>
                written by {found.told.by} <Ago at={found.told.at} />{' '}
                {found.told.us && <Pill tone="good">Remitto</Pill>}
              </>
            )
          }
        >
          <div>
            {found.problem ? (
              <span className="text-removed">{found.problem}</span>
            ) : (
              <Shown value={found.there} />
            )}
          </div>
        </Chained>
      </ol>
    </Card>
  );
}

const OUTCOMES: Record<NonNullable<Explanation['now']>['field']['outcome'], string> = {
  WRITTEN: 'It would be written',
  SAME: 'It would stay the same',
  KEPT: 'It would be kept',
  WAITS: 'It would be postponed',
  HELD: 'It would be held',
};

function Now({ found }: { found: Explanation }) {
  if (!found.now)
    return (
      <Card title="If evaluated now" className="pb-3">
        <p className="text-soft m-0 px-4">
          {found.made || found.adopted
            ? 'The row is no longer in the dataset, or no rule writes this field any more.'
            : 'No rule writes this field.'}
        </p>
      </Card>
    );
  const { field, sentence } = found.now;
  return (
    <Card title="If evaluated now">
      <div className="flex flex-col gap-2 px-4 pb-3">
        {found.made && sentence !== found.made.sentence && (
          <div>
            <Pill tone="warn">the rule has changed since</Pill> {sentence}
          </div>
        )}
        <ol className="m-0 list-none p-0">
          {field.steps.map((step, i) => (
            <li key={i}>
              <strong>{step.step}</strong> <span className="text-soft">{step.detail}</span>{' '}
              <Shown value={step.value} />
            </li>
          ))}
        </ol>
        <div>
          <strong>{OUTCOMES[field.outcome]}.</strong> <span className="text-soft">{field.reason}</span>
        </div>
      </div>
    </Card>
  );
}
