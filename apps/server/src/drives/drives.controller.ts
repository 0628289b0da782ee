import { Controller } from '@nestjs/common';
import { api, type DriveView } from '@ulvane/contract';
import { z } from 'zod';
import { refuse } from '../http/problem';
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
  put(@Input(api.putDrive) { params, body }: InputOf<typeof api.putDrive>): Promise<DriveView> {
    const id = z.uuid().safeParse(params.id);
    if (!id.success) throw refuse(422, 'no-id', 'A drive’s id is a UUID.', '/id');
    return this.service.put(id.data, body.version, body.drive);
  }

  @Serves(api.removeDrive)
  async remove(
    @Input(api.removeDrive) { params, body }: InputOf<typeof api.removeDrive>,
  ): Promise<{ drives: DriveView[] }> {
    await this.service.remove(params.id ?? '', body.version);
    return this.list();
  }
}
