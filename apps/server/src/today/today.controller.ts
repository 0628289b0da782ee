import { Controller } from '@nestjs/common';
import { api, type Today } from '@ulvane/contract';
import { findRelease, releaseTitle, supportedUntil } from '@ulvane/core/catalogue';
import { addDays, daysBetween } from '@ulvane/core/quantity';
import { stages } from '@ulvane/core/record';
import { nextUp } from '@ulvane/core/schedule';
import { Clock } from '../clock/clock';
import { HouseService } from '../house/house.service';
import { Serves } from '../http/serves';
import { MovesReader } from '../moves/moves.reader';

/** How many days before its last one a backup is told of. */
const daysAhead = 7;

@Controller()
export class TodayController {
  constructor(
    private readonly moves: MovesReader,
    private readonly house: HouseService,
    private readonly clock: Clock,
  ) {}

  @Serves(api.today)
  async today(): Promise<Today> {
    const now = this.clock.now();
    const { catalogue, houseRules } = await this.house.house();
    const today = this.clock.today(houseRules.timeZone);
    const [open, totals, holds, wipes, present, counts] = await Promise.all([
      this.moves.forHands(),
      this.moves.openCounts(now),
      this.moves.holds(),
      this.moves.toWipe(addDays(today, daysAhead)),
      this.moves.presentCounts(),
      this.moves.stageCounts(),
    ]);
    const hands = nextUp(
      open.map((row) => ({
        reference: row.reference,
        device: row.device,
        site: row.site,
        dueOn: row.dueOn,
        wait:
          row.waitTitle !== null && row.waitStartedAt !== null
            ? {
                title: row.waitTitle,
                startedAt: row.waitStartedAt.toISOString(),
                minutes: row.waitMinutes ?? 0,
              }
            : null,
        nextTitle: row.next,
        begun: row.begun,
        blockedBecause: row.blockedBecause,
      })),
      now,
      today,
    );
    const countdown = [...present].map(([id, count]) => {
      const release = findRelease(catalogue, id);
      const until = release ? supportedUntil(release) : null;
      return {
        release: release ? releaseTitle(release) : id,
        supportedUntil: until,
        daysLeft: until === null ? null : daysBetween(today, until),
        count,
      };
    });
    return {
      hands: hands.slice(0, 100),
      ...totals,
      stages: stages.map((stage) => ({ stage, count: counts.get(stage) ?? 0 })),
      holds: holds.flatMap(({ reference, device, site, holdUntil: until }) =>
        until === null ? [] : [{ reference, device, site, until, daysLeft: daysBetween(today, until) }],
      ),
      wipes: wipes
        .flatMap(({ device, move }) =>
          move.retention
            .filter(({ wiped, keepUntil }) => wiped === null && daysBetween(today, keepUntil) <= daysAhead)
            .map(({ label, place, keepUntil }) => ({
              reference: move.reference,
              device,
              label,
              place,
              keepUntil,
              daysLeft: daysBetween(today, keepUntil),
            })),
        )
        .sort((a, b) => a.daysLeft - b.daysLeft),
      countdown: countdown.sort((a, b) => (a.daysLeft ?? 1e6) - (b.daysLeft ?? 1e6)),
    };
  }
}
