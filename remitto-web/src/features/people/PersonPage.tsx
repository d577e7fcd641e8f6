import { useMutation, useQuery } from '@tanstack/react-query';
import { RecordPageLink } from '../destinations/RecordPageLink';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { PairEvidence, PersonView } from '../../api/types';
import { counted } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { Card, Failure, Input, Page, TD, TH } from '../../components/ui';
import { PersonAudiences } from '../audiences/PersonAudiences';
import { PersonConsents } from '../consents/PersonConsents';
import { type Kin, kin } from './entityTypes';
import { Ledger } from './Ledger';
import { attributeWords, bits } from './words';
import { ActLink, Act } from '../session/Editors';

export function PersonPage() {
  const { id = '' } = useParams();
  const person = useQuery({
    queryKey: ['person', id],
    queryFn: () => ok(api.GET('/api/people/{id}', { params: { path: { id: Number(id) } } })),
  });
  return (
    <Loaded title="Person" query={person}>
      {(found) => <Person key={found.id} person={found} />}
    </Loaded>
  );
}

function Person({ person }: { person: PersonView }) {
  const [at, setAt] = useState(0);
  const attributes = person.kept.map((kept) => kept.attribute);
  const sources = new Set(person.records.map((record) => record.datasetId)).size;
  const pair = person.evidence[at];
  const whom = kin(person.entityType);
  return (
    <Page
      title={person.label}
      of={`${whom.one} ${person.id}`}
      note={
        <>
          {counted(person.records.length, 'record')} of {counted(sources, 'dataset')} became this {whom.one}.
          {person.formerly.length > 0 && ` Formerly also ${person.formerly.join(', ')}.`}
        </>
      }
      actions={
        person.entityType === 'PERSON' && (
          <>
            <ActLink to={`/people/${person.id}/file`}>File</ActLink>
            <ActLink to={`/people/${person.id}/erase`}>Erase</ActLink>
          </>
        )
      }
    >
      <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,7fr)_minmax(300px,3fr)] items-start gap-4">
        <Card className="overflow-x-auto">
          <table className="w-full table-fixed border-collapse">
            <thead>
              <tr>
                <th className={`${TH} w-[92px]`}>
                  <span className="sr-only">Attribute</span>
                </th>
                <th className={TH}>Kept</th>
                {person.records.map((record) => (
                  <th key={record.datasetId + record.key} className={TH}>
                    {record.dataset}
                    <span className="block font-mono font-normal">{record.key}</span>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {attributes.map((attribute) => (
                <Attribute key={attribute} attribute={attribute} person={person} />
              ))}
            </tbody>
          </table>
        </Card>
        <div className="row-span-2 flex min-w-0 flex-col gap-3">
          <PersonAudiences personId={person.id} />
          {person.entityType === 'PERSON' && <PersonConsents personId={person.id} />}
          <Card title="What links these records">
            <ul className="m-0 list-none px-2 pb-2" aria-label="Pairs of records">
              {person.evidence.map((one, index) => (
                <li key={one.one.key + one.other.key}>
                  <button
                    type="button"
                    aria-pressed={index === at}
                    className={`rounded-button flex w-full cursor-pointer justify-between gap-2 px-2 py-1 text-left ${index === at ? 'bg-sunk' : ''}`}
                    onClick={() => setAt(index)}
                  >
                    <span>
                      <span className="font-mono">{one.one.key}</span> and{' '}
                      <span className="font-mono">{one.other.key}</span>
                      {!one.used && <span className="text-soft"> not matched</span>}
                    </span>
                    <span className="font-mono">{bits(one.weight)}</span>
                  </button>
                </li>
              ))}
            </ul>
            {person.evidence.length === 0 && (
              <p className="text-soft m-0 px-4 pb-3">
                {person.records.length > 1
                  ? 'These records were linked by hand. No rule supports the link.'
                  : 'No other record is similar.'}
              </p>
            )}
          </Card>
          {pair && <Pair key={pair.one.key + pair.other.key} pair={pair} />}
        </div>
        <Beyond person={person} whom={whom} />
      </div>
    </Page>
  );
}

const LINKED_BY: Record<PersonView['sent'][number]['linkedBy'], string> = {
  KEY: 'its key',
  ADDRESS: 'an address',
  SAME_RECORD: 'the same record',
};

/** What hangs on this person elsewhere, and what became of it so far. */
function Beyond({ person, whom }: { person: PersonView; whom: Kin }) {
  const other = kin(person.entityType === 'PERSON' ? 'COMPANY' : 'PERSON');
  return (
    <div className="flex min-w-0 flex-col gap-3">
      {person.belongs.length > 0 && (
        <Card title={person.entityType === 'PERSON' ? 'Belongs to' : 'People of this company'}>
          <p className="m-0 px-4 pb-3">
            {person.belongs.map((one, at) => (
              <span key={one.id}>
                {at > 0 && ', '}
                <Link to={`${other.base}/${one.id}`} className="text-deep underline">
                  {one.label}
                </Link>
              </span>
            ))}
          </p>
        </Card>
      )}
      <Card title="Records in destinations">
        {person.sent.length === 0 ? (
          <p className="text-soft m-0 px-4 pb-3">
            No route has sent a record of this {whom.one} to a destination.
          </p>
        ) : (
          <table className="w-full border-collapse">
            <thead>
              <tr>
                <th className={TH}>Route</th>
                <th className={TH}>Row</th>
                <th className={TH}>Record in the destination</th>
                <th className={`${TH} whitespace-nowrap`}>Linked by</th>
              </tr>
            </thead>
            <tbody>
              {person.sent.map((sent) => (
                <tr key={`${sent.routeId} ${sent.key}`}>
                  <td className={TD}>
                    <Link to={`/routes/${sent.routeId}`} className="text-deep underline">
                      {sent.route}
                    </Link>
                  </td>
                  <td className={`${TD} font-mono whitespace-nowrap`}>{sent.key}</td>
                  <td className={TD}>
                    <Link
                      to={`/explain?${new URLSearchParams({
                        destination: String(sent.destinationId),
                        object: sent.object,
                        record: sent.remoteId,
                      })}`}
                      className="text-deep underline"
                    >
                      {sent.destination}, {sent.object} <span className="font-mono">{sent.remoteId}</span>
                    </Link>{' '}
                    <RecordPageLink
                      destinationId={sent.destinationId}
                      object={sent.object}
                      remoteId={sent.remoteId}
                    />
                  </td>
                  <td className={`${TD} whitespace-nowrap`}>{LINKED_BY[sent.linkedBy]}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {person.unlinked.length > 0 && (
          <p className="text-soft m-0 px-4 py-2">
            Not searched:{' '}
            {person.unlinked.map((one, at) => (
              <span key={one.routeId}>
                {at > 0 && ', '}
                <Link to={`/routes/${one.routeId}`} className="text-deep underline">
                  {one.route}
                </Link>{' '}
                ({one.destination}, {one.object})
              </span>
            ))}
            . Rows of these routes have no key of a person, and they sent no address.
          </p>
        )}
      </Card>
      <Card title="History">
        <ul className="m-0 list-none px-4 pb-3">
          {person.history.map((event) => (
            <li key={`${event.at}${event.words}`} className="flex justify-between gap-3 py-0.5">
              <span>
                {event.other ? (
                  <Link to={`${whom.base}/${event.other}`} className="text-deep underline">
                    {event.words}
                  </Link>
                ) : (
                  event.words
                )}
              </span>
              <span className="text-soft whitespace-nowrap">
                <Ago at={event.at} />
              </span>
            </li>
          ))}
          <li className="flex justify-between gap-3 py-0.5">
            <span>First matched</span>
            <span className="text-soft">
              <Ago at={person.since} />
            </span>
          </li>
        </ul>
      </Card>
    </div>
  );
}

function Attribute({ attribute, person }: { attribute: string; person: PersonView }) {
  const kept = person.kept.find((one) => one.attribute === attribute);
  return (
    <tr>
      <th scope="row" className={`${TD} text-left font-normal`}>
        {attributeWords(attribute)}
      </th>
      <td className={`${TD} [overflow-wrap:anywhere]`}>
        {kept?.normalised || kept?.value}
        {kept && kept.normalised !== '' && kept.normalised !== kept.value && (
          <span className="text-soft block">spelled {kept.value}</span>
        )}
        <span className="text-soft block">{kept?.reason}</span>
      </td>
      {person.records.map((record) => {
        const from = kept?.datasetId === record.datasetId && kept.key === record.key;
        const names = attribute === 'given_name' || attribute === 'family_name';
        const value = record.cells[attribute] ?? (names ? record.cells.full_name : undefined);
        return (
          <td
            key={record.datasetId + record.key}
            className={`${TD} ${from ? 'bg-added-on font-semibold' : ''} [overflow-wrap:anywhere]`}
          >
            {value ?? <span className="text-soft">empty</span>}
          </td>
        );
      })}
    </tr>
  );
}

/** A pair's ledger, and what somebody who knows better can say. */
function Pair({ pair }: { pair: PairEvidence }) {
  const [reason, setReason] = useState('');
  const decide = useMutation({
    mutationFn: (together: boolean) =>
      ok(
        api.POST('/api/people/corrections', { body: { one: pair.one, other: pair.other, together, reason } }),
      ),
  });
  return (
    <Card title={`${pair.one.key} and ${pair.other.key}`}>
      <div className="px-4 pb-3">
        <p className="text-soft mt-0 mb-1">
          Weight {bits(pair.weight)}.{' '}
          {pair.reason
            ? `Not matched: ${pair.reason}.`
            : pair.used
              ? 'Matched.'
              : 'Evidence too weak to match.'}
        </p>
        <Ledger evidence={pair} />
        <Failure error={decide.error} />
        {decide.isSuccess ? (
          <p role="status" className="mb-0">
            Saved. Takes effect the next time matching runs.
          </p>
        ) : (
          <div className="mt-2 flex flex-wrap gap-2">
            <Input
              aria-label="Reason"
              placeholder="why"
              className="min-w-0 flex-1"
              value={reason}
              onChange={(event) => setReason(event.target.value)}
            />
            <Act disabled={decide.isPending} onClick={() => decide.mutate(!pair.used)}>
              {pair.used ? 'Keep apart' : 'Link'}
            </Act>
          </div>
        )}
      </div>
    </Card>
  );
}
