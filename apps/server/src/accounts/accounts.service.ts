import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { hash, verify } from '@node-rs/argon2';
import type { Account } from '@ulvane/contract';
import type { Role } from '@ulvane/core';
import { Repository } from 'typeorm';
import { refuse } from '../http/problem';
import { AccountEntity } from './account.entity';

function viewOf({ id, name, role, disabled }: AccountEntity): Account {
  return { id, name, role, disabled };
}

@Injectable()
export class AccountsService {
  constructor(@InjectRepository(AccountEntity) private readonly accounts: Repository<AccountEntity>) {}

  async list(): Promise<Account[]> {
    return (await this.accounts.find({ order: { name: 'ASC' } })).map(viewOf);
  }

  async find(id: string): Promise<Account | null> {
    const account = await this.accounts.findOneBy({ id });
    return account && viewOf(account);
  }

  async add(name: string, role: Role, password: string): Promise<Account> {
    if (await this.byName(name))
      throw refuse(
        409,
        'name-taken',
        `There is an account named ${name} already: take another name.`,
        '/name',
      );
    // Argon2id is the package's default, with OWASP's memory and time.
    const account = this.accounts.create({
      id: randomUUID(),
      name,
      role,
      passwordHash: await hash(password),
      disabled: false,
    });
    await this.accounts.insert(account);
    return viewOf(account);
  }

  async setDisabled(id: string, disabled: boolean, actorName: string): Promise<Account> {
    const account = await this.accounts.findOneBy({ id });
    if (!account) throw refuse(404, 'no-such-account', 'There is no such account.');
    if (disabled && account.name === actorName)
      throw refuse(422, 'own-account', 'You cannot disable the account that you are signed in with.');
    await this.accounts.update({ id }, { disabled });
    return viewOf({ ...account, disabled });
  }

  /** The account when name and password fit; a wrong name takes as long as a wrong password. */
  async check(name: string, password: string): Promise<Account | null> {
    const account = await this.byName(name);
    const known = account?.passwordHash ?? (await this.decoy());
    const fits = await verify(known, password);
    return account && fits && !account.disabled ? viewOf(account) : null;
  }

  private byName(name: string): Promise<AccountEntity | null> {
    return this.accounts
      .createQueryBuilder('account')
      .where('lower(account.name) = lower(:name)', { name: name.trim() })
      .getOne();
  }

  private decoyHash: Promise<string> | undefined;

  private decoy(): Promise<string> {
    this.decoyHash ??= hash(randomUUID());
    return this.decoyHash;
  }
}
