import { autocompletion, type CompletionContext } from '@codemirror/autocomplete';
import { yaml } from '@codemirror/lang-yaml';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { CodeField } from '../../components/CodeField';
import { complete, type Schema } from './completion';
import { at } from '../../components/base';

export interface LineFault {
  line: number;
  place: string;
  message: string;
}

interface Props {
  text: string;
  onChange: (text: string) => void;
  faults: LineFault[];
}

function offset(text: string, line: number): number {
  const lines = text.split('\n').slice(0, Math.max(0, line - 1));
  const start = lines.reduce((sum, one) => sum + one.length + 1, 0);
  const indent = /^[\s-]*/.exec(text.slice(start))?.[0].length ?? 0;
  return start + indent;
}

/** The text of a profile, completed from its schema, with what is wrong marked at its line. */
export function YamlField({ text, onChange, faults }: Props) {
  const schema = useQuery({
    queryKey: ['profile-schema'],
    queryFn: async () => (await (await fetch(at('/api/profiles/schema'))).json()) as Schema,
    staleTime: Infinity,
  });
  const grammar = useMemo(
    () => [
      yaml(),
      autocompletion({
        override: [
          (context: CompletionContext) => {
            if (!schema.data) return null;
            const word = context.matchBefore(/[\w-]+/);
            if (!word && !context.explicit) return null;
            const line = context.state.doc.lineAt(context.pos);
            const found = complete(context.state.doc.toString(), context.pos, schema.data);
            return {
              from: line.from + found.from,
              options: found.options.map((one) => ({ ...one, type: 'property' })),
            };
          },
        ],
      }),
    ],
    [schema.data],
  );
  return (
    <CodeField
      label="Profile"
      value={text}
      onChange={onChange}
      grammar={grammar}
      faults={faults.map((fault) => ({ at: offset(text, fault.line), message: fault.message }))}
      height="560px"
    />
  );
}
