import { parseBytes } from '@ulvane/core';

/** For a form's rule: true, or the sentence that says why the text is no size. */
export function isSize(text: string): true | string {
  const bytes = parseBytes(text);
  return bytes.ok || (bytes.problems[0]?.sentence ?? 'Not a size.');
}

/** The bytes of a text that `isSize` has passed; 0 for an empty one. */
export function bytesOf(text: string): number {
  const bytes = parseBytes(text);
  return bytes.ok ? bytes.value : 0;
}
