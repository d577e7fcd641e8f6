import type { KeepRule, PeopleRules, PeopleRulesView } from '../../api/types';
import { Card, Select, TD, TH } from '../../components/ui';
import { type Kin } from './entityTypes';
import { attributeWords } from './words';

const HOW: [KeepRule['how'], string][] = [
  ['SOURCE_ORDER', 'first source with a value'],
  ['NEWEST', 'newest'],
  ['MOST_COMPLETE', 'most complete'],
  ['MOST_FREQUENT', 'most frequent'],
  ['LONGEST', 'longest'],
  ['SMALLEST', 'smallest'],
  ['LARGEST', 'largest'],
];

const PHONES: Record<string, KeepRule['phone']> = {
  MOBILE: { type: 'MOBILE', only: false },
  'MOBILE only': { type: 'MOBILE', only: true },
  FIXED_LINE: { type: 'FIXED_LINE', only: false },
  'FIXED_LINE only': { type: 'FIXED_LINE', only: true },
};

/** Which value of each attribute is kept. */
export function KeepTable({
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
  const set = (attribute: string, rule: KeepRule) =>
    onChange({ ...rules, survivorship: { ...rules.survivorship, [attribute]: rule } });
  return (
    <Card title="Which value is kept" aside="Ties are resolved by source order, then by lower key">
      <table className="w-full border-collapse">
        <thead>
          <tr>
            <th className={TH}>Attribute</th>
            <th className={TH}>Keep the</th>
            <th className={TH}>Verified values first</th>
            <th className={TH}>From the same record as</th>
            <th className={TH}>Phone type</th>
          </tr>
        </thead>
        <tbody>
          {view.attributes.map(({ name, kind }) => {
            const rule = rules.survivorship[name] ?? view.usualKept[name];
            if (kind === 'CONSENT' || !rule)
              return (
                <tr key={name}>
                  <td className={TD}>{attributeWords(name)}</td>
                  <td className={`${TD} text-soft`} colSpan={4}>
                    a no, unless a later yes with its own evidence replaces it; otherwise a yes that has not
                    expired
                  </td>
                </tr>
              );
            return (
              <tr key={name}>
                <td className={TD}>{attributeWords(name)}</td>
                <td className={TD}>
                  <Select
                    aria-label={`Kept ${attributeWords(name)}`}
                    value={rule.how}
                    onChange={(event) => set(name, { ...rule, how: event.target.value as KeepRule['how'] })}
                  >
                    {HOW.map(([how, words]) => (
                      <option key={how} value={how}>
                        {words}
                      </option>
                    ))}
                  </Select>
                </td>
                <td className={TD}>
                  <input
                    type="checkbox"
                    aria-label={`Verified ${attributeWords(name)} first`}
                    checked={rule.verifiedFirst}
                    onChange={(event) => set(name, { ...rule, verifiedFirst: event.target.checked })}
                  />
                </td>
                <td className={TD}>
                  <Select
                    aria-label={`${attributeWords(name)} from the same record as`}
                    value={rule.sameRecordAs}
                    onChange={(event) => set(name, { ...rule, sameRecordAs: event.target.value })}
                  >
                    <option value="">any</option>
                    {view.attributes
                      .filter((one) => one.name !== name && one.kind !== 'CONSENT')
                      .map((one) => (
                        <option key={one.name} value={one.name}>
                          the {attributeWords(one.name).toLowerCase()}
                        </option>
                      ))}
                  </Select>
                </td>
                <td className={TD}>
                  {kind === 'PHONE' && (
                    <Select
                      aria-label={`Type of ${attributeWords(name)}`}
                      value={rule.phone ? `${rule.phone.type}${rule.phone.only ? ' only' : ''}` : ''}
                      onChange={(event) => set(name, { ...rule, phone: PHONES[event.target.value] })}
                    >
                      <option value="">any type</option>
                      <option value="MOBILE">mobile first</option>
                      <option value="MOBILE only">mobile only</option>
                      <option value="FIXED_LINE">landline first</option>
                      <option value="FIXED_LINE only">landline only</option>
                    </Select>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="text-soft m-0 px-4 py-2">
        Changes apply to every {whom.one} the next time matching runs. They do not affect matching itself.
      </p>
    </Card>
  );
}
