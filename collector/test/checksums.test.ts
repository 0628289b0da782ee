import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { checksumListReader, entryAt } from '@ulvane/core/manifest';
import { afterAll, describe, expect, it } from 'vitest';

const script = fileURLToPath(new URL('../ulvane-survey.sh', import.meta.url));
const shells: readonly (readonly [name: string, command: string, args: readonly string[]])[] = [
  ['dash', 'dash', []],
  ['busybox ash', 'busybox', ['ash']],
];

const removals: (() => void)[] = [];
afterAll(() => removals.forEach((remove) => remove()));

function folder(): string {
  const made = mkdtempSync(join(tmpdir(), 'ulvane-sums-'));
  removals.push(() => rmSync(made, { recursive: true, force: true }));
  return made;
}

const sha256 = (content: string | Buffer) => createHash('sha256').update(content).digest('hex');

/** Names that tear lists apart where they are not minded. */
const names = [
  'plain',
  'Old papers/a b.txt',
  'Old papers/two  spaces, and one at the end ',
  'quotes/\'single\' "double"',
  'unusual/zoë ünïcode 漢字',
  'unusual/$HOME `id` *?[x]',
  'unusual/-rf',
  'odd/back\\slash',
  'odd/line\nbreak',
  'odd\\folder/x',
  'empty',
];

function ownersFolder(extra = 450): { readonly home: string; readonly contents: Map<string, string> } {
  const home = folder();
  const contents = new Map(names.map((name) => [name, name === 'empty' ? '' : `content of ${name}`]));
  // More than two pieces of files.
  for (let index = 0; index < extra; index += 1) contents.set(`many/file ${index}`, `number ${index}`);
  for (const [name, content] of contents) {
    mkdirSync(dirname(join(home, name)), { recursive: true });
    writeFileSync(join(home, name), content);
    // Before whatever run begins.
    utimesSync(join(home, name), 1_700_000_000, 1_700_000_000);
  }
  return { home, contents };
}

/** What a list says, as the application reads it. */
function listed(list: string): Map<string, string> {
  const reader = checksumListReader({ totalBytes: statSync(list).size });
  reader.push(readFileSync(list));
  const outcome = reader.end();
  if (!outcome.ok) throw new Error(outcome.problems[0]?.sentence);
  const { list: read } = outcome.value;
  return new Map(
    Array.from({ length: read.count }, (_none, row) => {
      const { path, sha256: sum } = entryAt(read, row);
      return [path, sum ?? ''] as const;
    }),
  );
}

const expected = (contents: ReadonlyMap<string, string>) =>
  new Map([...contents].map(([name, content]) => [name, sha256(content)] as const));

const sorted = (map: ReadonlyMap<string, string>) => [...map].toSorted(([a], [b]) => (a < b ? -1 : 1));

/** A folder with a command that notes what it is asked to hash, and refuses what it is told to. */
function watchedPath(refuse = 'nothing'): { readonly path: string; readonly hashed: () => string[] } {
  const bin = folder();
  const note = join(bin, 'hashed');
  writeFileSync(
    join(bin, 'sha256sum'),
    `#!/bin/sh
for name; do
  case $name in
    *'${refuse}') echo "sha256sum: $name: Input/output error" >&2; failed=1 ;;
    *) printf '%s\\n' "$name" >> '${note}'; /usr/bin/sha256sum -- "$name" ;;
  esac
done
exit \${failed:-0}
`,
  );
  chmodSync(join(bin, 'sha256sum'), 0o755);
  return {
    path: `${bin}:${process.env.PATH ?? ''}`,
    hashed: () => (existsSync(note) ? readFileSync(note, 'utf8').split('\n').filter(Boolean) : []),
  };
}

describe.each(shells)('a checksum list in %s', (_name, command, args) => {
  const run = (home: string, list: string, path = process.env.PATH ?? '') =>
    spawnSync(command, [...args, script, '--checksums', home, list], {
      encoding: 'utf8',
      env: { ...process.env, PATH: path },
    });

  it('has every file, whatever its name, and the application reads it', () => {
    const { home, contents } = ownersFolder();
    const list = join(folder(), 'list.sha256');
    const { status, stderr } = run(home, list);
    expect([status, stderr]).toEqual([0, expect.stringContaining(`${contents.size} files in ${list}`)]);
    expect(sorted(listed(list))).toEqual(sorted(expected(contents)));
    // What it kept beside the list is gone.
    expect(readdirSync(dirname(list))).toEqual(['list.sha256']);
    expect(spawnSync('sha256sum', ['--check', '--quiet', list], { cwd: home }).status).toBe(0);
  });

  it('leaves the folder as it was, and leaves itself out when it lies in there', () => {
    const { home, contents } = ownersFolder(3);
    expect(run(home, join(home, 'list.sha256')).status).toBe(0);
    expect(sorted(listed(join(home, 'list.sha256')))).toEqual(sorted(expected(contents)));
    const found = readdirSync(home, { recursive: true, withFileTypes: true }).filter((one) => one.isFile());
    expect(found).toHaveLength(contents.size + 1);
    for (const [name, content] of contents) {
      expect(readFileSync(join(home, name), 'utf8')).toBe(content);
      expect(statSync(join(home, name)).mtimeMs).toBe(1_700_000_000_000);
    }
  });

  it('goes on where it was broken off, and hashes anew what has changed since', () => {
    const { home, contents } = ownersFolder();
    const list = join(folder(), 'list.sha256');
    // As a cut of the mains leaves it: some pieces done, one half written, the line of another torn.
    const work = `${list}.work`;
    mkdirSync(join(work, 'taken.0000003'), { recursive: true });
    writeFileSync(join(work, 'begun'), '');
    utimesSync(join(work, 'begun'), 1_700_000_100, 1_700_000_100);
    const line = (name: string) => `${sha256(contents.get(name) ?? '')}  ./${name}\n`;
    const many = [...contents.keys()].filter((name) => name.startsWith('many/'));
    writeFileSync(list, many.slice(0, 100).map(line).join('') + line('plain').slice(0, 40));
    writeFileSync(join(work, 'done.0000002'), many.slice(100, 300).map(line).join(''));
    writeFileSync(join(work, 'half.0000003'), many.slice(300, 310).map(line).join(''));
    const changed = many[7] ?? '';
    writeFileSync(join(home, changed), 'changed since');
    contents.set(changed, 'changed since');
    const { path, hashed } = watchedPath();
    expect(run(home, list, path).status).toBe(0);
    expect(sorted(listed(list))).toEqual(sorted(expected(contents)));
    const again = hashed().filter((name) => many.slice(0, 300).some((one) => name === `./${one}`));
    expect(again).toEqual([`./${changed}`]);
    expect(existsSync(work)).toBe(false);
  });

  it('says which files could not be read, and leaves them out', () => {
    const { home, contents } = ownersFolder(20);
    const list = join(folder(), 'list.sha256');
    const { status, stderr } = run(home, list, watchedPath('file 7').path);
    expect(status).toBe(3);
    expect(stderr).toContain('These could not be read, and are not in it:');
    expect(stderr).toContain('./many/file 7: Input/output error');
    contents.delete('many/file 7');
    expect(sorted(listed(list))).toEqual(sorted(expected(contents)));
  });

  it('misses no file when a worker is killed in the middle', () => {
    const { home, contents } = ownersFolder();
    const list = join(folder(), 'list.sha256');
    const bin = folder();
    const struck = join(bin, 'struck');
    // The first of them kills the worker that asked for it: the parent of the one that gave it its files.
    writeFileSync(
      join(bin, 'sha256sum'),
      `#!/bin/sh\nif mkdir '${struck}' 2>/dev/null; then kill -9 "$(cut -d ' ' -f 4 "/proc/$PPID/stat")"; fi\nexec /usr/bin/sha256sum "$@"\n`,
      { mode: 0o755 },
    );
    const { status } = run(home, list, `${bin}:${process.env.PATH ?? ''}`);
    expect([status, existsSync(struck)]).toEqual([0, true]);
    expect(sorted(listed(list))).toEqual(sorted(expected(contents)));
  });

  it('never writes over a list that is whole, and says what is missing', () => {
    const { home } = ownersFolder(1);
    const list = join(folder(), 'list.sha256');
    writeFileSync(list, 'somebody’s list\n');
    expect(run(home, list)).toMatchObject({
      status: 1,
      stderr: expect.stringContaining('is there already, and whole'),
    });
    expect(readFileSync(list, 'utf8')).toBe('somebody’s list\n');
    expect(run(join(home, 'nowhere'), join(folder(), 'x')).stderr).toContain('There is no directory');
    const without = spawnSync(command, [...args, script, '--checksums', home], { encoding: 'utf8' });
    expect([without.status === 0, without.stderr.includes('needs the list to write')]).toEqual([false, true]);
  });
});
