import { randomBytes } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';

/**
 * What cookies are signed with. Made when it is missing, as after a backup was restored: then everybody
 * signs in anew. All servers of one database share it.
 */
@Injectable()
export class ServerSecret {
  constructor(private readonly dataSource: DataSource) {}

  private known: string | undefined;

  async value(): Promise<string> {
    if (this.known !== undefined) return this.known;
    await this.dataSource.query(
      `INSERT INTO server_secret (name, value) VALUES ('session', $1) ON CONFLICT (name) DO NOTHING`,
      [randomBytes(32).toString('hex')],
    );
    const [row]: { value: string }[] = await this.dataSource.query(
      `SELECT value FROM server_secret WHERE name = 'session'`,
    );
    if (!row) throw new Error('the database keeps no secret for cookies');
    this.known = row.value;
    return row.value;
  }
}
