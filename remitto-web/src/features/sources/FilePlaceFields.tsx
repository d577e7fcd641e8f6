import { Input, Labelled } from '../../components/ui';
import type { FileAddress } from './addresses';

/** Where files are that are read. */
export function FilePlaceFields({
  address,
  onChange,
}: {
  address: FileAddress;
  onChange: (address: FileAddress) => void;
}) {
  if (address.kind === 'upload')
    return (
      <p className="text-soft col-span-2 m-0">
        Remitto keeps the files that people upload here. The page of the source takes them once it is saved.
      </p>
    );
  if (address.kind === 'folder')
    return (
      <div className="col-span-2">
        <Labelled
          label="Folder"
          note="Below the inbox folder of the installation. Whoever leaves files there needs to write to it."
        >
          <Input
            className="w-full font-mono"
            placeholder="harbour/berths"
            value={address.folder}
            onChange={(e) => onChange({ ...address, folder: e.target.value })}
          />
        </Labelled>
      </div>
    );
  const set = (part: Partial<typeof address>) => onChange({ ...address, ...part });
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
      <div className="col-span-2">
        <Labelled label="Folder" note="Leave it empty for the folder that the login begins in.">
          <Input
            className="w-full font-mono"
            value={address.folder}
            onChange={(e) => set({ folder: e.target.value })}
          />
        </Labelled>
      </div>
      <div className="col-span-2">
        <Labelled
          label="Key of the server"
          note="Its fingerprint, as ssh-keygen -lf writes it. Leave it empty and test: the server's key is shown."
        >
          <Input
            className="w-full font-mono"
            placeholder="SHA256:…"
            value={address.hostKey}
            onChange={(e) => set({ hostKey: e.target.value })}
          />
        </Labelled>
      </div>
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
