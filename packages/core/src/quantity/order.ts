/** The order of texts by their code units: the same on every machine, whatever its language. */
export function byText(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}
