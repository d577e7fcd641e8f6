import { type ComponentType, lazy, type ReactNode, Suspense } from 'react';
import { ErrorBoundary, type FallbackProps } from 'react-error-boundary';
import { Arrived, useArrival } from './arrival';
import { Button, Page } from './ui';

/** A page whose script comes when it is first opened. */
export function page<Name extends string>(load: () => Promise<Record<Name, ComponentType>>, name: Name) {
  return lazy(async () => ({ default: (await load())[name] }));
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
