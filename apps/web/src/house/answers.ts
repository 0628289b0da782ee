/** A written answer of house rules as its value: `true`, `2` and `tell-apart` alike. */
export function answerOf(text: string): string | number | boolean {
  if (text === 'true' || text === 'false') return text === 'true';
  return /^\d+$/.test(text) ? Number(text) : text;
}
