import { Module, type DynamicModule } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { MovesModule } from '../moves/moves.module';
import { readKeys, type KeySource } from './keyRing';
import { SecretEntity } from './secret.entity';
import { SecretsController } from './secrets.controller';
import { vaultKeys, VaultService } from './vault.service';

@Module({})
export class VaultModule {
  /** @param source where the keys come from; read once, when the server starts */
  static from(source: KeySource): DynamicModule {
    return {
      module: VaultModule,
      imports: [TypeOrmModule.forFeature([SecretEntity]), MovesModule],
      controllers: [SecretsController],
      providers: [VaultService, { provide: vaultKeys, useFactory: () => readKeys(source) }],
    };
  }
}
