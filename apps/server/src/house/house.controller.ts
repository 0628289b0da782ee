import { Controller } from '@nestjs/common';
import { api, type HouseView, type PracticeChange } from '@ulvane/contract';
import { Actor, Input, Serves, type ActorOfRequest, type InputOf } from '../http/serves';
import { HouseService } from './house.service';

@Controller()
export class HouseController {
  constructor(private readonly house: HouseService) {}

  @Serves(api.house)
  read(): Promise<HouseView> {
    return this.house.house();
  }

  @Serves(api.setPractice)
  setPractice(
    @Input() { body }: InputOf<typeof api.setPractice>,
    @Actor() actor: ActorOfRequest,
  ): Promise<HouseView> {
    return this.house.setPractice(body.version, body.practice, actor.name);
  }

  @Serves(api.practiceHistory)
  async history(): Promise<{ changes: PracticeChange[] }> {
    return { changes: await this.house.practiceHistory() };
  }
}
