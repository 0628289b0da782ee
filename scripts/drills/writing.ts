import type { Person } from './world';

type Acknowledged = { readonly reference: string; readonly version: number; readonly owner: string };

/**
 * Writes and reads without end, as several people at once, and remembers what was acknowledged.
 * Whoever writes takes the version that was seen last, as a page does.
 */
export class Writing {
  readonly acknowledged: Acknowledged[] = [];
  readonly statuses = new Map<number, number>();
  slowestMs = 0;
  private stopped = false;
  private number = 0;
  private readonly workers: Promise<void>[] = [];

  constructor(
    people: readonly Person[],
    private readonly references: readonly string[],
    atOnce: number,
  ) {
    for (let worker = 0; worker < atOnce; worker += 1) {
      const person = people[worker % people.length];
      if (person) this.workers.push(this.write(person, worker));
    }
  }

  private async write(person: Person, worker: number): Promise<void> {
    const reference = this.references[worker % this.references.length] ?? '';
    let version = 0;
    while (!this.stopped) {
      if (version === 0) version = await person.version(reference);
      if (version === 0) {
        await new Promise((resolve) => setTimeout(resolve, 20));
        continue;
      }
      this.number += 1;
      const owner = `Owner w${this.number}e`;
      const { status, ms } = await person.nameOwner(reference, version, owner);
      this.statuses.set(status, (this.statuses.get(status) ?? 0) + 1);
      this.slowestMs = Math.max(this.slowestMs, ms);
      if (status === 200) this.acknowledged.push({ reference, version: version + 1, owner });
      version = status === 200 ? version + 1 : 0;
    }
  }

  async stop(): Promise<void> {
    this.stopped = true;
    await Promise.all(this.workers);
  }

  /**
   * Compares what was acknowledged with what is there.
   * @returns a sentence for everything that is not so
   */
  async faults(person: Person): Promise<string[]> {
    const faults: string[] = [];
    for (const reference of new Set(this.references)) {
      const own = this.acknowledged.filter((write) => write.reference === reference);
      const log = await person.log(reference);
      const lost = own.filter(({ owner }) => !log.some((sentence) => sentence.includes(owner)));
      if (lost.length > 0) faults.push(`${reference}: ${lost.length} acknowledged writes are not in the log`);
      if (new Set(own.map(({ version }) => version)).size !== own.length)
        faults.push(`${reference}: two writes were acknowledged at the same version`);
      const version = await person.versionInTheEnd(reference);
      const highest = Math.max(0, ...own.map((write) => write.version));
      if (version < highest) faults.push(`${reference}: version ${version}, but ${highest} was acknowledged`);
    }
    return faults;
  }

  /** @example '412 acknowledged; 200: 412, 503: 3' */
  figures(): string {
    const statuses = [...this.statuses]
      .sort(([a], [b]) => a - b)
      .map(([status, count]) => `${status || 'no answer'}: ${count}`);
    return `${this.acknowledged.length} acknowledged (${statuses.join(', ')}), slowest ${(this.slowestMs / 1000).toFixed(2)} s`;
  }
}
