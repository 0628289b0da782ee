import { createRequire } from 'node:module';
import { z } from 'zod';
import { bidi } from './pieces';

/** What pdfmake knows of a line when it puts it on the page. Widths in points. */
type Inline = { text: string; readonly width: number; x: number };
type Line = { readonly inlines: Inline[]; readonly leadingCut: number };

const require = createRequire(import.meta.url);
/** The part of pdfmake that puts a line on the page, as far as it is used here. */
const ElementWriterSchema = z.object({
  default: z.custom<{ prototype: { alignLine: (line: Line) => void } }>(
    (loaded) => typeof loaded === 'function' && 'alignLine' in Object(loaded.prototype),
  ),
});

/** What was written, of the brackets that are drawn turned. A line may be placed more than once. */
const written = new WeakMap<Inline, string>();

/**
 * Where each part of a line stands, from left to right, for parts that run in both directions.
 * Source: Unicode Standard Annex 9, rules L2 and L4.
 */
function visualOrder(inlines: readonly Inline[]): readonly Inline[] {
  const texts = inlines.map((inline) => written.get(inline) ?? inline.text);
  const { levels } = bidi.getEmbeddingLevels(texts.join(''), 'ltr');
  let at = 0;
  const parts = inlines.map((inline, index) => {
    const level = levels[at] ?? 0;
    const text = texts[index] ?? '';
    at += text.length;
    written.set(inline, text);
    // What runs from right to left has its brackets turned (rule L4); letters turn nothing.
    inline.text = level % 2 === 1 ? (bidi.getMirroredCharacter(text) ?? text) : text;
    return { inline, level };
  });
  const highest = Math.max(0, ...parts.map(({ level }) => level));
  for (let level = highest; level >= 1; level -= 1) {
    let first = 0;
    while (first < parts.length) {
      let end = first;
      while (end < parts.length && (parts[end]?.level ?? 0) >= level) end += 1;
      if (end > first) parts.splice(first, end - first, ...parts.slice(first, end).reverse());
      first = Math.max(end, first + 1);
    }
  }
  return parts.map(({ inline }) => inline);
}

/**
 * Teaches pdfmake to put the words of a line in the order in which they are read: it sets them from
 * left to right only. Its lines are ordered just before they are placed; see docs/decisions/0024.
 */
export function orderLinesAsRead(): void {
  const { default: ElementWriter } = ElementWriterSchema.parse(require('pdfmake/js/ElementWriter.js'));
  const place = ElementWriter.prototype.alignLine;
  ElementWriter.prototype.alignLine = function (line: Line) {
    let x = -line.leadingCut;
    for (const inline of visualOrder(line.inlines)) {
      inline.x = x;
      x += inline.width;
    }
    place.call(this, line);
  };
}
