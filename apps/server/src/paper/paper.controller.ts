import { StreamableFile } from '@nestjs/common';
import { Clock } from '../clock/clock';
import { DifferencesService } from '../files/differences.service';
import { HouseService } from '../house/house.service';
import { controllerOf } from '../http/controller';
import { LogReader } from '../log/logReader';
import { MovesReader } from '../moves/moves.reader';
import { Workers } from '../threads/workers';

/** So many files are named on the owner's sheet; the rest is counted on it. */
const maxNamed = 60;

/** The sheets on paper: the organisation's own record of the hand-over, and the one that the owner keeps. */
export const PaperController = controllerOf(
  {
    moves: MovesReader,
    houses: HouseService,
    differences: DifferencesService,
    log: LogReader,
    workers: Workers,
    clock: Clock,
  },
  {
    handoverPdf: async ({ params }, _caller, { moves, houses, workers }) => {
      const { move } = await moves.one(params.reference);
      const [house, organisation] = await Promise.all([houses.house(), houses.organisation()]);
      const sheet = await workers.run('handoverPdfTask', {
        move,
        house,
        organisation: organisation.name,
      });
      return pdf(sheet, `${move.reference}-hand-over.pdf`);
    },

    ownerPdf: async ({ params }, _caller, { moves, houses, differences, log, workers, clock }) => {
      const { move } = await moves.one(params.reference);
      const [house, organisation, named, head] = await Promise.all([
        houses.house(),
        houses.organisation(),
        differences.named(
          move.reconciled.map(({ id }) => id),
          maxNamed,
        ),
        log.headOf(move.id),
      ]);
      const sheet = await workers.run('ownerPdfTask', {
        move,
        house,
        input: {
          ...named,
          organisation: organisation.name,
          today: clock.today(house.houseRules.timeZone),
          record: head.count === 0 ? null : { number: head.count, code: head.hash.slice(0, 16) },
        },
      });
      return pdf(sheet, `${move.reference}-owner.pdf`);
    },
  },
);

const pdf = (sheet: Uint8Array, name: string) =>
  new StreamableFile(sheet, { type: 'application/pdf', disposition: `attachment; filename="${name}"` });
