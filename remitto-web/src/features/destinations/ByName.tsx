import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import { Failure, Input, Labelled } from '../../components/ui';
import { Act } from '../session/Editors';

/** Finds an object by the name somebody has of it, or makes a list of that name; nothing is taken for it that is only like it. */
export function ByName({ id, onFound }: { id: number; onFound: (object: string) => void }) {
  const client = useQueryClient();
  const [name, setName] = useState('');
  const params = { path: { id } };
  const found = (object: string | undefined) => {
    void client.invalidateQueries({ queryKey: ['objects', id] });
    if (object !== undefined) onFound(object);
  };
  const look = useMutation({
    mutationFn: (wanted: string) =>
      ok(api.GET('/api/destinations/{id}/named', { params: { ...params, query: { name: wanted } } })),
    onSuccess: (answer) => found(answer.object),
  });
  const make = useMutation({
    mutationFn: () => ok(api.POST('/api/destinations/{id}/named', { params, body: { name } })),
    onSuccess: (answer) => {
      look.reset();
      found(answer.object);
    },
  });
  const answer = look.data;
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        make.reset();
        look.mutate(name);
      }}
    >
      <div className="flex items-end gap-2">
        <Labelled label="Find or create a list">
          <Input
            value={name}
            placeholder="exact name in the destination"
            onChange={(event) => {
              setName(event.target.value);
              look.reset();
            }}
          />
        </Labelled>
        <Act type="submit" disabled={look.isPending || name === ''}>
          Find
        </Act>
      </div>
      <Failure error={look.error ?? make.error} />
      <div role="status">
        {make.isSuccess && <p className="m-0">Created and selected.</p>}
        {answer?.object !== undefined && <p className="m-0">Found and selected.</p>}
        {answer && answer.object === undefined && (
          <div className="flex flex-wrap items-center gap-2">
            {answer.near.length === 0 ? (
              <span>No list has this name.</span>
            ) : (
              <span>No exact match. Similar names, differing only in case or spacing:</span>
            )}
            {answer.near.map((title) => (
              <Act
                key={title}
                onClick={() => {
                  setName(title);
                  look.mutate(title);
                }}
              >
                {title}
              </Act>
            ))}
            {answer.canMake && (
              <Act disabled={make.isPending} onClick={() => make.mutate()}>
                Create list {name}
              </Act>
            )}
          </div>
        )}
      </div>
    </form>
  );
}
