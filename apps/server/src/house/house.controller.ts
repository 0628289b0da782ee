import { Controller } from '@nestjs/common';
import { api, type HouseView, type HouseRulesChange } from '@ulvane/contract';
import { Actor, Input, Serves, type ActorOfRequest, type InputOf } from '../http/serves';
import { HouseService } from './house.service';

@Controller()
export class HouseController {
  constructor(private readonly house: HouseService) {}

  @Serves(api.house)
  read(): Promise<HouseView> {
    return this.house.house();
  }

  @Serves(api.setHouseRules)
  setHouseRules(
    @Input() { body }: InputOf<typeof api.setHouseRules>,
    @Actor() actor: ActorOfRequest,
  ): Promise<HouseView> {
    return this.house.setHouseRules(body.version, body.houseRules, actor.name);
  }

  @Serves(api.houseRulesHistory)
  async history(): Promise<{ changes: HouseRulesChange[] }> {
    return { changes: await this.house.houseRulesHistory() };
  }
}
