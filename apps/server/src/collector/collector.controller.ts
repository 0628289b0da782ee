import { Controller, StreamableFile } from '@nestjs/common';
import { api } from '@ulvane/contract';
import script from '../../../../collector/ulvane-survey.sh?raw';
import { Serves } from '../http/serves';

@Controller()
export class CollectorController {
  @Serves(api.collector)
  script(): StreamableFile {
    return new StreamableFile(Buffer.from(script, 'utf8'), {
      type: 'application/x-sh',
      disposition: 'attachment; filename="ulvane-survey.sh"',
    });
  }
}
