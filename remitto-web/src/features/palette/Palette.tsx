import { Command } from 'cmdk';
import { useEffect, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { Failure } from '../../components/ui';
import { useIsEditor } from '../session/useSession';
import { MAKING, PAGES, type Place } from './places';
import { useActs } from './useActs';
import { useFound } from './useFound';
import { useNamed } from './useNamed';

/** Says that an entry was found by the server, so that it is shown whatever was typed. */
const FOUND = 'found by the server';

/** With nothing typed, only so many of each kind are shown. */
const BEGIN = 4;

/** All words that were typed stand in the name, in any order; at its beginning is better. */
export function fits(value: string, search: string, keywords: string[] = []): number {
  if (keywords.includes(FOUND)) return 1;
  const name = value.toLowerCase();
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  if (!words.every((word) => name.includes(word))) return 0;
  return name.startsWith(words[0] ?? '') ? 1 : 0.5;
}

interface Props {
  open: boolean;
  onOpen: (open: boolean) => void;
}

/** Finds people, records, things with a name, pages, and what can be done, by typing. */
export function Palette({ open, onOpen }: Props) {
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key === 'k') {
        event.preventDefault();
        onOpen(true);
      }
    };
    document.addEventListener('keydown', listen);
    return () => document.removeEventListener('keydown', listen);
  }, [onOpen]);
  return (
    <Command.Dialog
      open={open}
      onOpenChange={onOpen}
      label="Search"
      filter={fits}
      overlayClassName="fixed inset-0 z-30 bg-board/40"
      contentClassName="fixed top-[12vh] left-1/2 z-40 w-[620px] max-w-[94vw] -translate-x-1/2"
    >
      {open && <Finding onClose={() => onOpen(false)} />}
    </Command.Dialog>
  );
}

function Finding({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate();
  const editor = useIsEditor();
  const [text, setText] = useState('');
  const named = useNamed(true);
  const found = useFound(text, true);
  const { acts, act } = useActs(named.routes, onClose);
  const typed = text.trim() !== '';
  const go = (place: Place) => {
    onClose();
    void navigate(place.to);
  };
  const some = (places: Place[]) => (typed ? places : places.slice(0, BEGIN));
  return (
    <div className="rounded-card border-hairline bg-card border shadow-xl">
      <Command.Input
        value={text}
        onValueChange={setText}
        placeholder="Find a person, a record, a page, or something to do"
        className="border-hairline w-full border-b bg-transparent px-4 py-3 text-[0.875rem] outline-none"
      />
      <Failure error={act.error ?? found.error} />
      <Command.List className="max-h-[min(420px,60vh)] overflow-auto p-2">
        <Command.Empty className="text-soft px-3 py-2">
          {found.looking ? 'Looking…' : 'No results.'}
        </Command.Empty>
        {typed &&
          found.groups.map((group) => (
            <Places key={group.title} title={group.title} places={group.places} found onGo={go} />
          ))}
        {named.groups.map((group) => (
          <Places key={group.title} title={group.title} places={some(group.places)} onGo={go} />
        ))}
        <Places title="Pages" places={editor ? [...PAGES, ...MAKING] : PAGES} onGo={go} />
        {typed && acts.length > 0 && (
          <Group title="Actions">
            {acts.map((one) => (
              <Item key={one.id} id={one.id} name={one.name} onSelect={() => act.mutate(one)} />
            ))}
          </Group>
        )}
      </Command.List>
      <p className="text-soft border-hairline m-0 border-t px-4 py-1.5 text-[0.75rem]">
        By name, address, phone, key or id. Arrow keys to move, Enter to open, Escape to close.
      </p>
    </div>
  );
}

function Places({
  title,
  places,
  found = false,
  onGo,
}: {
  title: string;
  places: Place[];
  found?: boolean;
  onGo: (place: Place) => void;
}) {
  if (places.length === 0) return null;
  return (
    <Group title={title}>
      {places.map((place) => (
        <Item
          key={place.id}
          id={place.id}
          name={place.name}
          note={place.note}
          found={found}
          onSelect={() => onGo(place)}
        />
      ))}
    </Group>
  );
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Command.Group
      heading={title}
      className="[&_[cmdk-group-heading]]:text-soft [&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:pb-0.5 [&_[cmdk-group-heading]]:text-[0.75rem]"
    >
      {children}
    </Command.Group>
  );
}

function Item({
  id,
  name,
  note,
  found = false,
  onSelect,
}: {
  id: string;
  name: string;
  note?: string;
  found?: boolean;
  onSelect: () => void;
}) {
  return (
    <Command.Item
      value={`${name} ${note ?? ''} ${id}`}
      keywords={found ? [FOUND] : []}
      onSelect={onSelect}
      className="rounded-button data-[selected=true]:bg-sunk flex cursor-pointer justify-between gap-4 px-3 py-1.5"
    >
      <span>{name}</span>
      {note && <span className="text-soft truncate">{note}</span>}
    </Command.Item>
  );
}
