/** @example printCount(1, 'file') // '1 file'; printCount(18204, 'file') // '18,204 files' */
export function printCount(count: number, noun: string): string {
  const digits = String(count).replace(/\B(?=(\d{3})+$)/g, ',');
  return `${digits} ${noun}${count === 1 ? '' : 's'}`;
}
