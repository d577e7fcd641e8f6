import { AlertDialog } from 'radix-ui';
import { useState, type ReactNode } from 'react';
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
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-20 bg-black/40" />
        <AlertDialog.Content
          className={`rounded-card border-hairline bg-card fixed top-1/2 left-1/2 z-30 max-w-[92vw] -translate-x-1/2 -translate-y-1/2 border p-5 ${wide ? 'w-[640px]' : 'w-[440px]'}`}
        >
          <AlertDialog.Title className="m-0 text-[1.0625rem] font-semibold">{title}</AlertDialog.Title>
          <AlertDialog.Description className="text-soft my-3">{children}</AlertDialog.Description>
          {detail && <div className="flex max-h-[55vh] flex-col gap-3 overflow-auto">{detail}</div>}
          <Failure error={error} />
          <div className="mt-4 flex flex-wrap items-center justify-end gap-2">
            {blocked && <span className="text-soft mr-auto">{blocked}</span>}
            <AlertDialog.Cancel asChild>
              <Button kind="quiet">Cancel</Button>
            </AlertDialog.Cancel>
            <Button kind="primary" disabled={pending || blocked !== ''} onClick={onAct}>
              {act}
            </Button>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
