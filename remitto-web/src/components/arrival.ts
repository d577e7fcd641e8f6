import { createContext, useContext, useEffect, useRef } from 'react';
import { useNavigationType } from 'react-router';

/** Whether the reader came to this page from another one of ours. */
export const Arrived = createContext(false);

/** Begins a page that was opened by a link at its top; going back stays where the reader was. */
export function useArrival(at: string): boolean {
  const kind = useNavigationType();
  const first = useRef(at);
  const moved = first.current !== at;
  useEffect(() => {
    if (first.current === at || kind === 'POP') return;
    window.scrollTo(0, 0);
  }, [at, kind]);
  return moved;
}

/** Where the reader goes on with the keyboard: in the page, unless something on it has the focus already. */
export function useFocusOnArrival() {
  const main = useRef<HTMLElement>(null);
  const arrived = useContext(Arrived);
  useEffect(() => {
    const here = main.current;
    if (arrived && here && !here.contains(document.activeElement)) here.focus({ preventScroll: true });
  }, [arrived]);
  return main;
}
