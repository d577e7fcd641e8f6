export interface Nickname {
  nickname: string;
  name: string;
}

/** A line each; lines without a comma are still being written. */
export function nicknamesOf(text: string): Nickname[] {
  return text
    .split('\n')
    .map((line) => line.split(',').map((word) => word.trim()))
    .filter((words) => words.length === 2 && words.every((word) => word !== ''))
    .map(([nickname = '', name = '']) => ({ nickname, name }));
}

export function nicknamesText(pairs: Nickname[]): string {
  return pairs.map((pair) => `${pair.nickname}, ${pair.name}`).join('\n');
}

/** A short form with all the names that it stands for. */
export interface ShortForm {
  nickname: string;
  names: string[];
}

/** The short forms in which, or in a name of which, a text stands; all of them for none. */
export function shortFormsOf(pairs: Nickname[], wanted: string): ShortForm[] {
  const byNickname = new Map<string, string[]>();
  for (const { nickname, name } of pairs) {
    byNickname.set(nickname, [...(byNickname.get(nickname) ?? []), name]);
  }
  const sought = wanted.trim().toLowerCase();
  return [...byNickname]
    .map(([nickname, names]) => ({ nickname, names }))
    .filter((one) => [one.nickname, ...one.names].some((word) => word.includes(sought)))
    .sort(
      (one, other) =>
        nearness(other.nickname, sought) - nearness(one.nickname, sought) ||
        one.nickname.localeCompare(other.nickname),
    );
}

/** The very one comes first, then those that begin so, then those that are found by a name. */
function nearness(nickname: string, sought: string): number {
  return nickname === sought ? 2 : Number(nickname.startsWith(sought));
}
