import { Controller, StreamableFile } from '@nestjs/common';
import { api } from '@ulvane/contract';
import { Clock } from '../clock/clock';
import { DifferencesService } from '../files/differences.service';
import { HouseService } from '../house/house.service';
import { Input, Serves, type InputOf } from '../http/serves';
import { LogReader } from '../log/logReader';
import { MovesReader } from '../moves/moves.reader';
import { Workers } from '../threads/workers';

/** So many files are named on the owner's sheet; the rest is counted on it. */
const maxNamed = 60;

/** The sheets on paper: the organisation's own record of the hand-over, and the one that the owner keeps. */
@Controller()
export class PaperController {
  constructor(
    private readonly moves: MovesReader,
    private readonly house: HouseService,
    private readonly differences: DifferencesService,
    private readonly log: LogReader,
    private readonly workers: Workers,
    private readonly clock: Clock,
  ) {}

  @Serves(api.handoverPdf)
  async handover(@Input() { params }: InputOf<typeof api.handoverPdf>): Promise<StreamableFile> {
    const { move } = await this.moves.one(params.reference);
    const [house, organisation] = await Promise.all([this.house.house(), this.house.organisation()]);
    const sheet = await this.workers.run('handoverPdfTask', {
      move,
      house,
      organisation: organisation.name,
    });
    return pdf(sheet, `${move.reference}-hand-over.pdf`);
  }

  @Serves(api.ownerPdf)
  async owner(@Input() { params }: InputOf<typeof api.ownerPdf>): Promise<StreamableFile> {
    const { move } = await this.moves.one(params.reference);
    const [house, organisation, named, head] = await Promise.all([
      this.house.house(),
      this.house.organisation(),
      this.differences.named(
        move.reconciled.map(({ id }) => id),
        maxNamed,
      ),
      this.log.headOf(move.id),
    ]);
    const sheet = await this.workers.run('ownerPdfTask', {
      move,
      house,
      input: {
        ...named,
        organisation: organisation.name,
        today: this.clock.today(house.houseRules.timeZone),
        record: head.count === 0 ? null : { number: head.count, code: head.hash.slice(0, 16) },
      },
    });
    return pdf(sheet, `${move.reference}-owner.pdf`);
  }
}

const pdf = (sheet: Uint8Array, name: string) =>
  new StreamableFile(sheet, { type: 'application/pdf', disposition: `attachment; filename="${name}"` });
