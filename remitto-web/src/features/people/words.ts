/** An attribute or kind as people read it. */
export function attributeWords(name: string): string {
  const words = name.toLowerCase().replaceAll('_', ' ');
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** A weight with its sign, one digit after the point; what rounds to nothing has no sign. */
export function bits(value: number): string {
  const text = Math.abs(value).toFixed(1);
  return text === '0.0' ? text : `${value < 0 ? '−' : '+'}${text}`;
}

/** A share from 0 to 1. */
export function percent(share: number): string {
  return `${Math.round(share * 1000) / 10}%`;
}
