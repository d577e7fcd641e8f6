import { useEffect, useEffectEvent, useState } from 'react';
import { useBlocker } from 'react-router';
import { Dialog } from '../../components/Dialog';
import { At } from '../../components/Moment';
import { Button, Input } from '../../components/ui';
import { AlertDialog } from 'radix-ui';
import { Editors } from '../session/Editors';
import type { Edit } from './useDraft';

interface Props {
  edit: Omit<Edit<unknown>, 'change' | 'value'>;
  /** The latest version; 0 for none. */
  version: number;
  /** Nothing is saved yet, so that there is nothing to go back to. */
  isNew?: boolean;
  /** Who saved it. */
  author?: string;
  pending: boolean;
  /** Why it cannot be saved as it is; empty if it can. */
  blocked?: string;
  onSave: (note: string) => void;
}

/** What was changed and not saved, at the foot of the window: how it is kept, and how it is saved or discarded. */
export function EditBar({
  edit,
  version,
  isNew = version === 0,
  author,
  pending,
  blocked = '',
  onSave,
}: Props) {
  const [note, setNote] = useState('');
  const stops = pending || edit.overtaken || blocked !== '';
  const saveByKey = useEffectEvent((event: KeyboardEvent) => {
    if (!(event.ctrlKey || event.metaKey) || event.key !== 's') return;
    event.preventDefault();
    if (!stops && (edit.changed || isNew)) onSave(note);
  });
  useEffect(() => {
    document.addEventListener('keydown', saveByKey);
    return () => document.removeEventListener('keydown', saveByKey);
  }, []);
  if (!edit.changed && !isNew) return null;
  return (
    <Editors>
      <div
        role="region"
        aria-label="Unsaved changes"
        className="border-hairline bg-card bottom-0 z-[5] -mx-5 mt-4 -mb-8 flex flex-wrap items-center justify-between gap-x-4 gap-y-2 border-t px-5 py-2.5 [@media(min-height:30rem)]:sticky shadow-[0_-4px_12px_rgb(0_0_0/0.06)]"
      >
        <div className="min-w-0 flex-1 basis-[260px]">
          {edit.overtaken ? (
            <span>
              Version {version}
              {author && ` by ${author}`} was saved after you began from version {edit.basedOn}. Saving
              replaces its changes.{' '}
              <Button kind="quiet" onClick={edit.rebase}>
                Continue anyway
              </Button>
            </span>
          ) : (
            <DraftState edit={edit} isNew={isNew} />
          )}
          {blocked && <span className="text-soft block">{blocked}</span>}
        </div>
        <div className="flex flex-wrap items-center gap-2">
          {!isNew && (
            <Input
              aria-label="Note on this version"
              placeholder="what changed, and why"
              className="w-[200px]"
              value={note}
              onChange={(e) => setNote(e.target.value)}
            />
          )}
          {edit.changed && <Button onClick={edit.discard}>Discard changes</Button>}
          <Button kind="primary" disabled={stops} title="Ctrl+S" onClick={() => onSave(note)}>
            Save version {version + 1}
          </Button>
        </div>
      </div>
      {edit.keeping.state === 'failed' && <AskBeforeLeaving />}
    </Editors>
  );
}

/** How it stands with keeping an edit, in words. */
export function DraftState({ edit, isNew }: Pick<Props, 'edit'> & { isNew: boolean }) {
  const { keeping } = edit;
  if (keeping.state === 'failed') {
    return (
      <span role="alert" className="text-removed">
        These changes are not kept as a draft: {keeping.error.message}
      </span>
    );
  }
  if (!edit.changed) return <span className="text-soft">Nothing is saved yet.</span>;
  if (keeping.state === 'kept' && edit.restoredAt === keeping.at) {
    return (
      <span role="status">
        Restored your unsaved changes from <At at={keeping.at} />.
      </span>
    );
  }
  return (
    <span>
      {isNew ? 'Not saved' : 'Unsaved changes'}
      <span className="text-soft">
        {keeping.state === 'kept' ? (
          <>
            , kept as a draft at <At at={keeping.at} />
          </>
        ) : (
          ', being kept as a draft'
        )}
        .
      </span>
    </span>
  );
}

/** Only where nothing was kept: whoever leaves is asked, and closing the window asks too. */
function AskBeforeLeaving() {
  const leaving = useBlocker(
    ({ currentLocation, nextLocation }) => currentLocation.pathname !== nextLocation.pathname,
  );
  useEffect(() => {
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, []);
  if (leaving.state !== 'blocked') return null;
  return (
    <AlertDialog.Root open onOpenChange={(open) => !open && leaving.reset()}>
      <Dialog
        title="Leave without your changes?"
        words="They could not be kept as a draft, so leaving this page loses them."
      >
        <div className="mt-4 flex justify-end gap-2">
          <AlertDialog.Cancel asChild>
            <Button kind="primary">Stay</Button>
          </AlertDialog.Cancel>
          <Button onClick={() => leaving.proceed()}>Leave</Button>
        </div>
      </Dialog>
    </AlertDialog.Root>
  );
}
