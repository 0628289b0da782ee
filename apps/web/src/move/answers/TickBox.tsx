import type { KeyboardEvent } from 'react';
import type { AnswerTicks } from './useAnswerSheet';

type TickBoxProps = {
  readonly line: Parameters<AnswerTicks['tickOf']>[0];
  readonly ticks: AnswerTicks;
};

/** Up and down go from box to box, over both frames and the pages. */
function toNextBox(event: KeyboardEvent<HTMLInputElement>): void {
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
  if (step === undefined) return;
  const boxes = [
    ...(event.currentTarget.closest('.answer-sheet')?.querySelectorAll<HTMLElement>('.tick-box') ?? []),
  ];
  const next = boxes[boxes.indexOf(event.currentTarget) + step];
  event.preventDefault();
  next?.focus();
}

/** The box of one line: a diagonal stroke once it was entered, with who did it. */
export function TickBox({ line, ticks }: TickBoxProps) {
  const tick = ticks.tickOf(line);
  return (
    <input
      type="checkbox"
      className="tick-box"
      data-line={line.id}
      checked={tick !== undefined}
      disabled={!ticks.canTick}
      aria-label={`${line.name}: entered`}
      title={tick ? `Entered by ${tick.by}` : undefined}
      onKeyDown={toNextBox}
      onChange={({ target }) => void ticks.tick(line, target.checked)}
    />
  );
}
