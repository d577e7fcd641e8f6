/** What of JSON Schema (draft 2020-12) the profile schema uses, as far as completion needs it. */
export interface Schema {
  $ref?: string;
  $defs?: Record<string, Schema>;
  type?: string;
  description?: string;
  enum?: string[];
  properties?: Record<string, Schema>;
  items?: Schema;
  allOf?: Schema[];
  then?: Schema;
  else?: Schema;
}

export interface Suggestion {
  label: string;
  /** What is put into the text. */
  apply: string;
  info?: string;
}

/** Where the word that is being typed begins in its line, and what may stand there. */
export interface Suggestions {
  from: number;
  options: Suggestion[];
}

/** Every form a part may take: itself, what it refers to, and what holds under conditions. */
function forms(schema: Schema | undefined, root: Schema): Schema[] {
  if (!schema) return [];
  const named = schema.$ref?.replace('#/$defs/', '');
  return [
    schema,
    ...forms(named ? root.$defs?.[named] : undefined, root),
    ...(schema.allOf ?? []).flatMap((one) => forms(one, root)),
    ...forms(schema.then, root),
    ...forms(schema.else, root),
  ];
}

function at(path: string[], root: Schema): Schema[] {
  return path.reduce<Schema[]>(
    (here, step) =>
      here
        .flatMap((one) => forms(one, root))
        .flatMap((one) => (step === '-' ? [one.items] : [one.properties?.[step]]))
        .filter((one) => one !== undefined),
    [root],
  );
}

const KEY = /^(\s*(?:- )*)([A-Za-z_][\w-]*):(?:\s|$)/;

function indent(line: string): number {
  return line.length - line.trimStart().length;
}

/** Names from the top to the mapping that a line of this indentation stands in; `-` is an item of a list. */
function container(lines: string[], depth: number): string[] {
  const path: string[] = [];
  let limit = depth;
  for (let i = lines.length - 1; i >= 0 && limit > 0; i--) {
    const line = lines[i] ?? '';
    if (line.trim() === '' || line.trim().startsWith('#') || indent(line) >= limit) continue;
    const key = KEY.exec(line);
    const dashes = (/^\s*((?:- )*)/.exec(line)?.[1]?.length ?? 0) / 2;
    const keyAt = key?.[1]?.length ?? indent(line);
    if (key && keyAt < limit) path.unshift(key[2] ?? '');
    for (let d = 0; d < dashes; d++) path.unshift('-');
    limit = indent(line);
  }
  return path;
}

/** Names that stand beside a line already. */
function siblings(before: string[], after: string[], depth: number): Set<string> {
  const names = new Set<string>();
  const take = (lines: string[]) => {
    for (const line of lines) {
      if (line.trim() === '') continue;
      const key = KEY.exec(line);
      const keyAt = key?.[1]?.length ?? indent(line);
      if (key && keyAt === depth) names.add(key[2] ?? '');
      if (indent(line) < depth) return;
    }
  };
  take([...before].reverse());
  take(after);
  return names;
}

function names(schemas: Schema[], root: Schema, taken: Set<string>, block: boolean): Suggestion[] {
  const found = new Map<string, Suggestion>();
  for (const form of schemas.flatMap((one) => forms(one, root)))
    for (const [label, schema] of Object.entries(form.properties ?? {}))
      if (!taken.has(label) && !found.has(label)) {
        const shape = forms(schema, root);
        const nested = shape.some((one) => one.properties !== undefined);
        found.set(label, {
          label,
          apply: nested && block ? `${label}:` : `${label}: `,
          info: shape.find((one) => one.description)?.description,
        });
      }
  return [...found.values()];
}

function values(schemas: Schema[], root: Schema): Suggestion[] {
  const all = schemas.flatMap((one) => forms(one, root));
  const words = all.flatMap((one) => one.enum ?? (one.type === 'boolean' ? ['true', 'false'] : []));
  const info = all.find((one) => one.description)?.description;
  return [...new Set(words)].map((label) => ({ label, apply: label, info }));
}

/** The innermost mapping in braces that is open at the end of a text, with its names so far. */
function flow(text: string): { before: string; inside: string } | undefined {
  let depth = 0;
  for (let i = text.length - 1; i >= 0; i--) {
    if (text[i] === '}') depth++;
    else if (text[i] === '{') {
      if (depth === 0) return { before: text.slice(0, i), inside: text.slice(i + 1) };
      depth--;
    }
  }
  return undefined;
}

/** What may stand at a place of a profile. */
export function complete(text: string, position: number, root: Schema): Suggestions {
  const before = text.slice(0, position).split('\n');
  const after = text.slice(position).split('\n').slice(1);
  const line = before.pop() ?? '';
  const word = /[\w-]*$/.exec(line)?.[0] ?? '';
  const from = line.length - word.length;
  const open = flow(line);
  if (open) {
    const lead = KEY.exec(open.before);
    const dashes = (/^\s*((?:- )*)/.exec(open.before)?.[1]?.length ?? 0) / 2;
    const path = [
      ...container(before, indent(open.before)),
      ...Array.from({ length: dashes }, () => '-'),
      ...(lead ? [lead[2] ?? ''] : []),
    ];
    const parts = open.inside.split(',');
    const last = parts.pop() ?? '';
    const value = /^\s*([\w-]+):\s+[\w-]*$/.exec(last);
    if (value) return { from, options: values(at([...path, value[1] ?? ''], root), root) };
    const taken = new Set(parts.map((part) => part.split(':')[0]?.trim() ?? ''));
    return { from, options: names(at(path, root), root, taken, false) };
  }
  const value = /^\s*(?:- )*([A-Za-z_][\w-]*):\s+[\w-]*$/.exec(line);
  const lead = /^\s*((?:- )*)/.exec(line);
  const depth = lead?.[0].length ?? 0;
  const dashes = (lead?.[1]?.length ?? 0) / 2;
  const path = [...container(before, indent(line)), ...Array.from({ length: dashes }, () => '-')];
  if (value) return { from, options: values(at([...path, value[1] ?? ''], root), root) };
  if (line.slice(depth).trim() !== word) return { from, options: [] };
  return { from, options: names(at(path, root), root, siblings(before, after, depth), true) };
}
