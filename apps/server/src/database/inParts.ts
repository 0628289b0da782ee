const rowsAtOnce = 50;

/** Rows in parts: making one statement of hundreds of rows would hold up everybody else. */
export function* inParts<T>(rows: readonly T[]): Generator<T[]> {
  for (let from = 0; from < rows.length; from += rowsAtOnce) yield rows.slice(from, from + rowsAtOnce);
}
