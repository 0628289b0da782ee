/** Names that set-up asks for. */

/** A language in English, from its code of two letters (BCP 47). @example languageName('de') // 'German' */
export function languageName(code: string): string {
  try {
    return new Intl.DisplayNames(['en'], { type: 'language' }).of(code) ?? code;
  } catch {
    return code;
  }
}

/** Letters of a name without their marks. */
const ascii = (text: string) =>
  text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '');

/** So many characters may a computer's name have in the names of the common network protocols (RFC 1001, 15 of 16). */
const longestComputerName = 15;

/**
 * The computer's name by the house's pattern: {site} the first three letters of the site, {number} the figures of the
 * reference, {owner} the owner's name. Letters, figures and hyphens, capital, 15 at most.
 * @example computerName('{site}-{number}', { site: 'Lowholm', owner: '', reference: 'MV-0036' }) // 'LOW-0036'
 */
export function computerName(
  pattern: string,
  { site, owner, reference }: { readonly site: string; readonly owner: string; readonly reference: string },
): string {
  const values: Readonly<Record<string, string>> = {
    site: ascii(site).slice(0, 3),
    owner: ascii(owner),
    number: reference.replace(/\D/g, ''),
  };
  const filled = pattern.replace(/\{(site|owner|number)\}/g, (_whole, name: string) => values[name] ?? '');
  const name = ascii(filled).slice(0, longestComputerName).replace(/-+$/, '').toUpperCase();
  return name === '' ? reference.toUpperCase() : name;
}

/** A sign-in name: small letters, figures and hyphens, 20 at most. @example accountName('Zoë Carr') // 'zoe-carr' */
export function accountName(person: string): string {
  return ascii(person).toLowerCase().slice(0, 20).replace(/-+$/, '');
}
