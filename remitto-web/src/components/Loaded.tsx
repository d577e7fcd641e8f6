import type { UseQueryResult } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Failure, Page, Skeleton } from './ui';

interface Props<T> {
  /** Shown while there is nothing else to call the page. */
  title: string;
  query: Pick<UseQueryResult<T>, 'data' | 'error'>;
  children: (data: T) => ReactNode;
}

/** A page about one thing: a skeleton until it is there, or why it is not. */
export function Loaded<T>({ title, query, children }: Props<T>) {
  if (query.data !== undefined) return children(query.data);
  return (
    <Page title={title}>
      <Failure error={query.error} />
      {!query.error && <Skeleton />}
    </Page>
  );
}
