import { controllerOf } from '../../http/controller';
import { HouseService } from '../../house/house.service';
import { FleetReader } from './fleet.reader';
import { FleetWriter } from './fleet.writer';
import { Reassessment } from './reassessment';

/** Many moves at once; the list itself is with the moves. */
export const FleetController = controllerOf(
  { reader: FleetReader, writer: FleetWriter, reassessment: Reassessment, house: HouseService },
  {
    fleetGroups: async ({ query }, _caller, { reader }) => ({ groups: await reader.groups(query.by) }),

    fleetFit: ({ query }, _caller, { reader }) => reader.fit(query),

    shoppingList: async (_input, _caller, { reader }) => ({ lines: await reader.shoppingList() }),

    shoppingListCsv: (_input, { response }, { reader }) => {
      response.setHeader('Content-Type', 'text/csv; charset=utf-8');
      response.setHeader('Content-Disposition', 'attachment; filename="shopping-list.csv"');
      return reader.shoppingCsv();
    },

    reassessment: (_input, _caller, { reassessment }) => reassessment.state(),

    listMapping: async (_input, _caller, { house }) => ({ mapping: await house.listMapping() }),

    takeRows: async ({ body }, { actor }, { writer }) => ({ outcomes: await writer.takeRows(body, actor) }),

    takeSurveys: async ({ body }, { actor }, { writer }) => ({
      outcomes: await writer.takeSurveys(body.files, body.dryRun, actor),
    }),

    chooseForMany: async ({ body }, { actor }, { writer }) => ({
      outcomes: await writer.choose(body.references, body, body.dryRun, actor),
    }),
  },
);
