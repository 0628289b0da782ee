/**
 * How names are compared, for signing in, for the throttle and for what is taken alike: Unicode in
 * compatibility form (NFKC, UAX 15), blanks at the ends off and in between as one, small letters.
 * @example nameKeyOf('  Ínes   ＣARROW ') // 'ínes carrow'
 */
export function nameKeyOf(name: string): string {
  return name.normalize('NFKC').trim().replace(/\s+/g, ' ').toLowerCase();
}
