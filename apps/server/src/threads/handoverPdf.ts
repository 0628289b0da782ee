import { createRequire } from 'node:module';
import { handoverSheet, type House, type Move } from '@ulvane/core';
import pdfmake from 'pdfmake';
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces';

const require = createRequire(import.meta.url);
const font = (weight: number) =>
  require.resolve(
    `@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-${weight}-normal.woff`,
  );

pdfmake.setFonts({
  Atkinson: { normal: font(400), bold: font(700), italics: font(400), bolditalics: font(700) },
});
// The sheet is made of text alone: nothing is fetched, and only the fonts are read.
pdfmake.setUrlAccessPolicy(() => false);
pdfmake.setLocalAccessPolicy((path: string) => path === font(400) || path === font(700));

function heading(text: string): Content {
  return { text, bold: true, fontSize: 12, margin: [0, 12, 0, 4] };
}

function list(items: readonly string[], nothing: string): Content {
  return items.length === 0 ? { text: nothing } : { ul: [...items] };
}

/** The hand-over sheet as an A4 PDF. */
export async function handoverPdf(move: Move, house: House, organisation: string): Promise<Buffer> {
  const sheet = handoverSheet(move, house);
  const definition: TDocumentDefinitions = {
    pageSize: 'A4',
    pageMargins: [48, 48, 48, 48],
    info: { title: `Hand-over sheet ${move.reference}`, author: organisation },
    defaultStyle: { font: 'Atkinson', fontSize: 9.5, lineHeight: 1.15 },
    footer: (page, pages) => ({
      text: `${organisation} · ${move.reference} · ${page} of ${pages}`,
      alignment: 'center',
      fontSize: 8,
      margin: [0, 12, 0, 0],
    }),
    content: [
      { text: 'Hand-over sheet', fontSize: 18, bold: true },
      { text: sheet.title, fontSize: 12, margin: [0, 2, 0, 8] },
      {
        layout: 'noBorders',
        table: {
          widths: [60, '*'],
          body: sheet.identity.map(([label, value]) => [{ text: label }, { text: value, bold: true }]),
        },
      },
      heading('Files accounted for'),
      sheet.files.length === 0
        ? { text: 'No data set was listed.' }
        : {
            layout: 'lightHorizontalLines',
            table: {
              headerRows: 1,
              widths: ['auto', '*', '*', 'auto'],
              body: [
                ['Data set', 'Before', 'After', 'Outcome'].map((text) => ({ text, bold: true })),
                ...sheet.files.map(({ name, before, after, outcome }) => [name, before, after, outcome]),
              ],
            },
          },
      heading('Open points'),
      list(sheet.openPoints, 'None.'),
      heading('Gates that were overruled'),
      list(sheet.overrules, 'None.'),
      heading('The backups'),
      list(sheet.backups, 'No backup is noted.'),
      heading('What was done, and by whom'),
      {
        layout: 'lightHorizontalLines',
        table: {
          headerRows: 1,
          widths: ['*', 'auto', 'auto', 'auto'],
          body: [
            ['Step', 'By', 'When (UTC)', 'Took'].map((text) => ({ text, bold: true })),
            ...sheet.done.map(({ title, by, at, minutes, note }) => [
              note === '' ? title : `${title} (${note})`,
              by,
              at,
              minutes,
            ]),
          ],
        },
      },
      heading('The owner signs'),
      { text: sheet.signed ?? '', margin: [0, 0, 0, 18] },
      {
        columns: [
          { text: '_____________________________\nowner' },
          { text: '_____________________________\nfor the organisation' },
        ],
      },
    ],
  };
  return pdfmake.createPdf(definition).getBuffer();
}
