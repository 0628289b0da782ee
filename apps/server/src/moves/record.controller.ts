import { Controller, Header } from '@nestjs/common';
import { api, type LogRecord, type UnreadableMove } from '@ulvane/contract';
import { Actor, Input, Serves, type ActorOfRequest, type InputOf } from '../http/serves';
import { LogReader } from '../log/logReader';
import { MovesReader } from './moves.reader';
import { Quarantine } from './quarantine';

/** The log and whether it can be believed; records that cannot be read. */
@Controller()
export class RecordController {
  constructor(
    private readonly reader: MovesReader,
    private readonly log: LogReader,
    private readonly quarantine: Quarantine,
  ) {}

  @Serves(api.events)
  async events(@Input() { params }: InputOf<typeof api.events>): Promise<LogRecord> {
    const id = await this.reader.idOf(params.reference);
    const [lines, head, record] = await Promise.all([
      this.log.linesOf(id),
      this.log.headOf(id),
      this.quarantine.raw(params.reference),
    ]);
    return { id, lines: [...lines], head, record };
  }

  @Serves(api.unreadable)
  async unreadable(): Promise<{ moves: UnreadableMove[] }> {
    return { moves: await this.quarantine.list() };
  }

  @Serves(api.rawRecord)
  @Header('Content-Disposition', 'attachment')
  raw(@Input() { params }: InputOf<typeof api.rawRecord>): ReturnType<Quarantine['raw']> {
    return this.quarantine.raw(params.reference);
  }

  @Serves(api.repairRecord)
  async repair(
    @Input() { params, body }: InputOf<typeof api.repairRecord>,
    @Actor() actor: ActorOfRequest,
  ): Promise<{ moves: UnreadableMove[] }> {
    await this.quarantine.repair(params.reference, body.record, actor.name);
    return this.unreadable();
  }

  @Serves(api.rollBackRecord)
  async rollBack(
    @Input() { params }: InputOf<typeof api.rollBackRecord>,
    @Actor() actor: ActorOfRequest,
  ): Promise<{ moves: UnreadableMove[] }> {
    await this.quarantine.rollBack(params.reference, actor.name);
    return this.unreadable();
  }
}
