import { spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unless, type Outcome } from './drill';
import { World } from './world';

const sizeMiB = 320;

/**
 * A house on a small disk that runs full: answers 503 and says so, loses nothing that was acknowledged,
 * and goes on once there is room.
 * @returns null where this account may not mount a disk in memory
 */
export async function fullDiskDrill(): Promise<Outcome | null> {
  const folder = mkdtempSync(join(tmpdir(), 'ulvane-full-'));
  chmodSync(folder, 0o755);
  const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${sizeMiB}m,mode=0755`, 'tmpfs', folder]);
  if (mounted.status !== 0) {
    rmSync(folder, { recursive: true });
    return null;
  }
  const world = await World.open(folder);
  try {
    const server = await world.start();
    const person = await world.signIn(server);
    const [reference = ''] = await person.references(1);
    const before = await person.version(reference);
    const ballast = join(folder, 'ballast');
    const { bavail, bsize } = statfsSync(folder);
    writeFileSync(ballast, Buffer.alloc(Math.max(0, bavail * bsize - 64 * 1024)));
    const statuses = new Map<number, number>();
    let version = before;
    // Room inside the files that are there is used up first.
    for (let tries = 0; tries < 600 && (statuses.get(503) ?? 0) < 5; tries += 1) {
      const { status } = await person.nameOwner(reference, version, `Owner full ${tries} ${'x'.repeat(60)}`);
      statuses.set(status, (statuses.get(status) ?? 0) + 1);
      version = status === 200 ? version + 1 : (await person.version(reference)) || version;
      // A page as large as the file system's own, so that it soon is full.
      await person.ask('POST', '/moves', {
        owner: 'y'.repeat(90),
        site: 'Drill',
        dueOn: null,
        surveyText: null,
      });
    }
    rmSync(ballast);
    await new Promise((resolve) => setTimeout(resolve, 3000));
    world.cluster.revive();
    await new Promise((resolve) => setTimeout(resolve, 1500));
    const after = await person.version(reference);
    const again = await person.nameOwner(reference, after, 'Owner with room');
    return {
      figures: `${[...statuses].map(([status, count]) => `${status}: ${count}`).join(', ')}; version ${version} seen last, ${after} kept; with room again ${again.status}`,
      faults: [
        ...unless((statuses.get(503) ?? 0) > 0, 'the disk never ran full'),
        ...unless(!statuses.has(500), 'a request was answered with 500'),
        ...unless(after >= version, 'an acknowledged write is gone'),
        ...unless(again.status === 200, `with room again it answers ${again.status}`),
        ...unless(server.process.exitCode === null, 'the server ended'),
      ],
    };
  } finally {
    await world.close();
    spawnSync('umount', ['-l', folder]);
    rmSync(folder, { recursive: true, force: true });
  }
}
