import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { AttributeKind, Column, PeopleSource } from '../../api/types';
import { Button, Failure, Input, Labelled, Select, TD, TH } from '../../components/ui';
import { kin, type Kin } from './entityTypes';
import { DateOrder } from './DateOrder';
import { attributeWords } from './words';
import { Act } from '../session/Editors';

type Tied = PeopleSource['columns'][number];

const KINDS: AttributeKind[] = [
  'GIVEN_NAME',
  'FAMILY_NAME',
  'FULL_NAME',
  'EMAIL',
  'PHONE',
  'BIRTH_DATE',
  'ADDRESS',
  'POSTCODE',
  'TOWN',
  'COMPANY',
  'DOMAIN',
  'IDENTIFIER',
  'TEXT',
  'VERBATIM',
  'LIST',
  'NUMBER',
  'CONSENT',
];
/** Kinds there can be several attributes of, each with a name of its own. */
const OWN_NAME: AttributeKind[] = ['IDENTIFIER', 'TEXT', 'VERBATIM', 'LIST', 'NUMBER', 'CONSENT'];

const BESIDE: [string, string][] = [
  ['VERIFIED', 'checked, in'],
  ['SAID_AT', 'time of the answer, in'],
  ['EVIDENCE', 'evidence, in'],
  ['EXPIRES', 'expiry, in'],
];

/** Columns of a dataset that describe a person or a company. */
export function TieColumns({
  source,
  whom,
  onDone,
}: {
  source: PeopleSource;
  whom: Kin;
  onDone: () => void;
}) {
  const client = useQueryClient();
  const [columns, setColumns] = useState(source.columns);
  const [country, setCountry] = useState(source.country);
  const [belongsTo, setBelongsTo] = useState(source.belongsTo);
  const dataset = useQuery({
    queryKey: ['dataset', source.datasetId],
    queryFn: () => ok(api.GET('/api/datasets/{id}', { params: { path: { id: source.datasetId } } })),
  });
  const companies = useQuery({
    queryKey: ['people', 'COMPANY'],
    queryFn: () => ok(api.GET('/api/people/overview', { params: { query: { entityType: 'COMPANY' } } })),
  });
  const path = { datasetId: source.datasetId };
  const done = () => {
    void client.invalidateQueries({ queryKey: ['people'] });
    void client.invalidateQueries({ queryKey: ['people-rules'] });
    onDone();
  };
  const save = useMutation({
    mutationFn: () =>
      ok(
        api.PUT('/api/people/sources/{datasetId}', {
          params: { path },
          body: {
            entityType: whom.entityType,
            columns,
            country,
            countryColumn: source.countryColumn,
            ...(belongsTo ? { belongsTo } : {}),
          },
        }),
      ),
    onSuccess: done,
  });
  const remove = useMutation({
    mutationFn: () =>
      ok(
        api.DELETE('/api/people/sources/{datasetId}', {
          params: { path, query: { entityType: whom.entityType } },
        }),
      ),
    onSuccess: done,
  });
  const tie = (column: string, kind: string) =>
    setColumns((before) => {
      const others = before.filter((tied) => tied.column !== column);
      if (!kind) return others;
      const attribute = OWN_NAME.includes(kind as AttributeKind) ? column : kind.toLowerCase();
      return [...others, { column, attribute, kind: kind as AttributeKind, beside: {} }];
    });
  const change = (tied: Tied) =>
    setColumns((before) => before.map((one) => (one.column === tied.column ? tied : one)));
  const all = dataset.data?.definition.columns ?? [];
  return (
    <div className="px-4 py-2">
      <h3 className="m-0 text-[0.8125rem] font-semibold">
        Columns of {source.dataset} that describe a {whom.one}
      </h3>
      <Failure error={save.error ?? remove.error ?? dataset.error} />
      <table className="w-full border-collapse">
        <thead>
          <tr>
            <th className={TH}>Column</th>
            <th className={TH}>is the {whom.one}&apos;s</th>
          </tr>
        </thead>
        <tbody>
          {all
            .filter((column) => column.role !== 'KEY')
            .map((column) => {
              const tied = columns.find((one) => one.column === column.name);
              return (
                <tr key={column.name}>
                  <td className={`${TD} font-mono [overflow-wrap:anywhere]`}>{column.name}</td>
                  <td className={TD}>
                    <Select
                      aria-label={`What ${column.name} is`}
                      value={tied?.kind ?? ''}
                      onChange={(event) => tie(column.name, event.target.value)}
                    >
                      <option value="">not used</option>
                      {KINDS.map((kind) => (
                        <option key={kind} value={kind}>
                          {attributeWords(kind).toLowerCase()}
                        </option>
                      ))}
                    </Select>{' '}
                    {tied && <Named tied={tied} onChange={change} />}
                    {tied?.kind === 'BIRTH_DATE' && (
                      <DateOrder datasetId={source.datasetId} tied={tied} onChange={change} />
                    )}
                    {tied && <BesideIt tied={tied} all={all} onChange={change} />}
                  </td>
                </tr>
              );
            })}
        </tbody>
      </table>
      <div className="mt-2 flex flex-wrap items-end gap-2">
        <Labelled label="Country of phones without one">
          <Input
            className="w-[70px]"
            value={country}
            onChange={(event) => setCountry(event.target.value.toUpperCase())}
          />
        </Labelled>
        {whom.entityType === 'PERSON' && (companies.data?.sources.length ?? 0) > 0 && (
          <>
            <Labelled label="Company key in column">
              <Select
                value={belongsTo?.column ?? ''}
                onChange={(event) =>
                  setBelongsTo(
                    event.target.value
                      ? {
                          column: event.target.value,
                          datasetId: belongsTo?.datasetId ?? companies.data?.sources[0]?.datasetId ?? 0,
                        }
                      : undefined,
                  )
                }
              >
                <option value="">no column</option>
                {all.map((column) => (
                  <option key={column.name}>{column.name}</option>
                ))}
              </Select>
            </Labelled>
            {belongsTo && (
              <Labelled label={`of the ${kin('COMPANY').many} in`}>
                <Select
                  value={belongsTo.datasetId}
                  onChange={(event) => setBelongsTo({ ...belongsTo, datasetId: Number(event.target.value) })}
                >
                  {companies.data?.sources.map((one) => (
                    <option key={one.datasetId} value={one.datasetId}>
                      {one.dataset}
                    </option>
                  ))}
                </Select>
              </Labelled>
            )}
          </>
        )}
      </div>
      <div className="mt-2 flex flex-wrap gap-2">
        <Act disabled={save.isPending} onClick={() => save.mutate()}>
          Save
        </Act>
        <Button kind="quiet" onClick={onDone}>
          Discard changes
        </Button>
        <Act kind="quiet" disabled={remove.isPending} onClick={() => remove.mutate()}>
          Remove from {whom.many}
        </Act>
      </div>
    </div>
  );
}

function Named({ tied, onChange }: { tied: Tied; onChange: (tied: Tied) => void }) {
  if (!OWN_NAME.includes(tied.kind)) return null;
  return (
    <Input
      aria-label={`Attribute of ${tied.column}`}
      className="w-[150px] font-mono"
      value={tied.attribute}
      onChange={(event) => onChange({ ...tied, attribute: event.target.value })}
    />
  );
}

/** Columns that say something about the value: whether it was checked, when it was said, by what evidence, until when. */
function BesideIt({ tied, all, onChange }: { tied: Tied; all: Column[]; onChange: (tied: Tied) => void }) {
  const offered = BESIDE.filter(([what]) => tied.kind === 'CONSENT' || what === 'VERIFIED');
  return (
    <details open={Object.keys(tied.beside).length > 0}>
      <summary className="text-deep cursor-pointer">beside it</summary>
      {offered.map(([what, words]) => (
        <label key={what} className="flex items-center gap-2 py-0.5">
          <span className="text-soft w-[100px]">{words}</span>
          <Select
            aria-label={`${tied.column} ${words}`}
            value={tied.beside[what] ?? ''}
            onChange={(event) => {
              const others = Object.entries(tied.beside).filter(([one]) => one !== what);
              const beside = Object.fromEntries(
                event.target.value ? [...others, [what, event.target.value]] : others,
              );
              onChange({ ...tied, beside });
            }}
          >
            <option value="">no column</option>
            {all.map((column) => (
              <option key={column.name}>{column.name}</option>
            ))}
          </Select>
        </label>
      ))}
    </details>
  );
}
