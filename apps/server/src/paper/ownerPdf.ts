import {
  ownerSheet,
  type House,
  type Move,
  type OwnerSheet,
  type OwnerSheetInput,
} from '@ulvane/core/record';
import type { Content } from 'pdfmake/interfaces';
import { documentPdf, heading, list, words } from './document';

const width = 499;

/** The sheet that the owner keeps, as an A4 PDF. */
export function ownerPdf(move: Move, house: House, input: OwnerSheetInput): Promise<Buffer> {
  return ownerSheetPdf(ownerSheet(move, house, input), move.reference, input.organisation);
}

/** All files as one bar: grey = as they were, hatched = other name or folder, black = the rest. */
function bar({ same, otherName, rest }: OwnerSheet['bar']): Content {
  const all = Math.max(1, same + otherName + rest);
  const x = (files: number) => (files / all) * width;
  const hatch = Array.from({ length: Math.floor(x(otherName) / 6) }, (_none, index) => ({
    type: 'line' as const,
    x1: x(same) + index * 6,
    y1: 18,
    x2: x(same) + index * 6 + 6,
    y2: 0,
    lineWidth: 0.5,
  }));
  return {
    canvas: [
      { type: 'rect', x: 0, y: 0, w: x(same), h: 18, color: '#e2e2e2' },
      ...hatch,
      { type: 'rect', x: x(same + otherName), y: 0, w: x(rest), h: 18, color: '#000000' },
      { type: 'rect', x: 0, y: 0, w: width, h: 18, lineWidth: 1 },
    ],
    margin: [0, 8, 0, 4],
  };
}

function boxed(cells: readonly Content[]): Content {
  return {
    table: { widths: cells.map(() => '*'), body: [[...cells]] },
    margin: [0, 2, 0, 2],
  };
}

/** An owner's sheet as an A4 PDF, black on white. */
export function ownerSheetPdf(sheet: OwnerSheet, reference: string, organisation: string): Promise<Buffer> {
  const files = sheet.bar.same + sheet.bar.otherName + sheet.bar.rest;
  return documentPdf({
    title: 'Owner’s sheet',
    organisation,
    reference,
    fontSize: 10,
    content: [
      ...(sheet.draft
        ? [{ text: 'Draft, not compared', bold: true, fontSize: 14, alignment: 'center' as const }]
        : []),
      boxed(
        sheet.plate.map(([label, value]) => ({
          stack: [
            { text: words(label), fontSize: 8 },
            { text: words(value), bold: true },
          ],
        })),
      ),
      { text: sheet.headline, fontSize: 22, bold: true, margin: [0, 8, 0, 2] },
      { text: words(sheet.lead), fontSize: 11 },
      ...(files > 0 ? [bar(sheet.bar)] : []),
      list(sheet.amounts, ''),
      heading('What is different'),
      list(sheet.different, 'Nothing that we know of.'),
      heading('What is the same'),
      list(sheet.same, 'Nothing was compared in full.'),
      heading('Files with a reason, by name'),
      { text: words(sheet.filesNote), margin: [0, 0, 0, 4] },
      ...(sheet.files.length === 0
        ? []
        : [
            {
              layout: 'lightHorizontalLines',
              table: {
                widths: ['*', 70, '*'],
                body: sheet.files.map(({ path, kind, reason }) => [
                  { text: words(path) },
                  { text: words(kind), bold: true },
                  { text: words(reason) },
                ]),
              },
            },
          ]),
      heading('Your backup'),
      ...(sheet.backups.length === 0
        ? []
        : [
            boxed(
              sheet.backups.map(({ name, lines }) => ({
                stack: [
                  { text: words(name), bold: true, fontSize: 11 },
                  ...lines.map((line) => ({ text: words(line) })),
                ],
              })),
            ),
          ]),
      { text: words(sheet.warning), bold: true, margin: [0, 4, 0, 0] },
      heading('Whom to call'),
      list(sheet.call, ''),
      ...(sheet.draft ? [] : signing(sheet)),
      ...(sheet.record
        ? [
            {
              text: `Record of this move, code of line ${sheet.record.number}: ${(sheet.record.code.match(/.{4}/g) ?? []).join(' ')}`,
              fontSize: 8.5,
              margin: [0, 14, 0, 0] as [number, number, number, number],
            },
          ]
        : []),
    ],
  });
}

function signing({ boxes, signer, helpDesk }: OwnerSheet): Content[] {
  const line = '______________________________';
  return [
    heading('Signed by the owner: my files are accounted for, and I know when the backup is wiped'),
    { text: words(boxes.map((box) => `[  ] ${box}`).join('     ')), margin: [0, 0, 0, 4] },
    { text: 'Except: ______________________________________________________________' },
    {
      columns: [
        { text: words(`${line}\n${signer || 'Owner'}`) },
        { text: words(`${line}\nDate and time`) },
        { text: words(`${line}\nFor the help desk: ${helpDesk}`) },
      ],
      columnGap: 10,
      fontSize: 8.5,
      margin: [0, 26, 0, 0],
    },
  ];
}
