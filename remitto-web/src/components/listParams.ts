import { useSearchParams } from 'react-router';

/** What a list is narrowed and sorted by, kept in the address. @param prefix tells the lists of one page apart */
export function useListParams(prefix: string) {
  const [params, setParams] = useSearchParams();
  return {
    get: (key: string) => params.get(prefix + key) ?? '',
    set: (key: string, value: string) =>
      setParams(
        (before) => {
          const next = new URLSearchParams(before);
          if (value === '') next.delete(prefix + key);
          else next.set(prefix + key, value);
          return next;
        },
        { replace: true },
      ),
  };
}
