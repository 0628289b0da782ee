import { DataSource, In, Not } from 'typeorm';
import { keysThere, readKeys, type KeySource, type VaultKey } from './keyRing';
import { SecretEntity } from './secret.entity';

/** The vault's keys, and whether they are those that the secrets were sealed with. */
export class VaultKeys {
  constructor(
    private readonly dataSource: DataSource,
    private readonly source: KeySource,
  ) {}

  private known: readonly VaultKey[] = [];

  /** The first one seals. Empty when a key file is missing beside secrets that some key has sealed. */
  get keys(): readonly VaultKey[] {
    return this.known;
  }

  /**
   * Reads the keys. A new key file is made for an empty vault only: beside old secrets it would hide that
   * the key they need is missing.
   */
  async load(): Promise<void> {
    const secrets = this.dataSource.getRepository(SecretEntity);
    this.known = keysThere(this.source) || (await secrets.count()) === 0 ? readKeys(this.source) : [];
  }

  /** How many secrets no key of this server opens. */
  async unopenable(): Promise<number> {
    const ids = this.known.map(({ id }) => id);
    return this.dataSource
      .getRepository(SecretEntity)
      .countBy(ids.length === 0 ? {} : { keyId: Not(In(ids)) });
  }
}
