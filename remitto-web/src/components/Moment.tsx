import { ago, exact, moment } from './format';

/** A relative time with the exact one on hover. */
export function Ago({ at }: { at: string }) {
  return (
    <time dateTime={at} title={exact(at)}>
      {ago(at)}
    </time>
  );
}

/** A point in time with the exact one on hover. */
export function At({ at }: { at: string }) {
  return (
    <time dateTime={at} title={exact(at)}>
      {moment(at)}
    </time>
  );
}
