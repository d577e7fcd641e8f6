import { AlertDialog } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { Dialog } from './Dialog';
import { Button, Failure } from './ui';

interface Props {
  /** What opens the question. */
  trigger: ReactNode;
  title: string;
  children: ReactNode;
  /** More to look at before deciding, shown below the words. */
  detail?: ReactNode;
  wide?: boolean;
  /** Why it cannot be done yet; empty if it can. */
  blocked?: string;
  /** What can be done instead, beside the buttons. */
  aside?: ReactNode;
  /** What doing it is called. */
  act: string;
  pending: boolean;
  error: Error | null;
  onAct: () => void;
  /** The question was opened or closed. */
  onOpenChange?: (open: boolean) => void;
}

/** Asks once before something is done that has consequences. Closes by itself only when it is cancelled. */
export function AskFirst({
  trigger,
  title,
  children,
  detail,
  wide = false,
  blocked = '',
  aside,
  act,
  pending,
  error,
  onAct,
  onOpenChange,
}: Props) {
  const [open, setOpen] = useState(false);
  return (
    <AlertDialog.Root
      open={open}
      onOpenChange={(next) => {
        setOpen(next);
        onOpenChange?.(next);
      }}
    >
      <AlertDialog.Trigger asChild>{trigger}</AlertDialog.Trigger>
      <Dialog title={title} words={children} wide={wide}>
        {detail && <div className="flex max-h-[55vh] flex-col gap-3 overflow-auto">{detail}</div>}
        <Failure error={error} />
        <div className="mt-4 flex flex-wrap items-center justify-end gap-2">
          {blocked && <span className="text-soft mr-auto">{blocked}</span>}
          {aside}
          <AlertDialog.Cancel asChild>
            <Button kind="quiet">Cancel</Button>
          </AlertDialog.Cancel>
          <Button kind="primary" disabled={pending || blocked !== ''} onClick={onAct}>
            {act}
          </Button>
        </div>
      </Dialog>
    </AlertDialog.Root>
  );
}
