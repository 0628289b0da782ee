import { controllerOf } from '../http/controller';
import { LogReader } from '../log/logReader';
import { MovesReader } from './moves.reader';
import { Quarantine } from './quarantine';

/** The log and whether it can be believed; records that cannot be read. */
export const RecordController = controllerOf(
  { reader: MovesReader, log: LogReader, quarantine: Quarantine },
  {
    events: async ({ params }, _caller, { reader, log, quarantine }) => {
      const id = await reader.idOf(params.reference);
      const [lines, head, record] = await Promise.all([
        log.linesOf(id),
        log.headOf(id),
        quarantine.raw(params.reference),
      ]);
      return { id, lines: [...lines], head, record };
    },

    unreadable: async (_input, _caller, { quarantine }) => ({ moves: await quarantine.list() }),

    rawRecord: ({ params }, { response }, { quarantine }) => {
      response.setHeader('Content-Disposition', 'attachment');
      return quarantine.raw(params.reference);
    },

    repairRecord: async ({ params, body }, { actor }, { quarantine }) => {
      await quarantine.repair(params.reference, body.record, actor.name);
      return { moves: await quarantine.list() };
    },

    rollBackRecord: async ({ params }, { actor }, { quarantine }) => {
      await quarantine.rollBack(params.reference, actor.name);
      return { moves: await quarantine.list() };
    },
  },
);
