import { Controller } from '@nestjs/common';
import { api, type HouseView } from '@ulvane/contract';
import { Input, Serves, type InputOf } from '../http/serves';
import { HouseService } from './house.service';

@Controller()
export class HouseController {
  constructor(private readonly house: HouseService) {}

  @Serves(api.house)
  read(): Promise<HouseView> {
    return this.house.house();
  }

  @Serves(api.setPractice)
  setPractice(@Input(api.setPractice) { body }: InputOf<typeof api.setPractice>): Promise<HouseView> {
    return this.house.setPractice(body.version, body.practice);
  }
}
