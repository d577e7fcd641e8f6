import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import { Input, Labelled, Select } from '../../components/ui';
import type { DatabaseAddress } from './addresses';
import { POSTGRESQL } from './addresses';

export function useDialects() {
  return useQuery({
    queryKey: ['sources', 'dialects'],
    queryFn: () => ok(api.GET('/api/sources/dialects')),
    staleTime: Infinity,
  });
}

/** Where a database is, and by which kind it is spoken to. */
export function DatabaseFields({
  address,
  onChange,
}: {
  address: DatabaseAddress;
  onChange: (address: DatabaseAddress) => void;
}) {
  const dialects = useDialects();
  const known = dialects.data?.find((one) => one.name === (address.dialect ?? POSTGRESQL));
  const set = (part: Partial<DatabaseAddress>) => onChange({ ...address, ...part });
  return (
    <>
      <Labelled label="Host">
        <Input className="w-full" value={address.host} onChange={(e) => set({ host: e.target.value })} />
      </Labelled>
      <Labelled label="Port">
        <Input
          className="w-full"
          inputMode="numeric"
          value={address.port || ''}
          onChange={(e) => set({ port: Number(e.target.value) || 0 })}
        />
      </Labelled>
      <Labelled label="Database">
        <Input
          className="w-full"
          value={address.database}
          onChange={(e) => set({ database: e.target.value })}
        />
      </Labelled>
      <Labelled label="TLS">
        <Select
          className="w-full"
          value={address.tls}
          disabled={known && !known.tls}
          onChange={(e) => set({ tls: e.target.value as DatabaseAddress['tls'] })}
        >
          <option value="OFF">off</option>
          <option value="REQUIRED">required</option>
          <option value="VERIFIED">required, certificate checked</option>
        </Select>
      </Labelled>
      <Labelled label="User">
        <Input
          className="w-full"
          autoComplete="off"
          value={address.user}
          onChange={(e) => set({ user: e.target.value })}
        />
      </Labelled>
    </>
  );
}
