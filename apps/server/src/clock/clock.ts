import { Injectable } from '@nestjs/common';

/** The one place that the server takes the time from; `ULVANE_NOW` pins it. */
@Injectable()
export class Clock {
  constructor(private readonly pinnedAt: string | null) {}

  now(): string {
    return this.pinnedAt ?? new Date().toISOString();
  }

  get pinned(): boolean {
    return this.pinnedAt !== null;
  }
}
