import { unifiedMergeView } from '@codemirror/merge';
import { EditorState } from '@codemirror/state';
import { EditorView } from '@codemirror/view';
import { minimalSetup } from 'codemirror';
import { useEffect, useRef } from 'react';

interface Props {
  label: string;
  before: string;
  after: string;
  height?: string;
}

/** Two texts as one, with what went and what came; what is the same is folded away. */
export function TextDifferences({ label, before, after, height = '320px' }: Props) {
  const host = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!host.current) return undefined;
    const view = new EditorView({
      parent: host.current,
      state: EditorState.create({
        doc: after,
        extensions: [
          minimalSetup,
          EditorState.readOnly.of(true),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ 'aria-label': label, tabindex: '0' }),
          EditorView.theme({
            '&': { maxHeight: height },
            '.cm-scroller': { overflow: 'auto' },
            '&.cm-merge-b .cm-changedLine': { backgroundColor: 'var(--added-on)' },
            '&.cm-merge-b .cm-changedText, .cm-insertedLine': { background: 'none', color: 'var(--added)' },
            '.cm-deletedChunk': { backgroundColor: 'var(--removed-on)' },
            '.cm-deletedChunk .cm-deletedText, .cm-deletedLine': {
              background: 'none',
              color: 'var(--removed)',
            },
            '.cm-collapsedLines': { background: 'var(--sunk)', color: 'var(--soft)' },
          }),
          unifiedMergeView({
            original: before,
            mergeControls: false,
            gutter: false,
            collapseUnchanged: { margin: 2, minSize: 4 },
          }),
        ],
      }),
    });
    return () => view.destroy();
  }, [label, before, after, height]);
  if (before === after) return <p className="text-soft m-0">No differences.</p>;
  return (
    <div
      ref={host}
      className="border-hairline rounded-button overflow-hidden border"
      aria-label={label}
      role="group"
    />
  );
}
