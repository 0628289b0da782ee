import { Controller, Header } from '@nestjs/common';
import {
  api,
  type ChoiceOutcome,
  type FileOutcome,
  type FleetGroup,
  type ListMapping,
  type Reassessment as ReassessmentView,
  type RowOutcome,
  type ShoppingLine,
} from '@ulvane/contract';
import { Actor, Input, Serves, type ActorOfRequest, type InputOf } from '../../http/serves';
import { HouseService } from '../../house/house.service';
import { FleetReader } from './fleet.reader';
import { FleetWriter } from './fleet.writer';
import { Reassessment } from './reassessment';

/** Many moves at once; the list itself is with the moves. */
@Controller()
export class FleetController {
  constructor(
    private readonly reader: FleetReader,
    private readonly writer: FleetWriter,
    private readonly reassessment: Reassessment,
    private readonly house: HouseService,
  ) {}

  @Serves(api.fleetGroups)
  async groups(@Input() { query }: InputOf<typeof api.fleetGroups>): Promise<{ groups: FleetGroup[] }> {
    return { groups: await this.reader.groups(query.by) };
  }

  @Serves(api.shoppingList)
  async shoppingList(): Promise<{ lines: ShoppingLine[] }> {
    return { lines: await this.reader.shoppingList() };
  }

  @Serves(api.shoppingListCsv)
  @Header('Content-Type', 'text/csv; charset=utf-8')
  @Header('Content-Disposition', 'attachment; filename="shopping-list.csv"')
  shoppingCsv(): Promise<string> {
    return this.reader.shoppingCsv();
  }

  @Serves(api.reassessment)
  state(): Promise<ReassessmentView> {
    return this.reassessment.state();
  }

  @Serves(api.listMapping)
  async mapping(): Promise<{ mapping: ListMapping }> {
    return { mapping: await this.house.listMapping() };
  }

  @Serves(api.takeRows)
  async rows(
    @Input() { body }: InputOf<typeof api.takeRows>,
    @Actor() actor: ActorOfRequest,
  ): Promise<{ outcomes: RowOutcome[] }> {
    return { outcomes: await this.writer.takeRows(body, actor) };
  }

  @Serves(api.takeSurveys)
  async surveys(
    @Input() { body }: InputOf<typeof api.takeSurveys>,
    @Actor() actor: ActorOfRequest,
  ): Promise<{ outcomes: FileOutcome[] }> {
    return { outcomes: await this.writer.takeSurveys(body.files, body.dryRun, actor) };
  }

  @Serves(api.chooseForMany)
  async choose(
    @Input() { body }: InputOf<typeof api.chooseForMany>,
    @Actor() actor: ActorOfRequest,
  ): Promise<{ outcomes: ChoiceOutcome[] }> {
    return { outcomes: await this.writer.choose(body.references, body, body.dryRun, actor) };
  }
}
