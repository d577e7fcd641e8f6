import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { ExamplePair, PeopleRules, PeopleRulesView, RulesEffect } from '../../api/types';
import { count, counted } from '../../components/format';
import { useSettled } from '../../components/settled';
import { Button, Card, Failure, Select, Skeleton } from '../../components/ui';
import { type Kin } from './entityTypes';
import { Ledger } from './Ledger';
import { attributeWords, bits } from './words';

interface Props {
  rules: PeopleRules;
  view: PeopleRulesView;
  whom: Kin;
  /** Version it is compared with; the one in service unless somebody chooses another. */
  against?: number;
}

/** What rules would join and part compared with those of a version, on the records as they were read last. */
export function Effect({ rules, view, whom, against }: Props) {
  const [chosen, setChosen] = useState(against ?? view.liveNumber);
  const settled = useSettled(JSON.stringify(rules), 400);
  const effect = useQuery({
    queryKey: ['people-effect', whom.entityType, chosen, settled],
    queryFn: () =>
      ok(
        api.POST('/api/people/rules/effect', {
          params: { query: { entityType: whom.entityType } },
          body: { number: chosen, second: JSON.parse(settled) as PeopleRules },
        }),
      ),
    placeholderData: (before) => before,
    retry: false,
  });
  return (
    <Card title="What would these rules change?" aside={effect.isFetching ? 'looking…' : ''}>
      <div className="px-4 pb-3">
        <label className="text-soft flex items-center gap-2 pb-2">
          compared with
          <Select value={chosen} onChange={(event) => setChosen(Number(event.target.value))}>
            <option value={0}>the built-in rules{view.liveNumber === 0 ? ', in service' : ''}</option>
            {view.versions.map((version) => (
              <option key={version.number} value={version.number}>
                version {version.number}
                {version.number === view.liveNumber ? ', in service' : ''}
              </option>
            ))}
          </Select>
        </label>
        <Failure error={effect.error} />
        {effect.data && !effect.error ? (
          <Numbers effect={effect.data} whom={whom} />
        ) : (
          effect.isPending && <Skeleton rows={3} />
        )}
      </div>
    </Card>
  );
}

function Numbers({ effect, whom }: { effect: RulesEffect; whom: Kin }) {
  const entityType = effect.oneIn > 1;
  return (
    <>
      <p role="status" className="m-0">
        {effect.onlyFirst + effect.onlySecond === 0 ? (
          <>
            They give the same {count(effect.persons)} {whom.many}.
          </>
        ) : (
          <>
            {count(effect.otherPersons)} {whom.many} instead of {count(effect.persons)}:{' '}
            <strong>{counted(effect.onlySecond, 'pair')}</strong> more pairs matched,{' '}
            <strong>{counted(effect.onlyFirst, 'pair')}</strong> no longer matched.
          </>
        )}{' '}
        <span className="text-soft">
          {entityType
            ? `Based on a sample of ${count(effect.records)} records, 1 in ${effect.oneIn}. For all records, multiply by about ${effect.oneIn}.`
            : `Based on all ${count(effect.records)} records.`}
        </span>
      </p>
      {effect.rules.length > 1 && (
        <ul className="text-soft m-0 list-none p-0 pt-1">
          {effect.rules.map((rule) => (
            <li key={rule.words} className="flex justify-between gap-3">
              <span>{rule.words}</span>
              <span className="font-mono">{count(rule.pairs)}</span>
            </li>
          ))}
        </ul>
      )}
      <Examples title="Matched only by these rules" pairs={effect.secondExamples} of={effect.onlySecond} />
      <Examples title="Matched only by the other rules" pairs={effect.firstExamples} of={effect.onlyFirst} />
    </>
  );
}

function Examples({ title, pairs, of }: { title: string; pairs: ExamplePair[]; of: number }) {
  const [at, setAt] = useState(0);
  const pair = pairs[Math.min(at, pairs.length - 1)];
  if (!pair) return null;
  const names = [...new Set([...Object.keys(pair.one.cells), ...Object.keys(pair.other.cells)])];
  return (
    <section className="border-hairline mt-3 border-t pt-2" aria-label={title}>
      <div className="flex items-baseline justify-between gap-2">
        <h3 className="m-0 text-[0.8125rem] font-semibold">{title}</h3>
        <span className="whitespace-nowrap">
          <Button kind="quiet" disabled={at === 0} onClick={() => setAt(at - 1)}>
            Back
          </Button>
          <span className="text-soft font-mono">
            {Math.min(at, pairs.length - 1) + 1}/{pairs.length}
            {of > pairs.length && ` of ${count(of)}`}
          </span>
          <Button kind="quiet" disabled={at >= pairs.length - 1} onClick={() => setAt(at + 1)}>
            Next
          </Button>
        </span>
      </div>
      <table className="w-full table-fixed border-collapse">
        <thead>
          <tr>
            <th className="w-[80px]">
              <span className="sr-only">Attribute</span>
            </th>
            {[pair.one, pair.other].map((record) => (
              <th key={record.datasetId + record.key} className="py-0.5 text-left font-medium">
                {record.dataset} <span className="font-mono">{record.key}</span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {names.map((name) => (
            <tr key={name}>
              <th scope="row" className="text-soft py-0.5 text-left font-normal">
                {attributeWords(name)}
              </th>
              {[pair.one, pair.other].map((record) => (
                <td key={record.datasetId + record.key} className="py-0.5 pr-2 [overflow-wrap:anywhere]">
                  {record.cells[name] ?? <span className="text-soft">empty</span>}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-soft mt-1 mb-0">
        {pair.byRule ? `By rule: ${pair.byRule}. ` : ''}Weight {bits(pair.evidence.weight)}.
      </p>
      <details>
        <summary className="text-deep cursor-pointer">Evidence line by line</summary>
        <Ledger evidence={pair.evidence} />
      </details>
    </section>
  );
}
