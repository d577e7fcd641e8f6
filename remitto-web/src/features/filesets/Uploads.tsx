import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { api, ok } from '../../api/client';
import type { Source } from '../../api/types';
import { Card, Failure } from '../../components/ui';
import { Act, Editors } from '../session/Editors';
import { bytes } from '../landing/names';

/** Bytes that are sent at a time; each is on disk before the next is sent. */
const PART = 8_000_000;

interface State {
  name: string;
  sent: number;
  size: number;
  done: boolean;
}

/** Takes files from the reader's machine, a part at a time, and goes on where an upload of that name stopped. */
export function Uploads({ source }: { source: Source }) {
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [state, setState] = useState<State>();
  const [over, setOver] = useState(false);
  const upload = useMutation({
    mutationFn: async (files: File[]) => {
      for (const file of files) await send(source.id, file, setState);
    },
    onSettled: () => void client.invalidateQueries({ queryKey: ['file-matches', source.id] }),
  });
  const take = (list: FileList | null) => {
    const files = [...(list ?? [])];
    if (files.length > 0) upload.mutate(files);
  };
  return (
    <Editors>
      <Card title="Upload" className="pb-3">
        <div
          className={`rounded-button mx-4 mt-1 flex flex-wrap items-center gap-3 border border-dashed px-4 py-5 ${
            over ? 'border-deep bg-sunk' : 'border-hairline'
          }`}
          onDragOver={(event) => {
            event.preventDefault();
            setOver(true);
          }}
          onDragLeave={() => setOver(false)}
          onDrop={(event) => {
            event.preventDefault();
            setOver(false);
            take(event.dataTransfer.files);
          }}
        >
          <Act disabled={upload.isPending} onClick={() => input.current?.click()}>
            {upload.isPending ? 'Uploading' : 'Choose files'}
          </Act>
          <span className="text-soft">or drop them here. A file of the same name is replaced.</span>
          <input
            ref={input}
            type="file"
            multiple
            hidden
            aria-label="Files to upload"
            onChange={(event) => {
              take(event.target.files);
              event.target.value = '';
            }}
          />
        </div>
        {state && (
          <div className="px-4 pt-3" role="status">
            <span className="font-mono">{state.name}</span>{' '}
            <span className="text-soft">
              {state.done ? `uploaded, ${bytes(state.size)}` : `${bytes(state.sent)} of ${bytes(state.size)}`}
            </span>
            <progress
              className="accent-deep mt-1 block h-1.5 w-full"
              aria-label={`Upload of ${state.name}`}
              max={Math.max(1, state.size)}
              value={state.done ? Math.max(1, state.size) : state.sent}
            />
          </div>
        )}
        <div className="px-4">
          <Failure error={upload.error} />
          {upload.error && (
            <p className="text-soft m-0">Choose the same file again to go on where the upload stopped.</p>
          )}
        </div>
      </Card>
    </Editors>
  );
}

async function send(source: number, file: File, tell: (state: State) => void) {
  const path = { id: source };
  const begun = await ok(
    api.GET('/api/sources/{id}/uploads', { params: { path, query: { name: file.name } } }),
  );
  // More than there is belongs to another file of that name.
  let sent = begun.arrived < file.size ? begun.arrived : 0;
  tell({ name: file.name, sent, size: file.size, done: false });
  do {
    const part = file.slice(sent, sent + PART);
    const answer = await ok(
      api.PUT('/api/sources/{id}/uploads', {
        params: { path, query: { name: file.name, from: sent } },
        body: part as unknown as string,
        bodySerializer: (body: unknown) => body as Blob,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    );
    sent = answer.arrived;
    tell({ name: file.name, sent, size: file.size, done: false });
  } while (sent < file.size);
  await ok(
    api.POST('/api/sources/{id}/uploads', { params: { path }, body: { name: file.name, size: file.size } }),
  );
  tell({ name: file.name, sent, size: file.size, done: true });
}
