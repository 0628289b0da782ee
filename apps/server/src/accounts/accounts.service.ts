import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { Account } from '@ulvane/contract';
import type { Role } from '@ulvane/core/record';
import { MoreThan, Repository, type EntityManager } from 'typeorm';
import { Clock } from '../clock/clock';
import { Transactions } from '../database/transactions';
import { refuse } from '../http/problem';
import { LogWriter } from '../log/logWriter';
import { AccountEntity } from './account.entity';
import { nameKeyOf } from './nameKey';
import { fits, hashOf, refuseWeak } from './passwords';

/** An account as the server knows it: what identifies a browser that it has signed in from changes with the password. */
export type KnownAccount = Account & { readonly seal: string };

const resetHours = 24;

function viewOf({ id, name, role, disabled, version }: AccountEntity): Account {
  return { id, name, role, disabled, version };
}

function knownOf(account: AccountEntity): KnownAccount {
  return { ...viewOf(account), seal: hashOfLink(account.passwordHash).slice(0, 16) };
}

function hashOfLink(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}

@Injectable()
export class AccountsService {
  constructor(
    @InjectRepository(AccountEntity) private readonly accounts: Repository<AccountEntity>,
    private readonly transactions: Transactions,
    private readonly log: LogWriter,
    private readonly clock: Clock,
  ) {}

  async list(): Promise<Account[]> {
    return (await this.accounts.find({ order: { name: 'ASC' } })).map(viewOf);
  }

  async find(id: string): Promise<Account | null> {
    const account = await this.accounts.findOneBy({ id });
    return account && viewOf(account);
  }

  /** An account with what its browsers are marked by. */
  async known(id: string): Promise<KnownAccount | null> {
    const account = await this.accounts.findOneBy({ id });
    return account && knownOf(account);
  }

  async add(name: string, role: Role, password: string, by: string): Promise<Account> {
    refuseWeak(password, name);
    const passwordHash = await hashOf(password);
    return this.transactions.run((manager) => this.insert(manager, { name, role, passwordHash }, by));
  }

  /** Adds an account within the caller's transaction; two of one name at once are told apart by the database. */
  async insert(
    manager: EntityManager,
    { name, role, passwordHash }: Pick<AccountEntity, 'name' | 'role' | 'passwordHash'>,
    by: string,
  ): Promise<Account> {
    const nameKey = nameKeyOf(name);
    if (await manager.existsBy(AccountEntity, { nameKey }))
      throw refuse('name-taken', `There is an account named ${name} already: choose another name.`, '/name');
    const account = manager.create(AccountEntity, {
      id: randomUUID(),
      version: 1,
      name,
      nameKey,
      role,
      passwordHash,
      disabled: false,
      resetHash: null,
      resetUntil: null,
    });
    await manager.insert(AccountEntity, account);
    await this.log.writeHouse(manager, by, 'account-added', `Account ${name} added, as ${role}.`);
    return viewOf(account);
  }

  /** Disables an account, which ends its sessions, or lets it in again. */
  setDisabled(id: string, version: number, disabled: boolean, by: string): Promise<Account> {
    return this.transactions.run(async (manager) => {
      const account = await this.lock(manager, id, version);
      if (disabled && account.name === by)
        throw refuse(
          'own-account',
          'You cannot disable the account that you are signed in with.',
          '/disabled',
        );
      await manager.update(AccountEntity, { id }, { disabled, version: version + 1, resetHash: null });
      if (disabled) await endSessions(manager, id, null);
      await this.log.writeHouse(
        manager,
        by,
        disabled ? 'account-disabled' : 'account-enabled',
        disabled
          ? `Account ${account.name} disabled; its sessions ended.`
          : `Account ${account.name} may sign in again.`,
      );
      return viewOf({ ...account, disabled, version: version + 1 });
    });
  }

  /** @param sid the session that goes on; all others of the account end */
  async changePassword(id: string, present: string, next: string, sid: string): Promise<KnownAccount> {
    const account = await this.accounts.findOneByOrFail({ id });
    if (!(await fits(account.passwordHash, present)))
      throw refuse('wrong-password', 'The present password is another one.', '/present');
    refuseWeak(next, account.name, '/next');
    const passwordHash = await hashOf(next);
    return this.transactions.run(async (manager) => {
      const locked = await this.lock(manager, id, account.version);
      const changed = { passwordHash, version: locked.version + 1, resetHash: null, resetUntil: null };
      await manager.update(AccountEntity, { id }, changed);
      await endSessions(manager, id, sid);
      await this.log.writeHouse(
        manager,
        account.name,
        'password-changed',
        `${account.name} changed the password.`,
      );
      return knownOf({ ...locked, ...changed });
    });
  }

  /** A one-time link for somebody who has lost the password. Only its hash is kept. */
  offerReset(id: string, version: number, by: string): Promise<{ path: string; until: string }> {
    const token = randomBytes(24).toString('base64url');
    const until = new Date(Date.parse(this.clock.now()) + resetHours * 3_600_000);
    return this.transactions.run(async (manager) => {
      const account = await this.lock(manager, id, version);
      if (account.disabled)
        throw refuse('disabled', `${account.name} may not sign in: enable the account first.`);
      await manager.update(
        AccountEntity,
        { id },
        { resetHash: hashOfLink(token), resetUntil: until, version: version + 1 },
      );
      await this.log.writeHouse(
        manager,
        by,
        'reset-offered',
        `One-time link for a new password made for ${account.name}.`,
      );
      return { path: `/new-password?token=${token}`, until: until.toISOString() };
    });
  }

  /** Sets a new password with the link; it is worth nothing afterwards, and every session of the account ends. */
  async reset(token: string, password: string): Promise<void> {
    const found = await this.accounts.findOneBy({
      resetHash: hashOfLink(token),
      resetUntil: MoreThan(new Date(this.clock.now())),
      disabled: false,
    });
    const used = refuse(
      'link-used',
      'This link has been used, has run out or is not the newest one: ask a lead for another.',
      '/token',
    );
    if (!found) throw used;
    refuseWeak(password, found.name);
    const passwordHash = await hashOf(password);
    await this.transactions.run(async (manager) => {
      const { affected } = await manager.update(
        AccountEntity,
        { id: found.id, resetHash: hashOfLink(token) },
        { passwordHash, resetHash: null, resetUntil: null, version: found.version + 1 },
      );
      if (affected !== 1) throw used;
      await endSessions(manager, found.id, null);
      await this.log.writeHouse(
        manager,
        found.name,
        'password-reset',
        `${found.name} set a new password with a one-time link.`,
      );
    });
  }

  /** The account when name and password fit; a wrong name takes as long as a wrong password. */
  async check(name: string, password: string): Promise<KnownAccount | null> {
    const account = await this.accounts.findOneBy({ nameKey: nameKeyOf(name) });
    const known = account?.passwordHash ?? (await this.decoy());
    const right = await fits(known, password);
    return account && right && !account.disabled ? knownOf(account) : null;
  }

  private async lock(manager: EntityManager, id: string, version: number): Promise<AccountEntity> {
    const account = await manager.findOne(AccountEntity, {
      where: { id },
      lock: { mode: 'pessimistic_write' },
    });
    if (!account) throw refuse('no-such-account', 'There is no such account.');
    if (account.version !== version)
      throw refuse(
        'version',
        `The account of ${account.name} has changed since you opened it. Nothing of yours was saved: look, then do it again.`,
        '/version',
      );
    return account;
  }

  private decoyHash: Promise<string> | undefined;

  private decoy(): Promise<string> {
    this.decoyHash ??= hashOf(randomUUID());
    return this.decoyHash;
  }
}

async function endSessions(manager: EntityManager, accountId: string, butSid: string | null): Promise<void> {
  await manager.query(
    `DELETE FROM session WHERE sess -> 'account' ->> 'id' = $1 AND ($2::text IS NULL OR sid <> $2)`,
    [accountId, butSid],
  );
}
