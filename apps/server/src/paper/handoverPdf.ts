import { handoverSheet, type HandoverSheet, type House, type Move } from '@ulvane/core/record';
import { documentPdf, heading, list, words } from './document';

/** The hand-over sheet of a move as an A4 PDF. */
export function handoverPdf(move: Move, house: House, organisation: string): Promise<Buffer> {
  return sheetPdf(handoverSheet(move, house), move.reference, organisation);
}

/** A hand-over sheet as an A4 PDF: text of any script, none of it off the page. */
export function sheetPdf(sheet: HandoverSheet, reference: string, organisation: string): Promise<Buffer> {
  return documentPdf({
    title: 'Hand-over sheet',
    organisation,
    reference,
    fontSize: 9.5,
    content: [
      { text: 'Hand-over sheet', fontSize: 18, bold: true },
      { text: words(sheet.title), fontSize: 12, margin: [0, 2, 0, 8] },
      {
        layout: 'noBorders',
        table: {
          widths: [60, '*'],
          body: sheet.identity.map(([label, value]) => [{ text: label }, { text: words(value), bold: true }]),
        },
      },
      heading('Files accounted for'),
      sheet.files.length === 0
        ? { text: 'No data set was listed.' }
        : {
            layout: 'lightHorizontalLines',
            table: {
              headerRows: 1,
              widths: ['*', '*', '*', '*'],
              body: [
                ['Data set', 'Before', 'After', 'Outcome'].map((text) => ({ text, bold: true })),
                ...sheet.files.map(({ name, before, after, outcome }) =>
                  [name, before, after, outcome].map((text) => ({ text: words(text) })),
                ),
              ],
            },
          },
      heading('Open points'),
      list(sheet.openPoints, 'None.'),
      heading('Gates that were overruled'),
      list(sheet.overrules, 'None.'),
      heading('Copies before the Line, and how they were checked'),
      list(sheet.copies, 'No copy is recorded.'),
      heading('The backups'),
      list(sheet.backups, 'No backup is noted.'),
      heading('Positions of the firmware'),
      list(sheet.firmware, 'As they were before.'),
      ...(sheet.troubles.length === 0 ? [] : [heading('What went wrong'), list(sheet.troubles, '')]),
      heading('What was done, and by whom'),
      {
        layout: 'lightHorizontalLines',
        table: {
          headerRows: 1,
          widths: ['*', 90, 'auto', 'auto'],
          body: [
            ['Step', 'By', 'When', 'Took'].map((text) => ({ text, bold: true })),
            ...sheet.done.map(({ title, by, at, minutes, note }) => [
              { text: words(note === '' ? title : `${title} (${note})`) },
              { text: words(by) },
              at,
              minutes,
            ]),
          ],
        },
      },
      heading('The owner signs'),
      { text: words(sheet.signed ?? ''), margin: [0, 0, 0, 18] },
      {
        columns: [
          { text: '_____________________________\nowner' },
          { text: '_____________________________\nfor the organisation' },
        ],
      },
    ],
  });
}
