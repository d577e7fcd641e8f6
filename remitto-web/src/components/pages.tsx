import { type ComponentType, lazy, type ReactNode, Suspense, useEffect } from 'react';
import { ErrorBoundary, type FallbackProps } from 'react-error-boundary';
import { Arrived, useArrival } from './arrival';
import { Button, Page } from './ui';

const PAGES: (() => Promise<unknown>)[] = [];

/** A page whose script comes when it is first opened, or once the browser has nothing else to do. */
export function page<Name extends string>(load: () => Promise<Record<Name, ComponentType>>, name: Name) {
  PAGES.push(load);
  return lazy(async () => ({ default: (await load())[name] }));
}

/** After this the page that was asked for stands, and the rest may come. */
const SETTLED = 1500;

/** Fetches the scripts of all pages one after another while nothing else goes on, so that a click on any of them waits for data alone. */
export function usePagesAhead(wanted: boolean) {
  useEffect(() => {
    if (!wanted) return;
    const left = [...PAGES];
    let over = false;
    const whenIdle = window.requestIdleCallback ?? ((then: () => void) => window.setTimeout(then, 50));
    const next = () => {
      const load = left.shift();
      if (!load || over) return;
      // What does not come now is fetched, and complained of, when its page is opened.
      void load()
        .catch(() => undefined)
        .then(() => whenIdle(next));
    };
    const begun = window.setTimeout(() => whenIdle(next), SETTLED);
    return () => {
      over = true;
      window.clearTimeout(begun);
    };
  }, [wanted]);
}

/** Scripts of another version are gone once a newer one was installed; the browsers name this differently. */
const GONE = /dynamically imported module|module script|Importing a module/i;

function Broken({ error }: FallbackProps) {
  const words = error instanceof Error ? error.message : String(error);
  return GONE.test(words) ? (
    <Page title="A newer version was installed">
      <p role="alert" className="mt-0 mb-3">
        This page belongs to an older version. Everything you saved is kept.
      </p>
      <Button kind="primary" onClick={() => location.reload()}>
        Reload
      </Button>
    </Page>
  ) : (
    <Page title="This page failed to load">
      <p role="alert" className="mt-0 mb-3">
        Nothing was changed, and the other pages still work. If it keeps failing, discard its draft on your
        account page. Details for support: <code>{words}</code>
      </p>
      <Button kind="primary" onClick={() => location.reload()}>
        Reload
      </Button>
    </Page>
  );
}

/** What one page does wrong stops at its edge, and is forgotten at the next address. */
export function Pages({ at, children }: { at: string; children: ReactNode }) {
  const arrived = useArrival(at);
  return (
    <ErrorBoundary FallbackComponent={Broken} resetKeys={[at]}>
      <Suspense
        fallback={
          <p role="status" className="sr-only">
            Loading the page
          </p>
        }
      >
        <Arrived value={arrived}>{children}</Arrived>
      </Suspense>
    </ErrorBoundary>
  );
}
