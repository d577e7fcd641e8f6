import { useQueryClient } from '@tanstack/react-query';
import { type Dispatch, type SetStateAction, useCallback, useEffect, useRef, useState } from 'react';
import type { Draft } from '../../api/types';
import { useIsEditor } from '../session/useSession';
import { discardDraft, keepDraft, type Place } from './draftCalls';

const SETTLED_MILLIS = 700;

/** How it stands with keeping an edit. */
export type Keeping =
  | { state: 'none' }
  | { state: 'keeping' }
  | { state: 'kept'; at: string }
  | { state: 'failed'; error: Error };

export interface Edit<T> {
  value: T;
  change: Dispatch<SetStateAction<T>>;
  /** It differs from what is saved. */
  changed: boolean;
  /** The version that the edit began from. */
  basedOn: number;
  /** When the draft that the page began from was kept. */
  restoredAt?: string;
  /** A later version was saved since the edit began. */
  overtaken: boolean;
  keeping: Keeping;
  /** Goes on from the latest version, whose changes the edit then replaces. */
  rebase: () => void;
  /** Goes back to what is saved. */
  discard: () => void;
  /** It was saved as a version, so that nothing is left to keep. */
  saved: () => void;
}

interface Options<T> {
  place: Place;
  /** What is saved, or what something new begins with. */
  saved: T;
  /** The latest version; 0 for something new. */
  version: number;
  draft: Draft | undefined;
}

/** An edit that is kept on the server while it is made. A kept edit that lacks a part has that part as it is saved. */
export function useDraft<T extends object>({ place, saved, version, draft }: Options<T>): Edit<T> {
  const client = useQueryClient();
  const editor = useIsEditor();
  const [value, change] = useState<T>(() => (draft ? { ...saved, ...(draft.content as T) } : saved));
  const [basedOn, setBasedOn] = useState(draft?.basedOn ?? version);
  const [restoredAt, setRestoredAt] = useState(draft?.savedAt);
  const [keeping, setKeeping] = useState<Keeping>(
    draft ? { state: 'kept', at: draft.savedAt } : { state: 'none' },
  );
  const savedText = JSON.stringify(saved);
  const text = JSON.stringify(value);
  const changed = text !== savedText;
  const now = useRef({ value, text, changed, basedOn, place, editor });
  // Empty once there is nothing left to keep, so that leaving the page writes nothing.
  const kept = useRef<{ text: string; basedOn: number } | undefined>({
    text: draft ? text : savedText,
    basedOn: draft?.basedOn ?? version,
  });

  const keep = useCallback(() => {
    const edit = now.current;
    const before = kept.current;
    if (!edit.editor || !before || (before.text === edit.text && before.basedOn === edit.basedOn)) return;
    kept.current = { text: edit.text, basedOn: edit.basedOn };
    setKeeping({ state: 'keeping' });
    const call = edit.changed
      ? keepDraft(client, edit.place, edit.basedOn, edit.value).then((answer) => answer.draft?.savedAt)
      : discardDraft(client, edit.place).then(() => undefined);
    call.then(
      (at) => setKeeping(at ? { state: 'kept', at } : { state: 'none' }),
      (error: Error) => {
        // What was not kept is tried again at the next change, and when the page is left.
        if (kept.current?.text === edit.text) kept.current = { text: '', basedOn: -1 };
        setKeeping({ state: 'failed', error });
      },
    );
  }, [client]);

  useEffect(() => {
    now.current = { value, text, changed, basedOn, place, editor };
  });
  useEffect(() => {
    const timer = setTimeout(keep, SETTLED_MILLIS);
    return () => clearTimeout(timer);
  }, [text, basedOn, keep]);
  useEffect(() => {
    window.addEventListener('pagehide', keep);
    return () => {
      window.removeEventListener('pagehide', keep);
      keep();
    };
  }, [keep]);

  return {
    value,
    change,
    changed,
    basedOn,
    restoredAt: changed ? restoredAt : undefined,
    overtaken: changed && basedOn < version,
    keeping,
    rebase: () => setBasedOn(version),
    discard: () => {
      change(saved);
      setBasedOn(version);
      setRestoredAt(undefined);
    },
    saved: () => {
      kept.current = undefined;
      void discardDraft(client, place);
    },
  };
}
