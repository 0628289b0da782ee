import { Injectable } from '@nestjs/common';
import { dayIn } from '@ulvane/core/quantity';

/** The one place that the server takes the time from; `ULVANE_NOW` pins it. */
@Injectable()
export class Clock {
  constructor(private readonly pinnedAt: string | null) {}

  now(): string {
    return this.pinnedAt ?? new Date().toISOString();
  }

  /** The calendar day in a zone. */
  today(zone: string): string {
    return dayIn(zone, this.now());
  }

  get pinned(): boolean {
    return this.pinnedAt !== null;
  }
}
