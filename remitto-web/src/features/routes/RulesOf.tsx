import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { FieldRule } from '../../api/types';
import { Select } from '../../components/ui';

/** Takes the rules of another route for fields that are here and have none. */
export function RulesOf({
  routeId,
  fields,
  onTake,
}: {
  routeId: number;
  fields: string[];
  onTake: (rules: FieldRule[]) => void;
}) {
  const routes = useQuery({ queryKey: ['routes'], queryFn: () => ok(api.GET('/api/routes')) });
  const others = (routes.data ?? [])
    .filter((route) => route.id !== routeId)
    .map((route) => ({ route, rules: route.spec.rules.filter((rule) => fields.includes(rule.field)) }))
    .filter(({ rules }) => rules.length > 0);
  if (others.length === 0) return null;
  return (
    <Select
      aria-label="Copy rules from another route"
      value=""
      onChange={(e) => {
        const found = others.find(({ route }) => String(route.id) === e.target.value);
        if (found) onTake(found.rules);
      }}
    >
      <option value="">Copy rules from…</option>
      {others.map(({ route, rules }) => (
        <option key={route.id} value={route.id}>
          {route.name}, {rules.length}
        </option>
      ))}
    </Select>
  );
}
