import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { ConsentMeaning, ConsentOverview } from '../../api/types';
import { count, counted } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { Card, Failure, Input, Labelled, Page, Pill, TD, TH, Token } from '../../components/ui';
import { ConsentDatasets } from './ConsentDatasets';
import { FrequencyCap } from './FrequencyCap';
import { Act } from '../session/Editors';

const RIGHT = `${TD} text-right font-mono`;

/** What people agreed to, by purpose and channel, and the addresses nothing is sent to. */
export function ConsentPage() {
  const overview = useQuery({ queryKey: ['consents'], queryFn: () => ok(api.GET('/api/consents')) });
  return (
    <Loaded title="Consent" query={overview}>
      {(found) => <Consents overview={found} />}
    </Loaded>
  );
}

function Consents({ overview }: { overview: ConsentOverview }) {
  return (
    <Page
      title="Consent"
      note={
        <>
          A no outranks a yes, and a yes outranks not asked. A later yes replaces a no only if it has evidence
          of its own. A no applies to the person and to every address.{' '}
          <Link className="text-deep underline" to="/people">
            People
          </Link>
          ,{' '}
          <Link className="text-deep underline" to="/audiences">
            audiences
          </Link>
          .
        </>
      }
    >
      <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,7fr)_minmax(340px,5fr)] items-start gap-4">
        <div className="flex min-w-0 flex-col gap-3">
          <Card title="Consent by purpose">
            <table className="w-full border-collapse">
              <thead>
                <tr>
                  <th className={TH}>Purpose</th>
                  <th className={TH}>By</th>
                  <th className={`${TH} text-right`}>Yes</th>
                  <th className={`${TH} text-right`}>No</th>
                  <th className={`${TH} text-right`}>Not asked</th>
                  <th className={TH}>Column in datasets of people</th>
                </tr>
              </thead>
              <tbody>
                {overview.purposes.map((one) => (
                  <tr key={`${one.purpose} ${one.channel}`}>
                    <td className={TD}>{one.purpose}</td>
                    <td className={TD}>{one.channel}</td>
                    <td className={`${RIGHT} text-added`}>{count(one.yes)}</td>
                    <td className={`${RIGHT} text-removed`}>{count(one.no)}</td>
                    <td className={`${RIGHT} text-soft`}>{count(one.notAsked)}</td>
                    <td className={`${TD} font-mono`}>{one.column}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            {overview.purposes.length === 0 && (
              <p className="text-soft m-0 px-4 py-3">
                No consent is known yet. Map a consent column of a dataset on the People page, then refresh
                audiences.
              </p>
            )}
          </Card>
          <Meanings meanings={overview.meanings} />
          <FrequencyCap />
          <Card title="Answers recorded manually" aside="the latest">
            <table className="w-full border-collapse">
              <tbody>
                {overview.records.map((one) => (
                  <tr key={one.id}>
                    <td className={TD}>
                      <Pill tone={one.yes ? 'good' : 'bad'}>{one.yes ? 'yes' : 'no'}</Pill> {one.purpose} by{' '}
                      {one.channel}
                    </td>
                    <td className={TD}>
                      {one.personId === undefined ? (
                        <span className="font-mono" title={one.addressHash}>
                          address {one.addressHash?.slice(0, 10)}…
                        </span>
                      ) : (
                        <Link className="text-deep underline" to={`/people/${one.personId}`}>
                          person {one.personId}
                        </Link>
                      )}
                    </td>
                    <td className={TD}>
                      {one.origin}
                      {one.evidence !== '' && <span className="text-soft block">{one.evidence}</span>}
                    </td>
                    <td className={TD}>
                      <Ago at={one.saidAt} />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            {overview.records.length === 0 && <p className="text-soft m-0 px-4 pb-3">Nothing yet.</p>}
          </Card>
        </div>
        <div className="flex min-w-0 flex-col gap-3">
          <Feeds overview={overview} />
          <ConsentDatasets />
          <Suppressions overview={overview} />
        </div>
      </div>
    </Page>
  );
}

/** Destinations where people say themselves what they agree to. */
function Feeds({ overview }: { overview: ConsentOverview }) {
  const client = useQueryClient();
  const done = (found: ConsentOverview) => client.setQueryData(['consents'], found);
  const read = useMutation({
    mutationFn: () => ok(api.POST('/api/consents/feeds/readings')),
    onSuccess: done,
  });
  const set = useMutation({
    mutationFn: (feed: { destinationId: number; purpose: string; channel: string }) =>
      ok(
        api.PUT('/api/consents/feeds/{destinationId}', {
          params: { path: { destinationId: feed.destinationId } },
          body: { purpose: feed.purpose, channel: feed.channel },
        }),
      ),
    onSuccess: done,
  });
  const feeds = overview.feeds;
  const more = overview.feedChoices.filter(
    (one) => !feeds.some((feed) => feed.destinationId === one.destinationId),
  );
  return (
    <Card
      title="Consent kept in destinations"
      aside={feeds.length > 0 ? 'read whenever audiences are refreshed' : undefined}
    >
      <div className="px-4 pb-3">
        {feeds.map((feed) => (
          <div key={feed.destinationId} className="flex flex-wrap items-center gap-2 py-1">
            <Link className="text-deep underline" to={`/destinations/${feed.destinationId}`}>
              {feed.destination}
            </Link>
            answers for
            <Token label={`Purpose at ${feed.destination}`} text={`${feed.purpose} by ${feed.channel}`}>
              <Labelled label="Purpose">
                <Input
                  defaultValue={feed.purpose}
                  onBlur={(event) => set.mutate({ ...feed, purpose: event.target.value })}
                />
              </Labelled>
              <Labelled label="Channel">
                <Input
                  defaultValue={feed.channel}
                  onBlur={(event) => set.mutate({ ...feed, channel: event.target.value })}
                />
              </Labelled>
            </Token>
            <span className="text-soft">
              {feed.readAt ? (
                <>
                  {count(feed.people)} opted out in the destination, read <Ago at={feed.readAt} />
                </>
              ) : (
                'never read'
              )}
            </span>
            {feed.problem !== '' && <Failure error={new Error(feed.problem)} />}
          </div>
        ))}
        {more.map((one) => (
          <Act
            key={one.destinationId}
            kind="quiet"
            className="-ml-3"
            onClick={() =>
              set.mutate({
                destinationId: one.destinationId,
                purpose: overview.purposes[0]?.purpose ?? 'newsletter',
                channel: overview.purposes[0]?.channel ?? 'email',
              })
            }
          >
            Read consent back from {one.destination}
          </Act>
        ))}
        {feeds.length === 0 && more.length === 0 && (
          <p className="text-soft m-0">
            No destination profile describes where the destination keeps consent.
          </p>
        )}
        {feeds.length > 0 && (
          <Act kind="quiet" className="-ml-3" disabled={read.isPending} onClick={() => read.mutate()}>
            {read.isPending ? 'Reading…' : 'Read now'}
          </Act>
        )}
        <Failure error={read.error ?? set.error} />
      </div>
    </Card>
  );
}

function Meanings({ meanings }: { meanings: ConsentMeaning[] }) {
  const client = useQueryClient();
  const mean = useMutation({
    mutationFn: (body: ConsentMeaning) => ok(api.PUT('/api/consents/meanings', { body })),
    onSuccess: (found) => client.setQueryData(['consents'], found),
  });
  return (
    <Card title="Purposes of consent columns">
      <ul className="m-0 list-none px-4 pb-3">
        {meanings.map((one) => (
          <li key={one.attribute} className="flex items-center gap-2 py-1">
            <span className="font-mono">{one.attribute}</span> is consent to
            <Token label={`Purpose of ${one.attribute}`} text={one.purpose || 'not set'}>
              <Labelled label="Purpose, in lower case">
                <Input
                  defaultValue={one.purpose}
                  onBlur={(event) => {
                    if (event.target.value !== one.purpose)
                      mean.mutate({ ...one, purpose: event.target.value });
                  }}
                />
              </Labelled>
            </Token>
            by
            <Token label={`Channel of ${one.attribute}`} text={one.channel}>
              <Labelled label="Channel, such as email or sms">
                <Input
                  defaultValue={one.channel}
                  onBlur={(event) => {
                    if (event.target.value !== one.channel)
                      mean.mutate({ ...one, channel: event.target.value });
                  }}
                />
              </Labelled>
            </Token>
            {!one.said && <span className="text-soft">from the column name</span>}
          </li>
        ))}
        {meanings.length === 0 && <li className="text-soft">No column is mapped as consent yet.</li>}
      </ul>
      <Failure error={mean.error} />
    </Card>
  );
}

function Suppressions({ overview }: { overview: ConsentOverview }) {
  const client = useQueryClient();
  const [addresses, setAddresses] = useState('');
  const [reason, setReason] = useState('');
  const [country, setCountry] = useState('');
  const add = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/consents/suppressions', {
          body: { addresses, reason, country: country.trim() || undefined },
        }),
      ),
    onSuccess: (added) => {
      setAddresses(added.unreadable.join('\n'));
      void client.invalidateQueries({ queryKey: ['consents'] });
    },
  });
  const remove = useMutation({
    mutationFn: (hash: string) =>
      ok(api.DELETE('/api/consents/suppressions/{hash}', { params: { path: { hash } } })),
    onSuccess: (found) => client.setQueryData(['consents'], found),
  });
  return (
    <Card
      title="Suppression list"
      aside={counted(overview.suppressed, 'address').replace('addresss', 'addresses')}
    >
      <div className="px-4 pb-3">
        <p className="text-soft m-0 mb-2">
          Nothing is sent to these addresses, whatever their consent. Only hashes are kept. Records already in
          destinations are removed at the next departure if the route removes records that leave.
        </p>
        <Labelled label="E-mail addresses, phone numbers, or SHA-256 hashes of normalised ones, one per line">
          <textarea
            className="rounded-button border-hairline bg-card w-full border p-2 font-mono"
            rows={3}
            value={addresses}
            onChange={(event) => setAddresses(event.target.value)}
          />
        </Labelled>
        <div className="mt-2 flex items-end gap-2">
          <Labelled label="Why">
            <Input value={reason} onChange={(event) => setReason(event.target.value)} />
          </Labelled>
          <Labelled label="Country of phone numbers">
            <Input
              className="w-[70px]"
              maxLength={2}
              placeholder="any"
              value={country}
              onChange={(event) => setCountry(event.target.value.toUpperCase())}
            />
          </Labelled>
          <Act
            disabled={addresses.trim() === '' || reason.trim() === '' || add.isPending}
            onClick={() => add.mutate()}
          >
            Add to list
          </Act>
        </div>
        <Failure error={add.error ?? remove.error} />
        {add.data && (
          <p role="status" className="m-0 mt-2">
            {count(add.data.added)} added, {count(add.data.known)} were already listed
            {add.data.unreadable.length > 0 &&
              `; ${count(add.data.unreadable.length)} are neither addresses nor hashes and remain in the field above`}
            .
            {add.data.ambiguous > 0 &&
              ` ${counted(add.data.ambiguous, 'phone number')} without a country: every number that each could mean in any country is blocked. Enter the country to block one.`}
          </p>
        )}
        <table className="mt-3 w-full border-collapse">
          <tbody>
            {overview.suppressions.map((one) => (
              <tr key={one.hash}>
                <td className="border-hairline border-b py-1.5 font-mono" title={one.hash}>
                  {one.hash.slice(0, 12)}…
                </td>
                <td className="border-hairline border-b px-2 py-1.5">
                  {one.reason}
                  <span className="text-soft block">
                    {one.addedBy}, <Ago at={one.addedAt} />
                    {one.people > 0 &&
                      `; address of ${counted(one.people, 'person').replace('persons', 'people')}`}
                  </span>
                </td>
                <td className="border-hairline border-b py-1.5 text-right">
                  <Act
                    kind="quiet"
                    aria-label={`Remove ${one.hash.slice(0, 12)} from the list`}
                    onClick={() => remove.mutate(one.hash)}
                  >
                    Remove
                  </Act>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </Card>
  );
}
