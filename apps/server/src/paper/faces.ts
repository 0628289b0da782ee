import { createRequire } from 'node:module';
import { openSync, type Font } from 'fontkit';
import { z } from 'zod';

const require = createRequire(import.meta.url);

/** A font file, or one slice of a family that ships in many. */
export type Face = {
  /** The name it has in the document. */
  readonly name: string;
  readonly normal: string;
  readonly bold: string;
  readonly covers: (codePoint: number) => boolean;
  /** How far the sign moves the pen, in parts of the size; of the bold cut, which is the wider one. */
  readonly advance: (codePoint: number) => number;
};

type Range = readonly [first: number, last: number];

/** "U+0-ff,U+131" as ranges of code points. Source: CSS Fonts, unicode-range, without wildcards. */
function rangesOf(text: string): readonly Range[] {
  return text.split(',').map((part) => {
    const [first = '', last = first] = part.trim().replace(/^U\+/i, '').split('-');
    return [Number.parseInt(first, 16), Number.parseInt(last, 16)];
  });
}

/** Opened when the first sign is asked for. */
function lazily(path: string): () => Font {
  let font: Font | undefined;
  return () => {
    if (font) return font;
    const opened = openSync(path);
    if (!('hasGlyphForCodePoint' in opened)) throw new Error(`${path} holds several fonts`);
    return (font = opened);
  };
}

function face(name: string, normal: string, bold: string, ranges?: readonly Range[]): Face {
  const font = lazily(normal);
  const boldFont = lazily(bold);
  return {
    name,
    normal,
    bold,
    // A slice is opened only for what it says it holds, and believed only when the glyph is there.
    covers: (codePoint) =>
      (ranges?.some(([first, last]) => codePoint >= first && codePoint <= last) ?? true) &&
      font().hasGlyphForCodePoint(codePoint),
    advance: (codePoint) => boldFont().glyphForCodePoint(codePoint).advanceWidth / boldFont().unitsPerEm,
  };
}

const SlicesSchema = z.record(z.string(), z.string());

/** Every slice of a family of @fontsource. */
function slices(family: string, weight: { normal: number; bold: number }): readonly Face[] {
  const ranges = SlicesSchema.parse(require(`@fontsource/${family}/unicode.json`));
  return Object.entries(ranges).map(([key, text]) => {
    const slice = key.replace(/[[\]]/g, '');
    const file = (bold: boolean) =>
      require.resolve(
        `@fontsource/${family}/files/${family}-${slice}-${bold ? weight.bold : weight.normal}-normal.woff`,
      );
    return face(`${family}-${slice}`, file(false), file(true), rangesOf(text));
  });
}

const dejaVu = (style: string) => require.resolve(`dejavu-fonts-ttf/ttf/DejaVuSans${style}.ttf`);
const houseFile = (weight: number) =>
  require.resolve(
    `@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-${weight}-normal.woff`,
  );
const both = { normal: 400, bold: 700 };

/** The letters of the house, as on screen; what has no script of its own is set in them. */
export const houseFace = face('Atkinson', houseFile(400), houseFile(700));

/** In the order in which they are asked: the house's own letters first, the large families last. */
export const faces: readonly Face[] = [
  houseFace,
  ...slices('atkinson-hyperlegible-next', both),
  face('DejaVu', dejaVu(''), dejaVu('-Bold')),
  ...slices('noto-sans-thai', both),
  ...slices('noto-sans-devanagari', both),
  ...slices('noto-sans-sc', both),
  ...slices('noto-sans-kr', both),
  ...slices('noto-emoji', both),
];
