import { Card } from '../../components/ui';

/** What an erasure cannot reach; nothing where it reaches all. */
export function Unreached({ sentences }: { sentences: string[] }) {
  if (sentences.length === 0) return null;
  return (
    <Card title="Out of reach">
      <ul className="m-0 flex flex-col gap-1 px-4 pb-3 pl-8">
        {sentences.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </ul>
    </Card>
  );
}
