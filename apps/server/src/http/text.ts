import { refuse } from './problem';

function isWritable(text: string): boolean {
  return !text.includes('\0') && text.isWellFormed();
}

/**
 * Refuses a value with a text that no database and no file name can hold: one with the character NUL, or
 * with half of a surrogate pair (which is no Unicode text).
 * @throws ProblemError 422 with the place
 */
export function refuseUnwritable(value: unknown, path = ''): void {
  if (typeof value === 'string') {
    if (!isWritable(value))
      throw refuse(
        'unwritable-text',
        `${path === '' ? 'The text' : path} holds a character that is no text (NUL, or half of a surrogate pair): remove it.`,
        path,
      );
    return;
  }
  if (typeof value !== 'object' || value === null) return;
  for (const [key, part] of Object.entries(value)) {
    refuseUnwritable(key, `${path}/…`);
    refuseUnwritable(part, `${path}/${key}`);
  }
}
