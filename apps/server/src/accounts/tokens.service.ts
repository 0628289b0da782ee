import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { ApiToken, TokenScope } from '@ulvane/contract';
import { IsNull, Repository } from 'typeorm';
import { Clock } from '../clock/clock';
import { Transactions } from '../database/transactions';
import { refuse } from '../http/problem';
import { LogWriter } from '../log/logWriter';
import { AccountsService } from './accounts.service';
import { ApiTokenEntity } from './apiToken.entity';

/** A name in front, so that a token that lies about somewhere is known for what it is. */
const mark = 'ulv_';
/** The time of last use is kept by the minute: each is a write. */
const usedEveryMs = 60_000;
const tokensAPerson = 50;

type Person = { readonly id: string; readonly name: string; readonly role: string };

function hashOf(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}

/** API tokens: the way in for programs, without a cookie. */
@Injectable()
export class TokensService {
  constructor(
    @InjectRepository(ApiTokenEntity) private readonly tokens: Repository<ApiTokenEntity>,
    private readonly accounts: AccountsService,
    private readonly transactions: Transactions,
    private readonly log: LogWriter,
    private readonly clock: Clock,
  ) {}

  /** One's own; for a lead everybody's. */
  async list({ id, role }: Person): Promise<ApiToken[]> {
    const rows = await this.tokens.find({
      where: role === 'lead' ? {} : { accountId: id },
      order: { createdAt: 'DESC', id: 'ASC' },
      take: 500,
    });
    const names = new Map((await this.accounts.list()).map((account) => [account.id, account.name]));
    return rows.map((row) => ({
      id: row.id,
      account: names.get(row.accountId) ?? '',
      name: row.name,
      scope: row.scope,
      ends: row.ends,
      createdAt: row.createdAt.toISOString(),
      lastUsedAt: row.lastUsedAt?.toISOString() ?? null,
      revokedAt: row.revokedAt?.toISOString() ?? null,
    }));
  }

  async add(person: Person, name: string, scope: TokenScope): Promise<string> {
    const token = `${mark}${randomBytes(32).toString('base64url')}`;
    await this.transactions.run(async (manager) => {
      const own = await manager.countBy(ApiTokenEntity, { accountId: person.id, revokedAt: IsNull() });
      if (own >= tokensAPerson)
        throw refuse('too-many-tokens', `You have ${own} tokens: revoke one that is not used any more.`);
      await manager.insert(ApiTokenEntity, {
        id: randomUUID(),
        accountId: person.id,
        name,
        scope,
        hash: hashOf(token),
        ends: token.slice(-4),
        createdAt: new Date(this.clock.now()),
      });
      await this.log.writeHouse(
        manager,
        person.name,
        'token-added',
        `API token “${name}” made, scope ${scope}.`,
      );
    });
    return token;
  }

  async revoke(person: Person, id: string): Promise<void> {
    await this.transactions.run(async (manager) => {
      const row = await manager.findOne(ApiTokenEntity, {
        where: { id, ...(person.role === 'lead' ? {} : { accountId: person.id }) },
        lock: { mode: 'pessimistic_write' },
      });
      if (!row) throw refuse('no-such-token', 'There is no such token.');
      if (row.revokedAt) return;
      await manager.update(
        ApiTokenEntity,
        { id },
        { revokedAt: new Date(this.clock.now()), revokedBy: person.name },
      );
      await this.log.writeHouse(manager, person.name, 'token-revoked', `API token “${row.name}” revoked.`);
    });
  }

  /** Whose token it is, and what it may; null for none, a revoked one, or one of a disabled account. */
  async owner(token: string): Promise<{ readonly account: Person; readonly scope: TokenScope } | null> {
    if (!token.startsWith(mark)) return null;
    const row = await this.tokens.findOneBy({ hash: hashOf(token), revokedAt: IsNull() });
    const account = row && (await this.accounts.find(row.accountId));
    if (!row || !account || account.disabled) return null;
    const now = Date.parse(this.clock.now());
    if (now - (row.lastUsedAt?.getTime() ?? 0) >= usedEveryMs)
      await this.tokens.update({ id: row.id }, { lastUsedAt: new Date(now) });
    return { account: { id: account.id, name: account.name, role: account.role }, scope: row.scope };
  }
}
