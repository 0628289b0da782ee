import { Controller } from '@nestjs/common';
import { api, type DriveView } from '@ulvane/contract';
import { Input, Serves, type InputOf } from '../http/serves';
import { DrivesService } from './drives.service';

@Controller()
export class DrivesController {
  constructor(private readonly service: DrivesService) {}

  @Serves(api.drives)
  async list(): Promise<{ drives: DriveView[] }> {
    return { drives: await this.service.list() };
  }

  @Serves(api.putDrive)
  put(@Input() { params, body }: InputOf<typeof api.putDrive>): Promise<DriveView> {
    return this.service.put(params.id, body.version, body.drive);
  }

  @Serves(api.removeDrive)
  async remove(@Input() { params, body }: InputOf<typeof api.removeDrive>): Promise<{ drives: DriveView[] }> {
    await this.service.remove(params.id, body.version);
    return this.list();
  }
}
