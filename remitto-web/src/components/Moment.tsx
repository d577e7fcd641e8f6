import { ago, moment } from './format';

/** A relative time with the exact one on hover. */
export function Ago({ at }: { at: string }) {
  return (
    <time dateTime={at} title={moment(at)}>
      {ago(at)}
    </time>
  );
}
