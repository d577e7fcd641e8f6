import { autocompletion, type CompletionContext } from '@codemirror/autocomplete';
import { PostgreSQL, sql } from '@codemirror/lang-sql';
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { lintGutter, setDiagnostics, type Diagnostic } from '@codemirror/lint';
import { EditorState, type Extension } from '@codemirror/state';
import { EditorView } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { basicSetup, minimalSetup } from 'codemirror';
import { useEffect, useRef } from 'react';
import { flushSync } from 'react-dom';

const COLOURS = HighlightStyle.define([
  { tag: tags.keyword, color: 'var(--deep)', fontWeight: '600' },
  { tag: tags.string, color: 'var(--added)' },
  { tag: tags.number, color: 'var(--changed)' },
  { tag: tags.definition(tags.propertyName), color: 'var(--deep)', fontWeight: '600' },
  { tag: tags.comment, color: 'var(--soft)', fontStyle: 'italic' },
]);

export interface CodeFault {
  /** Offset in the text, from 0. */
  at: number;
  message: string;
}

interface Props {
  label: string;
  value: string;
  onChange: (value: string) => void;
  /** Tables with their columns for SQL; absent for an expression. */
  schema?: Record<string, string[]>;
  /** Names that may be completed in an expression. */
  names?: string[];
  /** Another language with its completion; must stay the same object. */
  grammar?: Extension;
  faults: CodeFault[];
  height?: string;
  single?: boolean;
}

function language({ schema, names }: Pick<Props, 'schema' | 'names'>): Extension {
  if (schema) return sql({ dialect: PostgreSQL, schema, upperCaseKeywords: false });
  return autocompletion({
    override: [
      (context: CompletionContext) => {
        const word = context.matchBefore(/\w+/);
        if (!word && !context.explicit) return null;
        return {
          from: word?.from ?? context.pos,
          options: (names ?? []).map((label) => ({ label, type: 'variable' })),
        };
      },
    ],
  });
}

/** A text editor for SQL or an expression, with completion and faults marked at their place. */
export function CodeField(props: Props) {
  const { label, value, onChange, faults, grammar, height = '100%', single = false } = props;
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(null);
  const latest = useRef(onChange);
  const initial = useRef({ value, single, label, height });
  const dictionary = JSON.stringify([props.schema ?? null, props.names ?? null]);

  useEffect(() => {
    latest.current = onChange;
  }, [onChange]);

  useEffect(() => {
    if (!host.current) return undefined;
    const start = initial.current;
    // Told once the editor is done, and drawn at once: what is asked of the server leaves before the next frame.
    const told = (text: string) => queueMicrotask(() => flushSync(() => latest.current(text)));
    const [schema, names] = JSON.parse(dictionary) as [Record<string, string[]> | null, string[] | null];
    const editor = new EditorView({
      parent: host.current,
      state: EditorState.create({
        doc: view.current ? view.current.state.doc : start.value,
        extensions: [
          start.single ? minimalSetup : [basicSetup, lintGutter()],
          grammar ?? language({ schema: schema ?? undefined, names: names ?? undefined }),
          syntaxHighlighting(COLOURS),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ 'aria-label': start.label, tabindex: '0' }),
          EditorView.theme({ '&': { height: start.height } }),
          EditorView.updateListener.of((update) => {
            if (update.docChanged) told(update.state.doc.toString());
          }),
        ],
      }),
    });
    view.current = editor;
    return () => {
      start.value = editor.state.doc.toString();
      editor.destroy();
      view.current = null;
    };
  }, [dictionary, grammar]);

  useEffect(() => {
    const editor = view.current;
    if (editor && editor.state.doc.toString() !== value)
      editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: value } });
  }, [value]);

  const marks = JSON.stringify(faults);
  useEffect(() => {
    const editor = view.current;
    if (!editor) return;
    const length = editor.state.doc.length;
    const diagnostics: Diagnostic[] = (JSON.parse(marks) as CodeFault[]).map((fault) => {
      const from = Math.max(0, Math.min(fault.at, length));
      const word = editor.state.wordAt(from);
      return {
        from: word?.from ?? from,
        to: word?.to ?? Math.min(from + 1, length),
        severity: 'error',
        message: fault.message,
      };
    });
    editor.dispatch(setDiagnostics(editor.state, diagnostics));
  }, [marks, dictionary, grammar]);

  return (
    <div
      ref={host}
      className="border-hairline rounded-button h-full overflow-hidden border"
      aria-label={label}
      role="group"
    />
  );
}
