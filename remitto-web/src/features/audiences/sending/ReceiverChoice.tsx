import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../../api/client';
import { ById, ByTitle } from '../../../components/Options';
import { Input, Labelled, Select } from '../../../components/ui';
import { ByName } from '../../destinations/ByName';
import type { Receiver } from './choice';

const NEW_FILE = ' new file';

/** What receives an audience: a list, a kind of record, or a file whose layout is made here. */
export function ReceiverChoice({
  receiver,
  names,
  onChange,
}: {
  receiver: Receiver;
  names: string[];
  onChange: (receiver: Receiver) => void;
}) {
  const { destinationId: id, object, file } = receiver;
  const destinations = useQuery({
    queryKey: ['destinations'],
    queryFn: () => ok(api.GET('/api/destinations')),
  });
  const objects = useQuery({
    queryKey: ['objects', id],
    queryFn: () => ok(api.GET('/api/destinations/{id}/objects', { params: { path: { id } } })),
    enabled: id > 0,
  });
  const files = useQuery({
    queryKey: ['files', id],
    queryFn: () => ok(api.GET('/api/destinations/{id}/files', { params: { path: { id } } })),
    enabled: id > 0,
  });
  const choose = (value: string) =>
    onChange(
      value === NEW_FILE
        ? {
            destinationId: id,
            object: '',
            file: { name: '', jsonLines: false, changesOnly: false, key: 'person_id' },
          }
        : { destinationId: id, object: value },
    );
  return (
    <>
      <Labelled label="Destination">
        <Select
          className="w-full"
          value={id}
          onChange={(e) => onChange({ destinationId: Number(e.target.value), object: '' })}
        >
          <option value={0}>choose…</option>
          <ById of={destinations.data} />
        </Select>
      </Labelled>
      <Labelled label="List, object or file">
        <Select
          className="w-full"
          disabled={id === 0}
          value={file ? NEW_FILE : object}
          onChange={(e) => choose(e.target.value)}
        >
          <option value="">choose…</option>
          <ByTitle of={objects.data} />
          {files.data?.takesFiles && <option value={NEW_FILE}>a new file</option>}
        </Select>
      </Labelled>
      {file && (
        <>
          <Labelled
            label="Name of the file"
            note="Lower-case letters, digits and hyphens. The date and run are added."
          >
            <Input
              className="w-full font-mono"
              value={file.name}
              onChange={(e) => onChange({ ...receiver, file: { ...file, name: e.target.value } })}
            />
          </Labelled>
          <div className="grid grid-cols-3 gap-3">
            <Labelled label="As">
              <Select
                className="w-full"
                value={file.jsonLines ? 'json' : 'csv'}
                onChange={(e) =>
                  onChange({ ...receiver, file: { ...file, jsonLines: e.target.value === 'json' } })
                }
              >
                <option value="csv">CSV</option>
                <option value="json">JSON Lines</option>
              </Select>
            </Labelled>
            <Labelled label="Contents">
              <Select
                className="w-full"
                value={file.changesOnly ? 'changes' : 'all'}
                onChange={(e) =>
                  onChange({ ...receiver, file: { ...file, changesOnly: e.target.value === 'changes' } })
                }
              >
                <option value="all">all members</option>
                <option value="changes">changes only</option>
              </Select>
            </Labelled>
            <Labelled label="Key column">
              <Select
                className="w-full font-mono"
                value={file.key}
                onChange={(e) => onChange({ ...receiver, file: { ...file, key: e.target.value } })}
              >
                {!names.includes(file.key) && <option value={file.key}>{file.key}</option>}
                {names.map((name) => (
                  <option key={name}>{name}</option>
                ))}
              </Select>
            </Labelled>
          </div>
        </>
      )}
      {id > 0 && !file && !files.data?.takesFiles && (
        <div className="col-span-2">
          <ByName key={id} id={id} onFound={(found) => onChange({ destinationId: id, object: found })} />
        </div>
      )}
    </>
  );
}
