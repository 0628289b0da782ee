import type { House, Move, OwnerSheetInput } from '@ulvane/core/record';
import { answer } from './answer';
import { assessMoves, type AssessInput } from './assessTask';
import { checkCopy, reconcileLists, type CheckInput, type ReconcileInput } from './compareTask';
import { addUpFit, type FitInput } from './fitTask';
import { handoverPdf } from '../paper/handoverPdf';
import { ownerPdf } from '../paper/ownerPdf';
import { readList, type ReadListInput } from './readListTask';

// What the pool of threads runs: each task is an export of this file.

export const readListTask = (input: ReadListInput) => answer(() => readList(input));
export const checkCopyTask = (input: CheckInput) => answer(() => checkCopy(input));
export const assessTask = (input: AssessInput) => answer(() => assessMoves(input));
export const fitTask = (input: FitInput) => answer(() => addUpFit(input));
export const reconcileTask = (input: ReconcileInput) => answer(() => reconcileLists(input));
export const handoverPdfTask = (input: {
  readonly move: Move;
  readonly house: House;
  readonly organisation: string;
}) => answer(() => handoverPdf(input.move, input.house, input.organisation));
export const ownerPdfTask = (input: {
  readonly move: Move;
  readonly house: House;
  readonly input: OwnerSheetInput;
}) => answer(() => ownerPdf(input.move, input.house, input.input));
