import { Controller, Header } from '@nestjs/common';
import { api, type Sealed, type SecretHead } from '@ulvane/contract';
import { Actor, Input, Serves, type ActorOfRequest, type InputOf } from '../http/serves';
import { VaultService } from './vault.service';

const secondsShown = 30;

/** The vault of a move. */
@Controller()
export class SecretsController {
  constructor(private readonly vault: VaultService) {}

  @Serves(api.secrets)
  async list(@Input() { params }: InputOf<typeof api.secrets>): Promise<{ secrets: SecretHead[] }> {
    return { secrets: await this.vault.heads(params.reference) };
  }

  @Serves(api.addSecret)
  async add(
    @Input() { params, body }: InputOf<typeof api.addSecret>,
    @Actor() actor: ActorOfRequest,
  ): Promise<{ secrets: SecretHead[] }> {
    return { secrets: await this.vault.add(params.reference, actor, body) };
  }

  @Serves(api.showSecret)
  @Header('Cache-Control', 'no-store')
  async show(
    @Input() { params }: InputOf<typeof api.showSecret>,
    @Actor() actor: ActorOfRequest,
  ): Promise<{ value: string; seconds: number }> {
    return {
      value: await this.vault.show(params.reference, params.id, actor),
      seconds: secondsShown,
    };
  }

  @Serves(api.removeSecret)
  async remove(
    @Input() { params }: InputOf<typeof api.removeSecret>,
    @Actor() actor: ActorOfRequest,
  ): Promise<{ secrets: SecretHead[] }> {
    return { secrets: await this.vault.remove(params.reference, params.id, actor) };
  }

  @Serves(api.sealSecrets)
  @Header('Cache-Control', 'no-store')
  seal(
    @Input() { params, body }: InputOf<typeof api.sealSecrets>,
    @Actor() actor: ActorOfRequest,
  ): Promise<Sealed> {
    return this.vault.seal(params.reference, actor, body.passphrase);
  }

  @Serves(api.unsealSecrets)
  async unseal(
    @Input() { params, body }: InputOf<typeof api.unsealSecrets>,
    @Actor() actor: ActorOfRequest,
  ): Promise<{ secrets: SecretHead[] }> {
    return { secrets: await this.vault.unseal(params.reference, actor, body.passphrase, body.sealed) };
  }
}
