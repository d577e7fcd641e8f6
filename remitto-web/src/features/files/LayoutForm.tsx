import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { Draft, FileLayout } from '../../api/types';
import { useSettled } from '../../components/settled';
import { Failure, Input, Labelled, Select, Token } from '../../components/ui';
import { DraftState } from '../drafts/EditBar';
import { useDraft } from '../drafts/useDraft';
import { LayoutColumns } from './LayoutColumns';
import { DELIMITERS, ENCODINGS } from './layout';
import { Act } from '../session/Editors';
import { useIsEditor } from '../session/useSession';

interface Props {
  id: number;
  saved?: FileLayout;
  draft: Draft | undefined;
  routes: string[];
  fresh: FileLayout;
  onSaved: (name: string) => void;
}

/** How a file is laid out, as sentences, with what it comes to beside it. */
export function LayoutForm({ id, saved, draft, routes, fresh, onSaved }: Props) {
  const client = useQueryClient();
  const edit = useDraft({
    place: {
      kind: 'FILE_LAYOUT',
      subject: `${id}.${saved?.name ?? 'new'}`,
      title: saved?.name ?? 'New file',
    },
    saved: saved ?? fresh,
    version: 0,
    draft,
  });
  const { value: layout, change: setLayout } = edit;
  const params = { path: { id } };
  const settled = useSettled(layout, 300);
  const editor = useIsEditor();
  const sample = useQuery({
    queryKey: ['file-sample', id, settled],
    queryFn: () => ok(api.POST('/api/destinations/{id}/files/sample', { params, body: settled })),
    placeholderData: keepPreviousData,
    retry: false,
    enabled: editor,
  });
  const taken = () => {
    for (const key of ['objects', 'fields']) void client.invalidateQueries({ queryKey: [key, id] });
  };
  const save = useMutation({
    mutationFn: () => ok(api.PUT('/api/destinations/{id}/files', { params, body: layout })),
    onSuccess: (files) => {
      edit.saved();
      client.setQueryData(['files', id], files);
      taken();
      onSaved(layout.name);
    },
  });
  const remove = useMutation({
    mutationFn: () =>
      ok(
        api.DELETE('/api/destinations/{id}/files/{name}', {
          params: { path: { id, name: saved?.name ?? '' } },
        }),
      ),
    onSuccess: (files) => {
      client.setQueryData(['files', id], files);
      taken();
      onSaved('');
    },
  });
  const changed = JSON.stringify(layout) !== JSON.stringify(saved);
  const set = (part: Partial<FileLayout>) => setLayout({ ...layout, ...part });
  return (
    <div className="border-hairline flex flex-col gap-3 border-t px-4 py-3">
      {!saved && (
        <Labelled label="Name in Remitto" note="Small letters, digits, hyphens and underscores.">
          <Input
            value={layout.name}
            placeholder="members"
            onChange={(event) => set({ name: event.target.value })}
          />
        </Labelled>
      )}
      <div className="flex flex-wrap items-center gap-x-1.5 gap-y-2">
        <span>A file with</span>
        <ContentToken layout={layout} onChange={setLayout} />
        <span>as</span>
        <FormToken layout={layout} onChange={setLayout} />
        <Token label="packing" text={layout.gzip ? 'packed with gzip' : 'not packed'}>
          <Check label="Pack it with gzip" checked={layout.gzip} onChange={(gzip) => set({ gzip })} />
        </Token>
        <span>called</span>
        <NameToken layout={layout} onChange={setLayout} />
        <span>in</span>
        <Token label="folder" text={layout.folder === '' ? 'its own folder' : `folder ${layout.folder}`}>
          <Labelled label="Folder" note="A subfolder of the destination's folder. It is created if missing.">
            <Input value={layout.folder} onChange={(event) => set({ folder: event.target.value })} />
          </Labelled>
        </Token>
        <span>with rows that are</span>
        <Token label="rows" text={layout.people ? 'people' : 'not people'}>
          <Check
            label="Rows are people, so routes need a stated legal basis"
            checked={layout.people}
            onChange={(people) => set({ people })}
          />
        </Token>
        <span>.</span>
      </div>
      <LayoutColumns layout={layout} onChange={setLayout} />
      {sample.data && (
        <div>
          <div className="text-soft mb-1">
            Example of the file: <span className="font-mono">{sample.data.name}</span>
          </div>
          <pre
            className="bg-sunk rounded-button m-0 overflow-x-auto px-3 py-2 font-mono text-[0.75rem]"
            tabIndex={0}
          >
            {sample.data.text}
          </pre>
        </div>
      )}
      <Failure error={save.error ?? remove.error ?? sample.error} />
      <div className="flex items-center gap-2">
        <Act disabled={!changed || save.isPending} onClick={() => save.mutate()}>
          Save layout
        </Act>
        {saved && (
          <Act kind="quiet" disabled={remove.isPending} onClick={() => remove.mutate()}>
            Remove
          </Act>
        )}
        {edit.changed && <DraftState edit={edit} isNew={!saved} />}
        <span className="text-soft">
          {routes.length > 0 ? `Written by ${routes.join(', ')}.` : saved && 'No route writes it yet.'}
        </span>
      </div>
    </div>
  );
}

interface Part {
  layout: FileLayout;
  onChange: (layout: FileLayout) => void;
}

export function Check({
  label,
  checked,
  onChange,
}: {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}) {
  return (
    <label className="flex items-center gap-2">
      <input type="checkbox" checked={checked} onChange={(event) => onChange(event.target.checked)} />
      {label}
    </label>
  );
}

function ContentToken({ layout, onChange }: Part) {
  const { content } = layout;
  return (
    <Token
      label="content"
      text={content.kind === 'everybody' ? 'everybody' : `changes, marked in ${content.column}`}
    >
      <Labelled label="What the file holds">
        <Select
          value={content.kind}
          onChange={(event) =>
            onChange({
              ...layout,
              content:
                event.target.value === 'everybody'
                  ? { kind: 'everybody' }
                  : {
                      kind: 'changes',
                      column: 'change',
                      added: 'added',
                      changed: 'changed',
                      removed: 'removed',
                    },
            })
          }
        >
          <option value="everybody">all records: those that left are missing from the next file</option>
          <option value="changes">only changes since the previous file</option>
        </Select>
      </Labelled>
      {content.kind === 'changes' && (
        <div className="grid grid-cols-2 gap-2">
          {(
            [
              ['column', 'Column with the kind of change'],
              ['added', 'Value for added'],
              ['changed', 'Value for changed'],
              ['removed', 'Value for removed'],
            ] as const
          ).map(([part, label]) => (
            <Labelled key={part} label={label}>
              <Input
                className="w-full"
                value={content[part]}
                onChange={(event) =>
                  onChange({ ...layout, content: { ...content, [part]: event.target.value } })
                }
              />
            </Labelled>
          ))}
        </div>
      )}
    </Token>
  );
}

function FormToken({ layout, onChange }: Part) {
  const { form } = layout;
  const words =
    form.kind === 'csv'
      ? `CSV with ${DELIMITERS[form.delimiter] ?? form.delimiter}, ${ENCODINGS[form.encoding] ?? form.encoding}`
      : 'JSON Lines';
  const csv = freshCsv(layout);
  return (
    <Token label="form" text={words}>
      <Labelled label="Format">
        <Select
          value={form.kind}
          onChange={(event) =>
            onChange({ ...layout, form: event.target.value === 'csv' ? csv : { kind: 'json-lines' } })
          }
        >
          <option value="csv">CSV</option>
          <option value="json-lines">JSON Lines, one object per line</option>
        </Select>
      </Labelled>
      {form.kind === 'csv' && (
        <>
          <Labelled label="Delimiter">
            <Select
              value={form.delimiter}
              onChange={(event) => onChange({ ...layout, form: { ...form, delimiter: event.target.value } })}
            >
              {Object.entries(DELIMITERS).map(([value, text]) => (
                <option key={value} value={value}>
                  {text}
                </option>
              ))}
            </Select>
          </Labelled>
          <Labelled label="Quotes">
            <Select
              value={form.quoting}
              onChange={(event) =>
                onChange({ ...layout, form: { ...form, quoting: event.target.value as typeof form.quoting } })
              }
            >
              <option value="WHERE_NEEDED">where needed</option>
              <option value="EVERY_VALUE">around every value</option>
            </Select>
          </Labelled>
          <Labelled label="Encoding" note="Records with characters it cannot represent are refused.">
            <Select
              value={form.encoding}
              onChange={(event) =>
                onChange({
                  ...layout,
                  form: { ...form, encoding: event.target.value as typeof form.encoding },
                })
              }
            >
              {Object.entries(ENCODINGS).map(([value, text]) => (
                <option key={value} value={value}>
                  {text}
                </option>
              ))}
            </Select>
          </Labelled>
          <Labelled label="Line ending">
            <Select
              value={form.lineEnd}
              onChange={(event) =>
                onChange({ ...layout, form: { ...form, lineEnd: event.target.value as typeof form.lineEnd } })
              }
            >
              <option value="CRLF">CR LF (RFC 4180)</option>
              <option value="LF">LF</option>
            </Select>
          </Labelled>
          <Labelled label="List separator">
            <Input
              className="w-20"
              value={form.listDelimiter}
              onChange={(event) =>
                onChange({ ...layout, form: { ...form, listDelimiter: event.target.value } })
              }
            />
          </Labelled>
          <Check
            label="Safe for spreadsheets: no value is run as a formula"
            checked={form.formulas === 'NEUTRALISED'}
            onChange={(neutralised) =>
              onChange({
                ...layout,
                form: { ...form, formulas: neutralised ? 'NEUTRALISED' : 'AS_THEY_ARE' },
              })
            }
          />
          <Check
            label="First row holds column names"
            checked={form.header}
            onChange={(header) => onChange({ ...layout, form: { ...form, header } })}
          />
        </>
      )}
    </Token>
  );
}

function freshCsv(layout: FileLayout): Extract<FileLayout['form'], { kind: 'csv' }> {
  return layout.form.kind === 'csv'
    ? layout.form
    : {
        kind: 'csv',
        delimiter: ',',
        quoting: 'WHERE_NEEDED',
        lineEnd: 'CRLF',
        encoding: 'UTF_8',
        header: true,
        listDelimiter: ';',
      };
}

function NameToken({ layout, onChange }: Part) {
  return (
    <Token label="name" text={<span className="font-mono">{layout.fileName.pattern}</span>}>
      <Labelled
        label="File name"
        note="{date}, {time}, {run} and {route} are filled in. The extension is added."
      >
        <Input
          className="w-full font-mono"
          value={layout.fileName.pattern}
          onChange={(event) => onChange({ ...layout, fileName: { pattern: event.target.value } })}
        />
      </Labelled>
      <Labelled label="Time zone of its dates">
        <Input value={layout.zone} onChange={(event) => onChange({ ...layout, zone: event.target.value })} />
      </Labelled>
    </Token>
  );
}
