import type { Stage } from '@ulvane/core/record';

/** The seven stages as places; the Line stands before `cross`. */
export const stagePlaces: readonly { readonly stage: Exclude<Stage, 'done'>; readonly path: string }[] = [
  { stage: 'survey', path: 'survey' },
  { stage: 'decide', path: 'decide' },
  { stage: 'save', path: 'save' },
  { stage: 'prepare', path: 'prepare' },
  { stage: 'cross', path: 'cross' },
  { stage: 'settle', path: 'settle' },
  { stage: 'hand-over', path: 'hand-over' },
];
