import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { ConditionWords, Derivation, Draft, EntityType, PersonMeasure } from '../../api/types';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { Card, Failure, Input, Labelled, Page, Select } from '../../components/ui';
import { zone } from '../../components/here';
import { Drafted } from '../drafts/Drafted';
import { DraftState } from '../drafts/EditBar';
import { useDraft } from '../drafts/useDraft';
import { DerivationSentence } from './DerivationSentence';
import { Distribution } from './Distribution';
import { derivationWords } from './sentences';
import { Act, Editable } from '../session/Editors';

/** One measure: how it is computed, and how its values are spread. */
export function MeasurePage() {
  const { id = '' } = useParams();
  const measures = useQuery({ queryKey: ['measures'], queryFn: () => ok(api.GET('/api/measures')) });
  const found = measures.data?.find((one) => `${one.id}` === id);
  const [entityType, setAbout] = useState<EntityType>('PERSON');
  // Kept here, so that it outlives the choice of whose measure it is.
  const [name, setName] = useState('');
  const whose = found?.entityType ?? entityType;
  const words = useQuery({
    queryKey: ['condition-words', whose],
    queryFn: () => ok(api.GET('/api/conditions/words', { params: { query: { entityType: whose } } })),
  });
  return (
    <Loaded
      title="Measure"
      query={{ data: measures.data && words.data, error: measures.error ?? words.error }}
    >
      {(known) => (
        <Drafted
          key={`${id}${whose}`}
          place={{ kind: 'MEASURE', subject: subject(found, whose) }}
          title={found?.name ?? 'New measure'}
        >
          {(draft) => (
            <Editor
              key={`${found?.derivation ? JSON.stringify(found.derivation) : ''}`}
              measure={found}
              draft={draft}
              name={found?.name ?? name}
              entityType={whose}
              words={known}
              onName={setName}
              onAbout={setAbout}
            />
          )}
        </Drafted>
      )}
    </Loaded>
  );
}

function subject(measure: PersonMeasure | undefined, entityType: EntityType): string {
  return measure ? String(measure.id) : entityType === 'COMPANY' ? 'new-company' : 'new';
}

function fresh(words: ConditionWords): Derivation {
  const events = words.events[0];
  return events
    ? {
        kind: 'events',
        measure: {
          of: { events: events.name, where: [] },
          window: { kind: 'last-days', days: 90 },
          aggregation: { kind: 'count' },
        },
        zone: zone(),
        steps: [],
      }
    : { kind: 'computed', expression: '', gives: 'TEXT' };
}

function Editor({
  measure,
  draft,
  name,
  entityType,
  words,
  onName,
  onAbout,
}: {
  measure?: PersonMeasure;
  draft: Draft | undefined;
  name: string;
  entityType: EntityType;
  words: ConditionWords;
  onName: (name: string) => void;
  onAbout: (entityType: EntityType) => void;
}) {
  const navigate = useNavigate();
  const client = useQueryClient();
  const [begun] = useState(() => ({ derivation: measure?.derivation ?? fresh(words) }));
  const edit = useDraft({
    place: { kind: 'MEASURE', subject: subject(measure, entityType), title: measure?.name ?? 'New measure' },
    saved: begun,
    version: 0,
    draft,
  });
  const { derivation } = edit.value;
  const changed = edit.changed || !measure;
  const renew = () => {
    for (const queryKey of [['measures'], ['condition-words'], ['distribution']]) {
      void client.invalidateQueries({ queryKey });
    }
  };
  const save = useMutation({
    mutationFn: () => {
      const body = { name, entityType, derivation };
      return measure
        ? ok(api.PUT('/api/measures/{id}', { params: { path: { id: measure.id } }, body }))
        : ok(api.POST('/api/measures', { body }));
    },
    onSuccess: (saved) => {
      edit.saved();
      renew();
      if (!measure) void navigate(`/audiences/measures/${saved.id}`, { replace: true });
    },
  });
  const remove = useMutation({
    mutationFn: () => ok(api.DELETE('/api/measures/{id}', { params: { path: { id: measure?.id ?? 0 } } })),
    onSuccess: () => {
      renew();
      void navigate('/audiences/measures');
    },
  });
  return (
    <Page
      title={measure ? measure.name : 'New measure'}
      note={
        measure ? (
          <>
            {derivationWords(measure.derivation)}.{' '}
            {measure.refreshedAt && (
              <>
                Computed <Ago at={measure.refreshedAt} />.
              </>
            )}
          </>
        ) : (
          'It is computed for everyone when saved and kept up to date.'
        )
      }
      actions={
        <>
          {edit.changed && (
            <span className="self-center">
              <DraftState edit={edit} isNew={!measure} />
            </span>
          )}
          {measure && (
            <Act kind="quiet" disabled={remove.isPending} onClick={() => remove.mutate()}>
              Remove
            </Act>
          )}
          <Act
            kind="primary"
            disabled={!changed || name === '' || save.isPending}
            onClick={() => save.mutate()}
          >
            {save.isPending ? 'Computing…' : 'Save and compute'}
          </Act>
        </>
      }
    >
      <Failure error={save.error ?? remove.error} />
      <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,7fr)_minmax(320px,5fr)] items-start gap-4">
        <Editable>
          <Card className="px-4 py-3">
            {!measure && (
              <div className="mb-3 flex gap-3">
                <Labelled label="Name in conditions and routes">
                  <Input
                    placeholder="crossings_90d"
                    value={name}
                    onChange={(event) => onName(event.target.value)}
                  />
                </Labelled>
                <Labelled label="Of">
                  <Select value={entityType} onChange={(event) => onAbout(event.target.value as EntityType)}>
                    <option value="PERSON">people</option>
                    <option value="COMPANY">companies</option>
                  </Select>
                </Labelled>
              </div>
            )}
            <DerivationSentence
              entityType={entityType}
              derivation={derivation}
              words={words}
              onChange={(derivation) => edit.change({ derivation })}
            />
          </Card>
        </Editable>
        {measure && <Distribution id={measure.id} />}
      </div>
    </Page>
  );
}
