import { controllerOf } from '../http/controller';
import { HouseService } from './house.service';

export const HouseController = controllerOf(
  { house: HouseService },
  {
    house: (_input, _caller, { house }) => house.house(),

    setHouseRules: ({ body }, { actor }, { house }) =>
      house.setHouseRules(body.version, body.houseRules, actor.name),

    houseRulesHistory: async (_input, _caller, { house }) => ({ changes: await house.houseRulesHistory() }),
  },
);
