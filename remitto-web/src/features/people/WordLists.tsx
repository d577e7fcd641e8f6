import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { PeopleRules, PeopleRulesView } from '../../api/types';
import { count } from '../../components/format';
import { Button, Card, TD } from '../../components/ui';
import { type Kin } from './entityTypes';
import { nicknamesOf, nicknamesText } from './nicknames';
import { ShippedNicknames } from './ShippedNicknames';
import { attributeWords } from './words';

/** Nicknames, values that say nothing of who somebody is, and how e-mail addresses are normalised. */
export function WordLists({
  rules,
  view,
  whom,
  onChange,
}: {
  rules: PeopleRules;
  view: PeopleRulesView;
  whom: Kin;
  onChange: (rules: PeopleRules) => void;
}) {
  const [text, setText] = useState(nicknamesText(rules.nicknames));
  const overview = useQuery({
    queryKey: ['people', whom.entityType],
    queryFn: () =>
      ok(api.GET('/api/people/overview', { params: { query: { entityType: whom.entityType } } })),
  });
  const common = overview.data?.good?.summary?.common ?? [];
  const isKept = (attribute: string, value: string) =>
    rules.kept.some((one) => one.attribute === attribute && one.value === value);
  const left = [
    ...common,
    ...rules.kept
      .filter((kept) => !common.some((one) => one.attribute === kept.attribute && one.value === kept.value))
      .map((kept) => ({ ...kept, records: 0, reason: 'used anyway' })),
  ];
  return (
    <>
      {whom.entityType === 'PERSON' && (
        <Card title="Nicknames" aside={`${count(view.shippedNicknames.length)} built in`}>
          <div className="px-4 pb-3">
            <label className="block">
              <span className="text-soft block pb-1">
                Additional short forms, one per line: short form, long form
              </span>
              <textarea
                className="rounded-button border-hairline bg-card h-[92px] w-full border px-2 py-1.5 font-mono"
                value={text}
                onChange={(event) => {
                  setText(event.target.value);
                  onChange({ ...rules, nicknames: nicknamesOf(event.target.value) });
                }}
              />
            </label>
            <ShippedNicknames rules={rules} pairs={view.shippedNicknames} onChange={onChange} />
          </div>
        </Card>
      )}
      <Card title="Ignored values" aside="Values that do not identify a person">
        {left.length === 0 && <p className="text-soft m-0 px-4 pb-3">None was found.</p>}
        <table className="w-full border-collapse">
          <tbody>
            {left.map((one) => (
              <tr key={one.attribute + one.value}>
                <td className={TD}>{attributeWords(one.attribute)}</td>
                <td className={`${TD} font-mono [overflow-wrap:anywhere]`}>{one.value}</td>
                <td className={`${TD} text-right font-mono`}>{one.records > 0 && count(one.records)}</td>
                <td className={`${TD} text-soft`}>{one.reason}</td>
                <td className={`${TD} text-right`}>
                  <Button
                    kind="quiet"
                    onClick={() =>
                      onChange({
                        ...rules,
                        kept: isKept(one.attribute, one.value)
                          ? rules.kept.filter(
                              (kept) => kept.attribute !== one.attribute || kept.value !== one.value,
                            )
                          : [...rules.kept, { attribute: one.attribute, value: one.value }],
                      })
                    }
                  >
                    {isKept(one.attribute, one.value) ? 'Ignore it' : 'Use it anyway'}
                    <span className="sr-only">: {one.value}</span>
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <label className="flex items-center gap-2 px-4 py-2">
          <input
            type="checkbox"
            checked={rules.withoutTag}
            onChange={(event) => onChange({ ...rules, withoutTag: event.target.checked })}
          />
          ignore the +tag in e-mail addresses
        </label>
      </Card>
    </>
  );
}
