import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { DestinationView } from '../../api/types';
import { Card, Failure, Labelled, Select } from '../../components/ui';
import type { Settings } from './Connection';
import { useIsEditor } from '../session/useSession';

interface Props {
  destination: DestinationView;
  chosen: Settings;
  onChoose: (setting: string, account: string) => void;
}

/** The accounts the login reaches, where the tool has several. */
export function AccountChoice({ destination, chosen, onChoose }: Props) {
  const asks = useIsEditor();
  const accounts = useQuery({
    queryKey: ['accounts', destination.id],
    queryFn: () =>
      ok(api.GET('/api/destinations/{id}/accounts', { params: { path: { id: destination.id } } })),
    retry: false,
    enabled: asks,
  });
  const choice = accounts.data;
  if (!choice || choice.setting === '')
    return accounts.error && !destination.problem ? <Failure error={accounts.error} /> : null;
  const now = chosen[choice.setting] ?? '';
  return (
    <Card title="Account" className="pb-3">
      <div className="px-4">
        <Labelled
          label="Accounts this login can use"
          note="Each account has its own objects and records. Save to switch."
        >
          <Select className="w-full" value={now} onChange={(e) => onChoose(choice.setting, e.target.value)}>
            {now === '' && <option value="">the default account</option>}
            {now !== '' && !choice.accounts.some((one) => one.id === now) && (
              <option value={now}>{now}, not available to this login</option>
            )}
            {choice.accounts.map((one) => (
              <option key={one.id} value={one.id}>
                {one.title} ({one.id})
              </option>
            ))}
          </Select>
        </Labelled>
      </div>
    </Card>
  );
}
