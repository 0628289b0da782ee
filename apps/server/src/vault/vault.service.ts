import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { Sealed, SecretHead } from '@ulvane/contract';
import type { Secret } from '@ulvane/core/record';
import { Repository, type EntityManager } from 'typeorm';
import { Clock } from '../clock/clock';
import { Transactions } from '../database/transactions';
import { refuse } from '../http/problem';
import type { ActorOfRequest } from '../http/serves';
import { MovesReader } from '../moves/moves.reader';
import { LogWriter } from '../log/logWriter';
import { openWithPassphrase, sealWithPassphrase } from './passphrase';
import { seal, unseal } from './sealing';
import { SecretEntity } from './secret.entity';
import { VaultKeys } from './vaultKeys';

/** What a sealed secret is bound to. */
export function sealedContext({ id, moveId }: Pick<SecretEntity, 'id' | 'moveId'>): string {
  return `${moveId} ${id}`;
}

/** Secrets of moves: sealed in the database, shown on request, each showing in the log. */
@Injectable()
export class VaultService {
  constructor(
    @InjectRepository(SecretEntity) private readonly secrets: Repository<SecretEntity>,
    private readonly vaultKeys: VaultKeys,
    private readonly transactions: Transactions,
    private readonly log: LogWriter,
    private readonly moves: MovesReader,
    private readonly clock: Clock,
  ) {}

  async heads(reference: string): Promise<SecretHead[]> {
    const { move } = await this.moves.one(reference);
    const rows = await this.secrets.find({ where: { moveId: move.id }, order: { at: 'ASC', id: 'ASC' } });
    return rows.map(({ id, kind, label, at, by, showings, lastShownTo }) => ({
      id,
      kind,
      label,
      at: at.toISOString(),
      by,
      showings,
      lastShownTo,
    }));
  }

  async add(reference: string, actor: ActorOfRequest, secret: Secret): Promise<SecretHead[]> {
    const { move } = await this.moves.one(reference);
    await this.transactions.run((manager) => this.put(manager, move.id, actor, secret));
    return this.heads(reference);
  }

  private async put(
    manager: EntityManager,
    moveId: string,
    actor: ActorOfRequest,
    { kind, label, value }: Secret,
  ): Promise<void> {
    const [key] = this.vaultKeys.keys;
    if (!key)
      throw refuse(
        'no-vault-key',
        'The vault’s key is missing, and secrets are sealed with it: put the key file back, and start the server again.',
      );
    const id = randomUUID();
    await manager.insert(SecretEntity, {
      id,
      moveId,
      kind,
      label,
      at: new Date(this.clock.now()),
      by: actor.name,
      ...seal(value, sealedContext({ id, moveId }), key),
    });
    await this.log.writeFor(manager, moveId, actor.name, 'secret-added', `${label}: added to the vault.`);
  }

  private open(row: SecretEntity): string {
    const value = unseal(row, sealedContext(row), this.vaultKeys.keys);
    if (value === null)
      throw refuse(
        'wrong-vault-key',
        `${row.label} was sealed with another key of the vault (${row.keyId}): start the server with that key.`,
      );
    return value;
  }

  private async rowOf(manager: EntityManager, moveId: string, id: string): Promise<SecretEntity> {
    const row = await manager
      .getRepository(SecretEntity)
      .createQueryBuilder('secret')
      .setLock('pessimistic_write')
      .where('secret.id::text = :id AND secret.moveId = :moveId', { id, moveId })
      .getOne();
    if (!row) throw refuse('no-such-secret', 'That secret is not in the vault any more: reload the page.');
    return row;
  }

  async show(reference: string, id: string, actor: ActorOfRequest): Promise<string> {
    const moveId = await this.moves.idOf(reference);
    return this.transactions.run(async (manager) => {
      const row = await this.rowOf(manager, moveId, id);
      const value = this.open(row);
      await manager.update(
        SecretEntity,
        { id: row.id },
        { showings: row.showings + 1, lastShownTo: actor.name },
      );
      await this.log.writeFor(
        manager,
        row.moveId,
        actor.name,
        'secret-shown',
        `${row.label}: shown to ${actor.name}.`,
      );
      return value;
    });
  }

  async remove(reference: string, id: string, actor: ActorOfRequest): Promise<SecretHead[]> {
    const moveId = await this.moves.idOf(reference);
    await this.transactions.run(async (manager) => {
      const row = await this.rowOf(manager, moveId, id);
      await manager.delete(SecretEntity, { id: row.id });
      await this.log.writeFor(
        manager,
        row.moveId,
        actor.name,
        'secret-removed',
        `${row.label}: erased from the vault.`,
      );
    });
    return this.heads(reference);
  }

  async seal(reference: string, actor: ActorOfRequest, passphrase: string): Promise<Sealed> {
    const { move } = await this.moves.one(reference);
    const rows = await this.secrets.find({ where: { moveId: move.id }, order: { at: 'ASC', id: 'ASC' } });
    if (rows.length === 0) throw refuse('no-secrets', 'The vault holds nothing of this move.');
    const sealed = await sealWithPassphrase(
      rows.map((row) => ({ kind: row.kind, label: row.label, value: this.open(row) })),
      passphrase,
    );
    await this.transactions.run((manager) =>
      this.log.writeFor(
        manager,
        move.id,
        actor.name,
        'secrets-sealed',
        `${rows.length} of the vault’s secrets written to a file, encrypted with a passphrase.`,
      ),
    );
    return sealed;
  }

  async unseal(
    reference: string,
    actor: ActorOfRequest,
    passphrase: string,
    sealed: Sealed,
  ): Promise<SecretHead[]> {
    const { move } = await this.moves.one(reference);
    const secrets = await openWithPassphrase(sealed, passphrase);
    if (secrets === null)
      throw refuse(
        'wrong-passphrase',
        'The passphrase does not open the file, or the file is damaged.',
        '/passphrase',
      );
    await this.transactions.run(async (manager) => {
      for (const secret of secrets) await this.put(manager, move.id, actor, secret);
    });
    return this.heads(reference);
  }
}
