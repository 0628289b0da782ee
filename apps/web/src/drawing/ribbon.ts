import { linkHorizontal } from 'd3-shape';

/** A vertical stretch, in pixels. */
export type Stretch = { readonly top: number; readonly height: number };

/** The area between two vertical stretches, with level ends, as an SVG path. */
export function ribbon(fromX: number, from: Stretch, toX: number, to: Stretch): string {
  const edge = linkHorizontal();
  const upper = edge({ source: [fromX, from.top], target: [toX, to.top] }) ?? '';
  const lower = edge({ source: [toX, to.top + to.height], target: [fromX, from.top + from.height] }) ?? '';
  return `${upper}L${lower.slice(1)}Z`;
}
