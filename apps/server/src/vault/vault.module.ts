import { Module, type DynamicModule } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { MovesModule } from '../moves/moves.module';
import { VaultKeys } from './vaultKeys';
import type { KeySource } from './keyRing';
import { DataSource } from 'typeorm';
import { SecretEntity } from './secret.entity';
import { SecretsController } from './secrets.controller';
import { VaultService } from './vault.service';

@Module({})
export class VaultModule {
  /** @param source where the keys come from; read once, when the server has brought its database up */
  static from(source: KeySource): DynamicModule {
    return {
      module: VaultModule,
      global: true,
      imports: [TypeOrmModule.forFeature([SecretEntity]), MovesModule],
      controllers: [SecretsController],
      providers: [
        VaultService,
        {
          provide: VaultKeys,
          useFactory: (dataSource: DataSource) => new VaultKeys(dataSource, source),
          inject: [DataSource],
        },
      ],
      exports: [VaultKeys],
    };
  }
}
