interface Nickname {
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
