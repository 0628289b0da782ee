/**
 * Cells that a spreadsheet would take for a formula: they begin with `=`, `+`, `-`, `@`, a tab or a
 * carriage return (OWASP, "CSV Injection"; also the wide forms of East Asian keyboards), or with
 * apostrophes before one of those. An apostrophe is put before such a cell in every CSV that is written, and
 * taken off again by `plainCell`: so what was written reads back as it was.
 */
export const formulaCell = /^'*[=+\-@\t\r＝＋－＠]/;

/** @example safeCell('=1+1') // "'=1+1" */
export function safeCell(cell: string): string {
  return formulaCell.test(cell) ? `'${cell}` : cell;
}

/**
 * A cell as it was before `safeCell`.
 * @example plainCell("'=1+1") // '=1+1'; plainCell("'tis") // "'tis"
 */
export function plainCell(cell: string): string {
  return cell.startsWith("'") && formulaCell.test(cell) ? cell.slice(1) : cell;
}
