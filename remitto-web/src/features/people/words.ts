/** An attribute or kind as people read it. */
export function attributeWords(name: string): string {
  const words = name.toLowerCase().replaceAll('_', ' ');
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** A weight with its sign, one digit after the point. */
export function bits(value: number): string {
  return `${value < 0 ? '−' : '+'}${Math.abs(value).toFixed(1)}`;
}
