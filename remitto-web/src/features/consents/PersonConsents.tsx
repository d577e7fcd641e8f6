import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import { Ago } from '../../components/Moment';
import { Button, Card, Failure, Input, Labelled, Pill, Select } from '../../components/ui';
import { Act } from '../session/Editors';

/** What counts of a person's consents, why, and a way to write down what the person said. */
export function PersonConsents({ personId }: { personId: number }) {
  const client = useQueryClient();
  const [writing, setWriting] = useState(false);
  const [purpose, setPurpose] = useState('');
  const [channel, setChannel] = useState('email');
  const [yes, setYes] = useState(false);
  const [evidence, setEvidence] = useState('');
  const path = { path: { personId } };
  const key = ['person-consents', personId];
  const found = useQuery({
    queryKey: key,
    queryFn: () => ok(api.GET('/api/consents/people/{personId}', { params: path })),
  });
  const add = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/consents/people/{personId}', {
          params: path,
          body: { purpose, channel, yes, evidence },
        }),
      ),
    onSuccess: (saved) => {
      client.setQueryData(key, saved);
      setWriting(false);
    },
  });
  return (
    <Card title="Consent">
      <div className="px-4 pb-3">
        <ul className="m-0 list-none p-0">
          {found.data?.answers.map((one) => (
            <li key={`${one.purpose} ${one.channel}`} className="py-1">
              <Pill tone={one.yes ? 'good' : 'bad'}>{one.yes ? 'yes' : 'no'}</Pill> {one.purpose} by{' '}
              {one.channel}
              {one.saidAt && (
                <>
                  , <Ago at={one.saidAt} />
                </>
              )}
              <span className="text-soft block">{one.reason}</span>
            </li>
          ))}
          {found.data?.answers.length === 0 && <li className="text-soft">No consent is known.</li>}
        </ul>
        {found.data?.records.map((one) => (
          <p key={one.id} className="text-soft m-0">
            {one.yes ? 'Yes' : 'No'} to {one.purpose} by {one.channel}: {one.origin}
            {one.evidence !== '' && `, ${one.evidence}`}, <Ago at={one.saidAt} />
            {one.personId === undefined && ', of an address'}
          </p>
        ))}
        {writing ? (
          <div className="mt-2 flex flex-col gap-2">
            <Labelled label="The answer was">
              <Select value={yes ? 'yes' : 'no'} onChange={(event) => setYes(event.target.value === 'yes')}>
                <option>no</option>
                <option>yes</option>
              </Select>
            </Labelled>
            <Labelled label="To">
              <Input value={purpose} onChange={(event) => setPurpose(event.target.value)} />
            </Labelled>
            <Labelled label="By">
              <Input value={channel} onChange={(event) => setChannel(event.target.value)} />
            </Labelled>
            <Labelled label="Evidence, for example a letter or a call">
              <Input value={evidence} onChange={(event) => setEvidence(event.target.value)} />
            </Labelled>
            <Failure error={add.error} />
            <div>
              <Act disabled={purpose === '' || channel === '' || add.isPending} onClick={() => add.mutate()}>
                Record answer
              </Act>
              <Button kind="quiet" onClick={() => setWriting(false)}>
                Cancel
              </Button>
            </div>
          </div>
        ) : (
          <Act
            kind="quiet"
            className="-ml-3"
            onClick={() => {
              setPurpose(found.data?.answers[0]?.purpose ?? '');
              setChannel(found.data?.answers[0]?.channel ?? 'email');
              setWriting(true);
            }}
          >
            Record an answer
          </Act>
        )}
      </div>
    </Card>
  );
}
