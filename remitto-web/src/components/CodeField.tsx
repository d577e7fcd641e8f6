import { autocompletion, type CompletionContext } from '@codemirror/autocomplete';
import { PostgreSQL, sql, type SQLDialect } from '@codemirror/lang-sql';
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { lintGutter, setDiagnostics, type Diagnostic } from '@codemirror/lint';
import { Compartment, EditorState, type Extension, Prec } from '@codemirror/state';
import { EditorView, keymap } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { basicSetup, minimalSetup } from 'codemirror';
import { type Ref, useEffect, useImperativeHandle, useMemo, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { useIsEditor } from '../features/session/useSession';

const COLOURS = HighlightStyle.define([
  { tag: tags.keyword, color: 'var(--deep)', fontWeight: '600' },
  { tag: tags.string, color: 'var(--added)' },
  { tag: tags.number, color: 'var(--changed)' },
  { tag: tags.definition(tags.propertyName), color: 'var(--deep)', fontWeight: '600' },
  { tag: tags.comment, color: 'var(--soft)', fontStyle: 'italic' },
]);

/** What the editor itself paints, in the colours of the theme. */
const LOOK = EditorView.theme({
  '.cm-activeLine': { backgroundColor: 'color-mix(in srgb, var(--sunk) 45%, transparent)' },
  '.cm-activeLineGutter': { backgroundColor: 'var(--sunk)', color: 'var(--ink)' },
  '.cm-tooltip': {
    backgroundColor: 'var(--card)',
    color: 'var(--ink)',
    border: '1px solid var(--hairline)',
    borderRadius: '6px',
  },
  '.cm-tooltip.cm-tooltip-autocomplete > ul > li': { padding: '2px 8px' },
  '.cm-tooltip-autocomplete ul li[aria-selected]': {
    backgroundColor: 'var(--sunk)',
    color: 'var(--ink)',
  },
  '.cm-completionMatchedText': { textDecoration: 'none', fontWeight: '600', color: 'var(--deep)' },
  '.cm-completionDetail': { color: 'var(--soft)', fontStyle: 'normal' },
});

export interface CodeFault {
  /** Offset in the text, from 0. */
  at: number;
  message: string;
}

/** What can be done to a field from outside. */
export interface CodeHandle {
  /** Writes a text where the cursor is, in place of what is selected. */
  insert: (text: string) => void;
}

interface Props {
  ref?: Ref<CodeHandle>;
  label: string;
  value: string;
  onChange: (value: string) => void;
  /** Tables with their columns for SQL; absent for an expression. */
  schema?: Record<string, string[]>;
  /** What SQL it is; PostgreSQL where nothing is said. Must stay the same object. */
  dialect?: SQLDialect;
  /** Names that may be completed in an expression. */
  names?: string[];
  /** Another language with its completion; must stay the same object. */
  grammar?: Extension;
  faults: CodeFault[];
  /** What Ctrl+Enter does. */
  onRun?: () => void;
  height?: string;
  single?: boolean;
}

function language({ schema, names, dialect }: Pick<Props, 'schema' | 'names' | 'dialect'>): Extension {
  if (schema) return sql({ dialect: dialect ?? PostgreSQL, schema, upperCaseKeywords: false });
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
  const { label, value, onChange, faults, grammar, dialect, height = '100%', single = false } = props;
  const host = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView>(null);
  const latest = useRef(onChange);
  const run = useRef(props.onRun);
  const readOnly = !useIsEditor();
  const dictionary = JSON.stringify([props.schema ?? null, props.names ?? null]);
  const [parts] = useState(() => ({ language: new Compartment(), readOnly: new Compartment() }));
  const words = useMemo(() => {
    const [schema, names] = JSON.parse(dictionary) as [Record<string, string[]> | null, string[] | null];
    return grammar ?? language({ schema: schema ?? undefined, names: names ?? undefined, dialect });
  }, [dictionary, grammar, dialect]);
  const initial = useRef({ value, single, label, height, words, readOnly });

  useEffect(() => {
    latest.current = onChange;
    run.current = props.onRun;
  });
  useImperativeHandle(props.ref, () => ({
    insert: (text) => {
      const editor = view.current;
      if (!editor) return;
      editor.dispatch(editor.state.replaceSelection(text));
      editor.focus();
    },
  }));

  useEffect(() => {
    if (!host.current) return undefined;
    const start = initial.current;
    // Told once the editor is done, and drawn at once: what is asked of the server leaves before the next frame.
    const told = (text: string) => queueMicrotask(() => flushSync(() => latest.current(text)));
    const editor = new EditorView({
      parent: host.current,
      state: EditorState.create({
        doc: start.value,
        extensions: [
          Prec.highest(
            keymap.of([
              {
                key: 'Mod-Enter',
                run: () => {
                  run.current?.();
                  return run.current !== undefined;
                },
              },
            ]),
          ),
          start.single ? minimalSetup : [basicSetup, lintGutter()],
          parts.language.of(start.words),
          syntaxHighlighting(COLOURS),
          EditorView.lineWrapping,
          parts.readOnly.of(EditorState.readOnly.of(start.readOnly)),
          EditorView.contentAttributes.of({ 'aria-label': start.label, tabindex: '0' }),
          EditorView.theme({ '&': { height: start.height } }),
          LOOK,
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
  }, [parts]);

  // Told to the same editor: one made anew would lose what is being typed at that moment.
  useEffect(() => {
    view.current?.dispatch({
      effects: [
        parts.language.reconfigure(words),
        parts.readOnly.reconfigure(EditorState.readOnly.of(readOnly)),
      ],
    });
  }, [parts, words, readOnly]);

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
  }, [marks]);

  return (
    <div
      ref={host}
      className="border-hairline rounded-button h-full overflow-hidden border"
      aria-label={label}
      role="group"
    />
  );
}
