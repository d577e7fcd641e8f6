import { at } from '../../components/base';
import type { ReactNode } from 'react';

interface Props {
  title: string;
  children: ReactNode;
  /** Absent where nothing is filled in. */
  onSubmit?: () => void;
}

/** What somebody sees who is not signed in: one form in the middle of an empty page. */
export function Entrance({ title, children, onSubmit }: Props) {
  return (
    <main className="flex min-h-screen items-center justify-center p-4">
      <form
        className="rounded-card border-hairline bg-card flex w-[370px] flex-col gap-4 border p-7"
        onSubmit={(event) => {
          event.preventDefault();
          onSubmit?.();
        }}
      >
        <div className="flex items-center gap-2 text-[1.0625rem] font-semibold">
          <img src={at('/mark.svg')} alt="" width={30} height={30} />
          Remitto
        </div>
        <h1 className="m-0 text-[1.25rem] font-semibold">{title}</h1>
        {children}
      </form>
    </main>
  );
}
