import { Popover } from 'radix-ui';
import { cloneElement, useId } from 'react';
import type {
  ButtonHTMLAttributes,
  ComponentProps,
  ReactElement,
  ReactNode,
  SelectHTMLAttributes,
} from 'react';
import { Link } from 'react-router';
import { useFocusOnArrival } from './arrival';

type ButtonKind = 'primary' | 'plain' | 'quiet';

const BUTTON: Record<ButtonKind, string> = {
  primary: 'bg-deep text-on-deep border-deep font-semibold',
  plain: 'bg-card text-ink border-hairline font-semibold hover:border-soft',
  quiet: 'border-transparent text-deep hover:bg-sunk',
};

export function Button({
  kind = 'plain',
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { kind?: ButtonKind }) {
  return (
    <button
      type="button"
      className={`rounded-button cursor-pointer border px-3 py-1.5 whitespace-nowrap disabled:cursor-default disabled:opacity-55 ${BUTTON[kind]} ${className}`}
      {...rest}
    />
  );
}

export function ButtonLink({
  to,
  kind = 'plain',
  children,
}: {
  to: string;
  kind?: ButtonKind;
  children: ReactNode;
}) {
  return (
    <Link
      to={to}
      className={`rounded-button inline-block border px-3 py-1.5 whitespace-nowrap no-underline ${BUTTON[kind]}`}
    >
      {children}
    </Link>
  );
}

export function Card({
  title,
  aside,
  children,
  className = '',
}: {
  title?: string;
  aside?: ReactNode;
  children: ReactNode;
  className?: string;
}) {
  return (
    // The block that hidden words are placed in, so that what scrolls with a wide table does not widen the page.
    <section
      className={`rounded-card border-hairline bg-card relative border max-lg:overflow-x-auto ${className}`}
    >
      {title && (
        <div className="flex items-baseline justify-between gap-3 px-4 pt-3 pb-1">
          <h2 className="text-[0.8125rem] font-semibold">{title}</h2>
          {aside && <div className="text-soft">{aside}</div>}
        </div>
      )}
      {children}
    </section>
  );
}

export function Page({
  title,
  of,
  note,
  actions,
  children,
}: {
  title: string;
  of?: string;
  note?: ReactNode;
  actions?: ReactNode;
  children: ReactNode;
}) {
  const main = useFocusOnArrival();
  return (
    <main id="main" ref={main} tabIndex={-1} className="px-5 pt-4 pb-8 outline-none">
      <title>{`${of ? `${title} ${of}` : title} · Remitto`}</title>
      <div className="mb-3 flex flex-wrap items-end justify-between gap-x-4 gap-y-2">
        <div>
          <h1 className="m-0 text-[1.25rem] leading-7 font-semibold">
            {title} {of && <span className="text-soft text-[0.9375rem] font-normal">{of}</span>}
          </h1>
          {note && <div className="text-soft">{note}</div>}
        </div>
        <div className="flex flex-wrap justify-end gap-2">{actions}</div>
      </div>
      {children}
    </main>
  );
}

export function Failure({ error }: { error: unknown }) {
  if (!error) return null;
  const problem = error as Error & { details?: { where: string; message: string }[] };
  return (
    <div
      role="alert"
      className="rounded-button border-removed bg-removed-on text-removed my-2 border px-3 py-2"
    >
      <span className="font-semibold">{problem.message}</span>
      {problem.details && problem.details.length > 1 && (
        <ul className="mt-1 list-disc pl-5">
          {problem.details.map((detail) => (
            <li key={detail.where + detail.message}>
              {detail.where && <span className="font-mono">{detail.where}: </span>}
              {detail.message}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

const BOX = 'rounded-button border-hairline bg-card text-ink border px-2 py-1.5';

export function Input({ className = '', ...rest }: ComponentProps<'input'>) {
  return <input className={`${BOX} ${className}`} {...rest} />;
}

export function Select({ className = '', ...rest }: SelectHTMLAttributes<HTMLSelectElement>) {
  return <select className={`${BOX} ${className}`} {...rest} />;
}

/** A labelled control, label above. */
export function Labelled({
  label,
  children,
  note,
}: {
  label: string;
  children: ReactElement<{ id?: string }>;
  note?: string;
}) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="text-soft mb-1 block">
        {label}
      </label>
      {cloneElement(children, { id })}
      {note && <div className="text-soft mt-1">{note}</div>}
    </div>
  );
}

/** An editable part of a sentence. */
export function Token({ label, text, children }: { label: string; text: ReactNode; children: ReactNode }) {
  return (
    <Popover.Root>
      <Popover.Trigger className="rounded-button bg-sunk hover:bg-hairline cursor-pointer px-2 py-1 font-medium">
        <span className="sr-only">{label}: </span>
        {text}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          className="rounded-card border-hairline bg-card z-20 flex max-w-[440px] flex-col gap-3 border p-4 text-[0.8125rem] shadow-lg"
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

export function Skeleton({ rows = 6 }: { rows?: number }) {
  return (
    <div role="status" aria-busy="true" aria-label="Loading" className="p-4">
      {Array.from({ length: rows }, (_, i) => (
        <div
          key={i}
          className="bg-sunk mb-2 h-5 animate-pulse rounded"
          style={{ width: `${92 - (i % 3) * 14}%` }}
        />
      ))}
    </div>
  );
}

export function Empty({ children, action }: { children: ReactNode; action?: ReactNode }) {
  return (
    <Card className="px-6 py-8">
      <p className="text-soft m-0 mb-4 max-w-[60ch]">{children}</p>
      {action}
    </Card>
  );
}

export const TH = 'text-left font-medium text-soft px-3 py-2 border-b border-hairline';
export const TD = 'px-3 py-1.5 border-b border-hairline align-top';

export function Pill({
  children,
  tone = 'plain',
}: {
  children: ReactNode;
  tone?: 'plain' | 'good' | 'warn' | 'bad' | 'held';
}) {
  const tones = {
    plain: 'bg-sunk text-soft',
    good: 'bg-added-on text-added',
    warn: 'bg-changed-on text-changed',
    bad: 'bg-removed-on text-removed',
    held: 'bg-held-on text-held',
  };
  return (
    <span
      className={`inline-block rounded px-1.5 py-px text-[0.75rem] font-medium whitespace-nowrap ${tones[tone]}`}
    >
      {children}
    </span>
  );
}
