export { layoutAfter, type LayoutGoal } from './layoutAfter';
export { segmentsOf, type Fate, type Segment } from './segment';
export { explainSizeBox, sizeBox, type SizeBox } from './sizeBox';
