import { findRelease, releaseTitle, supportedUntil } from '@ulvane/core/catalogue';
import { addDays, daysBetween } from '@ulvane/core/quantity';
import { stages } from '@ulvane/core/record';
import { nextUp } from '@ulvane/core/schedule';
import { Clock } from '../clock/clock';
import { HouseService } from '../house/house.service';
import { controllerOf } from '../http/controller';
import { MovesReader } from '../moves/moves.reader';

/** How many days before its last one a backup is told of. */
const daysAhead = 7;

export const TodayController = controllerOf(
  { moves: MovesReader, house: HouseService, clock: Clock },
  {
    today: async (_input, _caller, { moves, house, clock }) => {
      const now = clock.now();
      const { catalogue, houseRules } = await house.house();
      const today = clock.today(houseRules.timeZone);
      const [open, totals, ahead, wipes, present, counts] = await Promise.all([
        moves.forHands(),
        moves.openCounts(now),
        moves.daysAhead(today),
        moves.toWipe(addDays(today, daysAhead)),
        moves.presentCounts(),
        moves.stageCounts(),
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
        ahead: ahead.flatMap(({ reference, device, site, dayAhead: day, dayReason: why }) =>
          day === null || why === null
            ? []
            : [{ reference, device, site, day, why, daysLeft: daysBetween(today, day) }],
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
    },
  },
);
