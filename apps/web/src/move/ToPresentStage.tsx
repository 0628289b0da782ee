import { stageOf } from '@ulvane/core/record';
import { Navigate } from 'react-router';
import { useOpenMove } from './MoveContext';

/** A move's address without a stage leads to where its work is: with a plan, that is the runbook. */
export function ToPresentStage() {
  const { move } = useOpenMove();
  const stage = stageOf(move);
  const planned = move.plan !== null && stage !== 'done' && stage !== 'hand-over';
  return <Navigate replace to={planned ? 'cross' : stage === 'done' ? 'hand-over' : stage} />;
}
