import pdfmake from 'pdfmake';
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces';
import { faces, houseFace } from './faces';
import { orderLinesAsRead } from './lineOrder';
import { piecesOf, type Piece } from './pieces';

pdfmake.setFonts(
  Object.fromEntries(
    faces.map(({ name, normal, bold }) => [name, { normal, bold, italics: normal, bolditalics: bold }]),
  ),
);
// A sheet is made of text alone: nothing is fetched, and only the fonts are read.
const fontFiles = new Set(faces.flatMap(({ normal, bold }) => [normal, bold]));
pdfmake.setUrlAccessPolicy(() => false);
pdfmake.setLocalAccessPolicy((path: string) => fontFiles.has(path));
orderLinesAsRead();

/** Text of any script, as pdfmake takes it. */
export const words = (text: string): Piece[] => [...piecesOf(text)];

export function heading(text: string): Content {
  return { text: words(text), bold: true, fontSize: 12, margin: [0, 12, 0, 4] };
}

export function list(items: readonly string[], nothing: string): Content {
  return items.length === 0 ? { text: words(nothing) } : { ul: items.map((item) => ({ text: words(item) })) };
}

type DocumentParts = {
  readonly title: string;
  readonly organisation: string;
  readonly reference: string;
  readonly fontSize: number;
  readonly content: Content[];
};

/** An A4 document of text in the house's own face, with organisation, reference and page at the foot. */
export function documentPdf({
  title,
  organisation,
  reference,
  fontSize,
  content,
}: DocumentParts): Promise<Buffer> {
  const definition: TDocumentDefinitions = {
    pageSize: 'A4',
    pageMargins: [48, 44, 48, 48],
    info: { title: `${title} ${reference}`, author: organisation },
    defaultStyle: { font: houseFace.name, fontSize, lineHeight: 1.15 },
    footer: (page, pages) => ({
      text: words(`${organisation} · ${reference} · ${page} of ${pages}`),
      alignment: 'center',
      fontSize: 8,
      margin: [0, 12, 0, 0],
    }),
    content,
  };
  return pdfmake.createPdf(definition).getBuffer();
}
