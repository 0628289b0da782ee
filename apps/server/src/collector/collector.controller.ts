import { StreamableFile } from '@nestjs/common';
import script from '../../../../collector/ulvane-survey.sh?raw';
import { controllerOf } from '../http/controller';

export const CollectorController = controllerOf(
  {},
  {
    collector: () =>
      new StreamableFile(Buffer.from(script, 'utf8'), {
        type: 'application/x-sh',
        disposition: 'attachment; filename="ulvane-survey.sh"',
      }),
  },
);
