/**
 * A count with its noun in the right form.
 * @example printCount(1, 'file') // '1 file'; printCount(18204, 'file') // '18,204 files'; printCount(2, 'copy') // '2 copies'
 */
export function printCount(count: number, noun: string): string {
  const digits = String(count).replace(/\B(?=(\d{3})+$)/g, ',');
  const plural = /[^aeiou]y$/.test(noun) ? `${noun.slice(0, -1)}ies` : `${noun}s`;
  return `${digits} ${count === 1 ? noun : plural}`;
}
