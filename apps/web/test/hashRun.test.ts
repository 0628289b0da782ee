import { describe, expect, it } from 'vitest';
import { HashRun, type FoundFile, type HashPlace, type HashProgress } from '../src/files/hashRun';

type Asked = { readonly files: number; readonly answer: (kind: 'read' | 'gone') => void };

/** Two places that answer when the test says so. */
function begun(fileCount: number) {
  const asked: Asked[] = [];
  const open = (): HashPlace => ({
    hash: (files) =>
      new Promise((resolve) =>
        asked.push({
          files: files.length,
          answer: (kind) =>
            resolve(
              files.map(() =>
                kind === 'gone'
                  ? { sha256: null, trouble: 'unreadable', gone: true }
                  : { sha256: 'a'.repeat(64), trouble: null, gone: false },
              ),
            ),
        }),
      ),
    close: () => undefined,
  });
  const files: FoundFile[] = Array.from({ length: fileCount }, (_none, index) => ({
    path: `${index}.txt`,
    file: new File(['x'], `${index}.txt`),
    sizeBytes: 1,
    modifiedMs: null,
  }));
  let last: HashProgress | undefined;
  const run = new HashRun(files, (progress) => (last = progress), 2, open);
  const until = async (state: () => boolean) => {
    while (!state()) await new Promise((resolve) => setTimeout(resolve, 0));
  };
  return { run, asked, state: () => last?.state, done: () => last?.filesDone, until };
}

describe('a reading of many files', () => {
  it('believes of the drive only what was seen since it was gone on with', async () => {
    const { run, asked, state, done, until } = begun(800);
    await until(() => asked.length === 2);
    // One place sees that the drive is gone; the other is still at it while the drive comes back.
    asked[0]?.answer('gone');
    await until(() => state() === 'drive-gone');
    run.goOn();
    await until(() => asked.length === 3);
    asked[1]?.answer('gone');
    await until(() => asked.length === 4);
    expect(state()).toBe('running');
    let at = 2;
    while (state() === 'running') {
      await until(() => asked.length > at || state() !== 'running');
      asked[at]?.answer('read');
      at += 1;
    }
    expect(state()).toBe('finished');
    expect(done()).toBe(800);
    expect(run.list().size).toBeGreaterThan(0);
  });

  it('waits again when the drive goes away again', async () => {
    const { run, asked, state, until } = begun(800);
    await until(() => asked.length === 2);
    asked[0]?.answer('gone');
    await until(() => state() === 'drive-gone');
    asked[1]?.answer('gone');
    run.goOn();
    await until(() => asked.length === 4 || asked.length === 3);
    for (const one of asked.slice(2)) one.answer('gone');
    await until(() => state() === 'drive-gone');
    expect(state()).toBe('drive-gone');
  });
});
