import type { KeyboardEvent } from 'react';

function rules(list: HTMLElement | null): HTMLElement[] {
  return [...(list?.querySelectorAll<HTMLElement>('[data-rule]') ?? [])];
}

/** Puts the focus on a rule of the list. */
export function focusRule(list: HTMLElement | null, field: string | undefined) {
  rules(list)
    .find((one) => one.dataset.rule === field)
    ?.focus();
}

/** Arrow keys, Home and End go from rule to rule, while the focus is on one. */
export function walk(event: KeyboardEvent, list: HTMLElement | null) {
  const all = rules(list);
  const here = all.indexOf(document.activeElement as HTMLElement);
  if (here < 0) return;
  const to = { ArrowDown: here + 1, ArrowUp: here - 1, Home: 0, End: all.length - 1 }[event.key];
  if (to === undefined) return;
  event.preventDefault();
  all[Math.max(0, Math.min(all.length - 1, to))]?.focus();
}
