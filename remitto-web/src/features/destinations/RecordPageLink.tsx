import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';

interface Place {
  destinationId: number;
  object: string;
  remoteId: string;
}

/** Opens a record in the tool itself; nothing where the tool's profile names no page. */
export function RecordPageLink({ destinationId, object, remoteId }: Place) {
  const page = useQuery({
    queryKey: ['record-page', destinationId],
    queryFn: () =>
      ok(api.GET('/api/destinations/{id}/record-page', { params: { path: { id: destinationId } } })),
    staleTime: 10 * 60_000,
    retry: false,
  });
  if (!page.data?.template || !remoteId) return null;
  const address = page.data.template
    .replace('{object}', encodeURIComponent(object))
    .replace('{id}', encodeURIComponent(remoteId));
  return (
    <a className="text-deep underline whitespace-nowrap" href={address} target="_blank" rel="noreferrer">
      Open in destination <span aria-hidden>↗</span>
      <span className="sr-only">(new tab)</span>
    </a>
  );
}
