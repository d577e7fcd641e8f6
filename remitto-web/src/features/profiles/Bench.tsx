import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { BenchRequest } from '../../api/types';
import { Card, Failure, Input, Labelled, Select } from '../../components/ui';
import { Tried } from './Tried';
import { Act } from '../session/Editors';

type Call = BenchRequest['call'];

const WORDS: Record<Call, string> = {
  CHECK: 'connection test',
  ACCOUNTS: 'accounts',
  OBJECTS: 'objects',
  FIELDS: 'fields of an object',
  FIND: 'look records up',
  LIST: 'a page of records',
  ADD: 'add a record',
  UPDATE: 'change a record',
  REMOVE: 'remove a record',
};
const WRITES: Call[] = ['ADD', 'UPDATE', 'REMOVE'];

interface Props {
  profile: string;
  text: string;
  /** Calls that the text describes. */
  calls: string[];
  sound: boolean;
}

function pairs(text: string): Record<string, string> {
  return Object.fromEntries(
    text
      .split('\n')
      .filter((line) => line.includes(':'))
      .map((line) => {
        const colon = line.indexOf(':');
        return [line.slice(0, colon).trim(), line.slice(colon + 1).trim()];
      }),
  );
}

function lines(text: string): string[] {
  return text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '');
}

/** Runs single calls of the text on the page against a tool, and shows both ends. */
export function Bench({ profile, text, calls, sound }: Props) {
  const [chosen, setChosen] = useState(0);
  const [call, setCall] = useState<Call>('CHECK');
  const [object, setObject] = useState('');
  const [by, setBy] = useState('');
  const [values, setValues] = useState('');
  const [fields, setFields] = useState('');
  const [cursor, setCursor] = useState('');
  const destinations = useQuery({
    queryKey: ['destinations'],
    queryFn: () => ok(api.GET('/api/destinations')),
  });
  const fitting = (destinations.data ?? []).filter((one) => one.profile === profile);
  const destination = fitting.find((one) => one.id === chosen) ?? fitting[0];
  const objects = useQuery({
    queryKey: ['objects', destination?.id],
    queryFn: () =>
      ok(api.GET('/api/destinations/{id}/objects', { params: { path: { id: destination?.id ?? 0 } } })),
    enabled: destination !== undefined,
  });
  const named = object || (objects.data?.find((one) => one.people) ?? objects.data?.[0])?.name || '';
  const run = useMutation({
    mutationFn: (send: boolean) =>
      ok(
        api.POST('/api/destinations/{id}/bench', {
          params: { path: { id: destination?.id ?? 0 } },
          body: {
            text,
            call,
            object: named,
            by,
            values: lines(values),
            cursor,
            fields: pairs(fields),
            send,
          },
        }),
      ),
  });
  const known = (Object.keys(WORDS) as Call[]).filter(
    (one) => calls.length === 0 || calls.includes(one.toLowerCase()),
  );
  const writes = WRITES.includes(call);
  const needsObject = !['CHECK', 'ACCOUNTS', 'OBJECTS'].includes(call);
  return (
    <Card title="Test calls" aside="Runs a call from the text on this page. Secrets are hidden.">
      <div className="flex flex-col gap-3 px-4 pb-3">
        {fitting.length === 0 ? (
          <p className="text-soft m-0">
            No destination uses this profile yet. Save it, put it in service and{' '}
            <Link to="/destinations/new" className="text-deep underline">
              connect one
            </Link>
            . Then its calls can be tested here.
          </p>
        ) : (
          <>
            <div className="flex flex-wrap items-end gap-3">
              <Labelled label="Destination">
                <Select value={destination?.id} onChange={(e) => setChosen(Number(e.target.value))}>
                  {fitting.map((one) => (
                    <option key={one.id} value={one.id}>
                      {one.name}
                    </option>
                  ))}
                </Select>
              </Labelled>
              <Labelled label="Call">
                <Select value={call} onChange={(e) => setCall(e.target.value as Call)}>
                  {known.map((one) => (
                    <option key={one} value={one}>
                      {WORDS[one]}
                    </option>
                  ))}
                </Select>
              </Labelled>
              {needsObject && (
                <Labelled label="Object">
                  <Select value={named} onChange={(e) => setObject(e.target.value)}>
                    {(objects.data ?? []).map((one) => (
                      <option key={one.name} value={one.name}>
                        {one.title}
                      </option>
                    ))}
                  </Select>
                </Labelled>
              )}
              {call === 'LIST' && (
                <Labelled label="Page cursor">
                  <Input
                    className="w-[120px] font-mono"
                    value={cursor}
                    placeholder="first page"
                    onChange={(e) => setCursor(e.target.value)}
                  />
                </Labelled>
              )}
              {(call === 'FIND' || call === 'ADD') && (
                <Labelled label={call === 'FIND' ? 'Search field' : 'Key field'}>
                  <Input className="w-[130px] font-mono" value={by} onChange={(e) => setBy(e.target.value)} />
                </Labelled>
              )}
            </div>
            {(call === 'FIND' || call === 'UPDATE' || call === 'REMOVE') && (
              <Lines
                label={call === 'FIND' ? 'Values, one per line' : 'Record id in the destination'}
                value={values}
                onChange={setValues}
              />
            )}
            {(call === 'ADD' || call === 'UPDATE') && (
              <Lines label="Fields, one per line, as name: value" value={fields} onChange={setFields} />
            )}
            <div className="flex gap-2">
              <Act disabled={!sound || run.isPending} onClick={() => run.mutate(false)}>
                {writes ? 'Preview call' : run.isPending ? 'Sending' : 'Send call'}
              </Act>
              {writes && (
                <Act disabled={!sound || run.isPending} onClick={() => run.mutate(true)}>
                  {run.isPending ? 'Sending' : 'Send call'}
                </Act>
              )}
              {!sound && <span className="text-soft self-center">Fix the errors in the profile first.</span>}
            </div>
            <Failure error={run.error} />
            {run.data && <Tried tried={run.data} />}
          </>
        )}
      </div>
    </Card>
  );
}

function Lines({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
}) {
  return (
    <Labelled label={label}>
      <textarea
        className="rounded-button border-hairline bg-card text-ink h-[64px] w-full border px-2 py-1.5 font-mono"
        value={value}
        onChange={(e) => onChange(e.target.value)}
      />
    </Labelled>
  );
}
