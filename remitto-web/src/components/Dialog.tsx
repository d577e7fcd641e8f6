import { AlertDialog } from 'radix-ui';
import type { ReactNode } from 'react';

interface Props {
  title: string;
  /** One sentence or two. */
  words: ReactNode;
  /** More to look at, and the buttons. */
  children: ReactNode;
  wide?: boolean;
}

/** The frame of a question that has to be answered before anything else. */
export function Dialog({ title, words, children, wide = false }: Props) {
  return (
    <AlertDialog.Portal>
      <AlertDialog.Overlay className="fixed inset-0 z-20 bg-black/40" />
      <AlertDialog.Content
        className={`rounded-card border-hairline bg-card fixed top-1/2 left-1/2 z-30 max-w-[92vw] -translate-x-1/2 -translate-y-1/2 border p-5 ${wide ? 'w-[640px]' : 'w-[440px]'}`}
      >
        <AlertDialog.Title className="m-0 text-[1.0625rem] font-semibold">{title}</AlertDialog.Title>
        <AlertDialog.Description className="text-soft my-3">{words}</AlertDialog.Description>
        {children}
      </AlertDialog.Content>
    </AlertDialog.Portal>
  );
}
