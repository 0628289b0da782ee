import { addMinutes } from '@ulvane/core/quantity';
import type {
  Change,
  CommandContext,
  CommandOutcome,
  House,
  LogEvent,
  Move,
  Role,
} from '@ulvane/core/record';
import type { RecordedDifferences, RecordedList } from './recordedFiles';

export type RecordedMove = {
  readonly move: Move;
  readonly events: readonly LogEvent[];
  /** Lines of its lists of files, and of their comparisons. */
  readonly lists: readonly RecordedList[];
  readonly differences: readonly RecordedDifferences[];
};

/**
 * Plays commands on a move as a person would, with a clock that runs on between them. A command that
 * core refuses is a fault of the demo and is thrown.
 */
export class Recorder {
  private readonly events: LogEvent[] = [];
  private readonly keptLists: RecordedList[] = [];
  private readonly keptDifferences: RecordedDifferences[] = [];

  constructor(
    private move: Move,
    private readonly house: House,
    private clock: string,
  ) {}

  get current(): Move {
    return this.move;
  }

  get now(): string {
    return this.clock;
  }

  wait(minutes: number): void {
    this.clock = addMinutes(this.clock, minutes);
  }

  /** Sets the clock; for a history that is to end at a given instant. */
  jumpTo(instant: string): void {
    this.clock = instant;
  }

  context(name: string, role: Role = 'technician'): CommandContext {
    return { ...this.house, actor: { name, role }, now: this.clock };
  }

  play(
    name: string,
    command: (move: Move, context: CommandContext) => CommandOutcome,
    role: Role = 'technician',
  ): Change {
    const outcome = command(this.move, this.context(name, role));
    if (!outcome.ok)
      throw new Error(
        `${this.move.reference}: ${outcome.problems.map(({ sentence }) => sentence).join(' ')}`,
      );
    this.move = outcome.value.move;
    this.events.push({
      at: this.clock,
      by: name,
      kind: outcome.value.kind,
      sentence: outcome.value.sentence,
    });
    return outcome.value;
  }

  get lists(): readonly RecordedList[] {
    return this.keptLists;
  }

  keepList(list: RecordedList): void {
    this.keptLists.push(list);
  }

  keepDifferences(differences: RecordedDifferences): void {
    this.keptDifferences.push(differences);
  }

  result(): RecordedMove {
    return {
      move: this.move,
      events: this.events,
      lists: this.keptLists,
      differences: this.keptDifferences,
    };
  }
}
