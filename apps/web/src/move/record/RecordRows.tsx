import { printCount } from '@ulvane/core/quantity';
import {
  isException,
  proofOf,
  stageTitles,
  type ChainFault,
  type ChainLine,
  type LogRow,
} from '@ulvane/core/record';
import { useState, type KeyboardEvent } from 'react';
import { ProofMark } from '../../drawing/ProofMark';
import { Instant } from '../../shell/Instant';
import { RodPiece, shortCode } from './Rod';

type RecordRowsProps = {
  readonly rows: readonly LogRow[];
  readonly fault: ChainFault | null;
  /** Number of the line that crossed the Line; null before. */
  readonly crossing: number | null;
};

const linesOf = (row: LogRow): readonly ChainLine[] => (row.kind === 'line' ? [row.line] : row.lines);

/** Moves the focus between rows: up and down, and E to the next exception. */
function onListKey(event: KeyboardEvent<HTMLOListElement>): void {
  const buttons = [...event.currentTarget.querySelectorAll<HTMLButtonElement>('button[data-row]')];
  const at = buttons.indexOf(document.activeElement as HTMLButtonElement);
  if (at < 0 || event.ctrlKey || event.metaKey || event.altKey) return;
  const next =
    event.key === 'ArrowDown'
      ? buttons[at + 1]
      : event.key === 'ArrowUp'
        ? buttons[at - 1]
        : event.key.toLowerCase() === 'e'
          ? buttons.slice(at + 1).find(({ dataset }) => dataset.exception === 'yes')
          : undefined;
  if (!next) return;
  event.preventDefault();
  event.stopPropagation();
  next.focus();
}

/** The lines of a log, each tied to the one before; ordinary ones folded by stage. */
export function RecordRows({ rows, fault, crossing }: RecordRowsProps) {
  const [opened, setOpened] = useState<ReadonlySet<number>>(new Set());
  const toggle = (number: number) =>
    setOpened((before) => {
      const next = new Set(before);
      if (!next.delete(number)) next.add(number);
      return next;
    });
  // A fold opens into its lines; one that holds the line at fault is open from the beginning.
  const shown = rows.flatMap((row): readonly LogRow[] => {
    if (row.kind === 'line') return [row];
    const [first] = row.lines;
    const broken = row.lines.some(({ number }) => number === fault?.number);
    return broken || (first && opened.has(-first.number))
      ? row.lines.map((line) => ({ kind: 'line', line }) as const)
      : [row];
  });
  return (
    <ol className="record-rows" onKeyDown={onListKey} aria-label="Lines of the record, oldest first">
      {shown.map((row) => {
        const lines = linesOf(row);
        const [first] = lines;
        const last = lines.at(-1);
        if (!first || !last) return null;
        const unproved = fault !== null && first.number > fault.number;
        const misfit = fault !== null && fault.number >= first.number && fault.number <= last.number;
        const look = unproved ? 'unproved' : misfit ? 'misfit' : row.kind;
        const piece = (label: string) => (
          <RodPiece
            above={first.number === 1 ? null : first.previous}
            below={last.hash}
            label={label}
            look={look}
          />
        );
        if (row.kind === 'fold')
          return (
            <li key={first.number} className={`fold ${look}`}>
              <button type="button" data-row="" aria-expanded={false} onClick={() => toggle(-first.number)}>
                <span className="number">
                  {first.number}–{last.number}
                </span>
                <strong>{stageTitles[row.stage]}</strong>
                <span>
                  {printCount(lines.length, 'line')}
                  <span className="visually-hidden">{unproved ? ', not proved' : ', all fit'}</span>
                </span>
              </button>
              {piece(unproved ? 'not proved' : `${printCount(lines.length, 'line')} fit`)}
            </li>
          );
        const { line } = row;
        const open = opened.has(line.number);
        return (
          <li key={line.number} className={look}>
            {line.number === crossing && (
              <div className="record-line" role="separator" aria-label="The Line">
                <span>The Line</span>
              </div>
            )}
            <button
              type="button"
              data-row=""
              data-exception={isException(line) ? 'yes' : 'no'}
              aria-expanded={open}
              onClick={() => toggle(line.number)}
            >
              <span className="number">{line.number}</span>
              <span className="made-by">
                <Instant at={line.at} />
                <small>{line.by}</small>
              </span>
              <span className={open ? 'what open' : 'what'}>
                <ProofMark mark={proofOf(line)} /> {line.sentence}
                {line.importedBy !== null && <small>Imported by {line.importedBy}, not written here.</small>}
                {open && (
                  <small className="mono codes">
                    line before {line.previous}
                    <br />
                    this line {line.hash}
                    {line.recordHash !== null && (
                      <>
                        <br />
                        record after it {line.recordHash}
                      </>
                    )}
                  </small>
                )}
                <span className="visually-hidden">
                  {unproved
                    ? 'Not proved.'
                    : misfit
                      ? 'Does not fit.'
                      : line.number === 1
                        ? 'The beginning.'
                        : `Fits line ${line.number - 1}.`}
                </span>
              </span>
            </button>
            {piece(shortCode(line.hash))}
          </li>
        );
      })}
    </ol>
  );
}
