import { describe, expect, it } from 'vitest';
import { installMinutes } from '../../src/media/installTime';

/** 6 GB of image, 27 GB of system; a quarter of an hour to forty minutes. */
const release = {
  installMinutes: { low: 15, likely: 25, high: 40 },
  imageBytes: 6_000_000_000,
  systemBytes: 27_000_000_000,
};

describe('the minutes of an install', () => {
  it('are the release’s own from a stick onto a solid-state disk', () => {
    expect(installMinutes(release, 'stick', 'solid-state')).toEqual(release.installMinutes);
  });

  it('are more onto a spinning disk, by the bytes that it writes more slowly', () => {
    // 27 000 MB ÷ 110 MB/s − 27 000 MB ÷ 430 MB/s = 245.5 s − 62.8 s = 3.04 min.
    expect(installMinutes(release, 'stick', 'spinning').likely).toBeCloseTo(25 + 3.04, 1);
  });

  it('are more from a disc, and fewer from a partition of the disk', () => {
    // 6000 MB ÷ 8.3 MB/s − 6000 MB ÷ 25 MB/s = 722.9 s − 240 s = 8.05 min.
    expect(installMinutes(release, 'optical-disc', 'solid-state').likely).toBeCloseTo(25 + 8.05, 1);
    // 6000 MB ÷ 430 MB/s − 6000 MB ÷ 25 MB/s = 14 s − 240 s = −3.77 min.
    expect(installMinutes(release, 'disk-partition', 'solid-state').likely).toBeCloseTo(25 - 3.77, 1);
    expect(installMinutes(release, 'running-system', 'solid-state')).toEqual(
      installMinutes(release, 'disk-partition', 'solid-state'),
    );
  });

  it('are never less than one, and always in their order', () => {
    for (const medium of ['stick', 'optical-disc', 'disk-partition', 'running-system'] as const)
      for (const disk of ['spinning', 'solid-state'] as const)
        for (const likely of [1, 3, 25]) {
          const minutes = installMinutes(
            { ...release, installMinutes: { low: 1, likely, high: likely + 1 } },
            medium,
            disk,
          );
          expect(minutes.low).toBeGreaterThanOrEqual(1);
          expect(minutes.low).toBeLessThanOrEqual(minutes.likely);
          expect(minutes.likely).toBeLessThanOrEqual(minutes.high);
        }
  });
});
