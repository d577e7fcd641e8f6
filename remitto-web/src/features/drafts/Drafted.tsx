import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import type { Draft } from '../../api/types';
import { Page, Skeleton } from '../../components/ui';
import { useIsEditor } from '../session/useSession';
import { draftKey, readDraft, type Spot } from './draftCalls';

interface Props {
  place: Spot;
  /** Title of the page while it is not known whether there is a draft; absent within a page. */
  title?: string;
  children: (draft: Draft | undefined) => ReactNode;
}

/**
 * What a user left, for those who may edit. A page that first waits for something else asks here at once, so that both come together.
 */
export function useKeptDraft(place: Spot, wanted = true) {
  const editor = useIsEditor();
  return useQuery({
    queryKey: draftKey(place),
    queryFn: () => readDraft(place),
    enabled: editor && wanted,
    gcTime: 0,
  });
}

/** An editor that begins from what its user left. Without an answer it begins from what is saved. */
export function Drafted({ place, title, children }: Props) {
  const editor = useIsEditor();
  const kept = useKeptDraft(place);
  if (editor && kept.isPending) {
    if (!title) return <Skeleton rows={3} />;
    return (
      <Page title={title}>
        <Skeleton />
      </Page>
    );
  }
  return children(kept.data?.draft);
}
