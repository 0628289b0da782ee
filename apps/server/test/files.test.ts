import { execFileSync } from 'node:child_process';
import { createHash, randomUUID } from 'node:crypto';
import { appendFileSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import {
  api,
  DriveViewSchema,
  FilesSchema,
  MoveViewSchema,
  TodaySchema,
  type MoveView,
} from '@ulvane/contract';
import { bagItReader, checksumListReader, entriesOf, type FileEntry } from '@ulvane/core/manifest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { TestHouse, type Visitor } from './house';

let house: TestHouse;
let technician: Visitor;
beforeAll(async () => {
  house = await TestHouse.open('demo');
  technician = await house.signedIn('technician');
});
afterAll(() => house.close());

const sha = (text: string) => createHash('sha256').update(text).digest('hex');

function entry(path: string, content: string, more: Partial<FileEntry> = {}): FileEntry {
  return {
    path,
    sizeBytes: Buffer.byteLength(content),
    sha256: sha(content),
    modifiedMs: null,
    trouble: null,
    ...more,
  };
}

const lines = (...entries: readonly FileEntry[]) => entries.map((one) => `${JSON.stringify(one)}\n`).join('');

/** A move of its own with one data set, `letters`, that one destination takes. */
async function newMove(): Promise<MoveView> {
  const started = await view('POST', '/moves', { owner: 'Odd', site: '', dueOn: null, surveyText: null });
  const { reference } = started.move;
  const listed = await view('PUT', `/moves/${reference}/data-sets`, {
    version: started.version,
    dataSets: [
      {
        id: 'letters',
        name: 'Letters',
        kind: 'folder',
        path: '/l',
        sizeBytes: 0,
        fileCount: 0,
        largestFileBytes: 0,
        place: 'system-partition',
      },
    ],
  });
  return view('PUT', `/moves/${reference}/destinations`, {
    version: listed.version,
    destinations: [
      {
        id: 'b-07',
        name: 'B-07',
        kind: 'drive',
        serial: 'S7',
        capacityBytes: 1e9,
        freeBytes: 1e9,
        fileSystem: 'exfat',
        link: 'usb3',
        medium: 'spinning',
        takes: ['letters'],
      },
    ],
  });
}

async function view(method: string, path: string, body: object): Promise<MoveView> {
  const answer = await technician.raw(method, path, body);
  if (answer.status !== 200) throw new Error(`${path}: ${JSON.stringify(answer.body)}`);
  return MoveViewSchema.parse(answer.body);
}

function upload({ move, version }: MoveView, query: object, body: string) {
  const text = new URLSearchParams({
    version: String(version),
    dataSetId: 'letters',
    source: 'hashed',
    ...query,
  });
  return technician.raw('POST', `/moves/${move.reference}/file-lists?${text.toString()}`, body, {
    'content-type': 'application/x-ndjson',
  });
}

async function taken(of: MoveView, query: object, ...entries: readonly FileEntry[]): Promise<MoveView> {
  const answer = await upload(of, query, lines(...entries));
  if (answer.status !== 200) throw new Error(JSON.stringify(answer.body));
  return MoveViewSchema.parse(answer.body);
}

const before = [entry('a.txt', 'alpha'), entry('in/b.txt', 'beta'), entry('in/c.txt', 'gamma')];
const rows = async () => Number((await house.sql('SELECT count(*) AS n FROM file_entry'))[0]?.n);

describe('a list of files', () => {
  it('is recorded with its sums, sets the data set’s counts, and is read a stretch at a time', async () => {
    const view = await taken(await newMove(), { role: 'before' }, ...before);
    const [head] = view.move.fileLists;
    // alpha 5, beta 4, gamma 5 bytes.
    expect(head).toMatchObject({
      role: 'before',
      fileCount: 3,
      sizeBytes: 14,
      troubled: 0,
      by: 'technician',
    });
    expect(view.move.dataSets[0]).toMatchObject({ fileCount: 3, sizeBytes: 14, largestFileBytes: 5 });
    const answer = await technician.raw(
      'GET',
      `/moves/${view.move.reference}/file-lists/${head?.id ?? ''}/files?after=0&limit=1`,
    );
    expect(FilesSchema.parse(answer.body)).toMatchObject({
      total: 3,
      files: [{ ordinal: 1, path: 'in/b.txt' }],
    });
    const found = await technician.raw(
      'GET',
      `/moves/${view.move.reference}/file-lists/${head?.id ?? ''}/files?search=${encodeURIComponent('C.t')}`,
    );
    expect(FilesSchema.parse(found.body).files.map(({ path }) => path)).toEqual(['in/c.txt']);
  });

  it('goes out as a checksum list that the usual tool finds good, odd names and all', async () => {
    const odd = ['plain.txt', 'deep/er/still/x', 'line\nfeed', 'back\\slash', 'ümlaut %25.txt', ' blank '];
    const folder = mkdtempSync(join(tmpdir(), 'ulvane-list-'));
    try {
      for (const path of odd) {
        mkdirSync(dirname(join(folder, path)), { recursive: true });
        writeFileSync(join(folder, path), `content of ${path}`);
      }
      const view = await taken(
        await newMove(),
        { role: 'before' },
        ...odd.map((path) => entry(path, `content of ${path}`)),
      );
      const at = `/moves/${view.move.reference}/file-lists/${view.move.fileLists[0]?.id ?? ''}/export`;
      const text = z.string().parse((await technician.raw('GET', at)).body);
      writeFileSync(join(folder, 'list.sums'), text);
      expect(
        execFileSync('sha256sum', ['--check', '--strict', '--quiet', 'list.sums'], {
          cwd: folder,
          encoding: 'utf8',
        }),
      ).toBe('');
      const reader = checksumListReader();
      reader.push(new TextEncoder().encode(text));
      const again = reader.end();
      expect(again.ok && [...entriesOf(again.value.list)].map(({ path }) => path)).toEqual(odd);

      const bag = bagItReader();
      bag.push(
        new TextEncoder().encode(
          z.string().parse((await technician.raw('GET', `${at}?format=bag-manifest`)).body),
        ),
      );
      const inBag = bag.end();
      expect(inBag.ok && [...entriesOf(inBag.value.list)].map(({ path }) => path)).toEqual(odd);
      const bytes = odd.reduce((sum, path) => sum + Buffer.byteLength(`content of ${path}`), 0);
      expect((await technician.raw('GET', `${at}?format=bag-info`)).body).toContain(
        `Payload-Oxum: ${bytes}.${odd.length}`,
      );
      await isBag(at, folder, odd);
    } finally {
      rmSync(folder, { recursive: true });
    }
  });

  /** Lays a bag out as RFC 8493 says, and has the system's own program check both of its manifests. */
  async function isBag(at: string, from: string, paths: readonly string[]): Promise<void> {
    const bag = join(from, 'the bag');
    mkdirSync(join(bag, 'data'), { recursive: true });
    // The program does not decode names: those that a manifest has to encode are tried above.
    const plain = paths.filter((path) => !/[%\r\n]/.test(path));
    expect(plain.length).toBeGreaterThan(3);
    for (const path of plain) {
      mkdirSync(dirname(join(bag, 'data', path)), { recursive: true });
      writeFileSync(join(bag, 'data', path), `content of ${path}`);
    }
    const papers = [
      ['bagit.txt', 'bag-declaration'],
      ['bag-info.txt', 'bag-info'],
      ['manifest-sha256.txt', 'bag-manifest'],
      ['tagmanifest-sha256.txt', 'bag-tag-manifest'],
    ] as const;
    for (const [name, format] of papers)
      writeFileSync(
        join(bag, name),
        z.string().parse((await technician.raw('GET', `${at}?format=${format}`)).body),
      );
    const check = (name: string, ...how: string[]) =>
      execFileSync('sha256sum', ['--check', '--strict', '--quiet', ...how, name], {
        cwd: bag,
        encoding: 'utf8',
      });
    expect(check('tagmanifest-sha256.txt')).toBe('');
    expect(check('manifest-sha256.txt', '--ignore-missing')).toBe('');
    // A bag has one declaration, of two lines.
    expect(readFileSync(join(bag, 'bagit.txt'), 'utf8').split('\n')).toEqual([
      'BagIt-Version: 1.0',
      'Tag-File-Character-Encoding: UTF-8',
      '',
    ]);
    appendFileSync(join(bag, 'bag-info.txt'), 'Note: changed\n');
    expect(() => check('tagmanifest-sha256.txt')).toThrow();
  }

  it.each([
    ['no JSON', 'hello\n', 'malformed-line'],
    ['a climbing path', lines(entry('../x', 'x')), 'climbing-path'],
    ['an absolute path', lines(entry('/x', 'x')), 'absolute-path'],
    ['a path twice', lines(entry('x', 'x'), entry('x', 'y')), 'doubled-path'],
    ['no file at all', '\n', 'empty-list'],
    [
      'an odd checksum',
      '{"path":"x","sizeBytes":1,"sha256":"abc","modifiedMs":null,"trouble":null}\n',
      'malformed-line',
    ],
  ])('with %s is refused, and nothing is half-recorded', async (_what, body, code) => {
    const start = await newMove();
    const count = await rows();
    const answer = await upload(start, { role: 'before' }, body);
    expect(answer.status).toBe(422);
    expect(JSON.stringify(answer.body)).toContain(code);
    expect(await rows()).toBe(count);
  });

  it('that breaks off after a thousand good lines leaves nothing behind', async () => {
    const start = await newMove();
    const count = await rows();
    const many = Array.from({ length: 5000 }, (_none, index) => entry(`f/${index}`, String(index)));
    const answer = await upload(start, { role: 'before' }, `${lines(...many)}{"path":`);
    expect(answer.status).toBe(422);
    expect(await rows()).toBe(count);
    const after = MoveViewSchema.parse((await technician.raw('GET', `/moves/${start.move.reference}`)).body);
    expect(after.version).toBe(start.version);
  });

  it('takes the place of the one before, whose lines go', async () => {
    const first = await taken(await newMove(), { role: 'before' }, ...before);
    const count = await rows();
    const second = await taken(first, { role: 'before' }, ...before.slice(0, 1));
    expect(second.move.fileLists).toHaveLength(1);
    expect(await rows()).toBe(count - 2);
  });

  it('goes with its data set, lines and all', async () => {
    const view = await taken(await newMove(), { role: 'before' }, ...before);
    const count = await rows();
    const gone = await technician.call(api.setDataSets, {
      params: { reference: view.move.reference },
      body: { version: view.version, dataSets: view.move.dataSets.slice(1) },
    });
    expect(gone.move.fileLists).toEqual([]);
    expect(await rows()).toBe(count - before.length);
  });

  it('of an older version of the move is refused before it is read', async () => {
    const first = await newMove();
    await taken(first, { role: 'before' }, ...before);
    expect((await upload(first, { role: 'before' }, lines(...before))).status).toBe(409);
  });
});

describe('a copy', () => {
  it('counts once its list has been compared, and closes the gate while it differs', async () => {
    let view = await taken(await newMove(), { role: 'before' }, ...before);
    const compare = async (of: MoveView) =>
      MoveViewSchema.parse(
        (
          await technician.at(api.compareCopy, {
            params: { reference: of.move.reference },
            body: { version: of.version, dataSetId: 'letters', destinationId: 'b-07' },
          })
        ).body,
      );
    view = await taken(
      view,
      { role: 'copy', destinationId: 'b-07' },
      entry('a.txt', 'alpha'),
      entry('in/b.txt', 'betA'),
    );
    view = await compare(view);
    expect(view.move.copies).toEqual([]);
    expect(view.move.failedChecks[0]).toMatchObject({
      count: 2,
      files: [
        { kind: 'changed', path: 'in/b.txt' },
        { kind: 'missing', path: 'in/c.txt' },
      ],
    });
    view = await taken(view, { role: 'copy', destinationId: 'b-07' }, ...before, entry('more.txt', 'more'));
    view = await compare(view);
    expect(view.move.failedChecks).toEqual([]);
    expect(view.move.copies[0]).toMatchObject({ dataSetId: 'letters', check: { method: 'full', files: 3 } });
  });

  it('may be compared in a sample, which says of how many', async () => {
    let view = await taken(await newMove(), { role: 'before' }, ...before);
    const { reference, fileLists } = view.move;
    const drawn = await technician.raw(
      'GET',
      `/moves/${reference}/file-lists/${fileLists[0]?.id ?? ''}/sample?size=2`,
    );
    const { files } = z.object({ files: z.array(z.object({ path: z.string() })) }).parse(drawn.body);
    expect(new Set(files.map(({ path }) => path)).size).toBe(2);
    view = await taken(
      view,
      { role: 'copy', destinationId: 'b-07', sampledFrom: '3' },
      ...before.filter(({ path }) => files.some((file) => file.path === path)),
    );
    view = MoveViewSchema.parse(
      (
        await technician.at(api.compareCopy, {
          params: { reference },
          body: { version: view.version, dataSetId: 'letters', destinationId: 'b-07' },
        })
      ).body,
    );
    expect(view.move.copies[0]?.check).toEqual({ method: 'sample', files: 2, ofFiles: 3 });
  });

  it('needs both lists, and says which is missing', async () => {
    const view = await newMove();
    const answer = await technician.at(api.compareCopy, {
      params: { reference: view.move.reference },
      body: { version: view.version, dataSetId: 'letters', destinationId: 'b-07' },
    });
    expect(answer.status).toBe(422);
    expect(JSON.stringify(answer.body)).toContain('There is no list of Letters as it is on the device');
  });
});

describe('what came back', () => {
  const after = [
    entry('a.txt', 'alpha, edited'),
    entry('in/b (1).txt', 'beta'),
    entry('.cache/x', 'x'),
    entry('new.txt', 'new'),
  ];

  const reconciled = async (of: MoveView): Promise<MoveView> =>
    MoveViewSchema.parse(
      (
        await technician.at(api.reconcile, {
          params: { reference: of.move.reference },
          body: { version: of.version, dataSetId: 'letters' },
        })
      ).body,
    );
  const explain = async (of: MoveView, what: object): Promise<MoveView> =>
    MoveViewSchema.parse(
      (
        await technician.at(api.explain, {
          params: { reference: of.move.reference, id: of.move.reconciled[0]?.id ?? '' },
          body: { version: of.version, folder: null, ordinals: null, ...what },
        })
      ).body,
    );
  const openOf = ({ move }: MoveView) => move.reconciled[0]?.open;

  it('is compared file by file, grouped, explained, and written to CSV', async () => {
    let view = await taken(await newMove(), { role: 'before' }, ...before);
    view = await taken(view, { role: 'after' }, ...after);
    view = await reconciled(view);
    // changed a.txt, renamed b, missing c; the cache is noise; new.txt is added.
    expect(view.move.reconciled[0]).toMatchObject({
      counts: { same: 0, changed: 1, renamed: 1, missing: 1, added: 2 },
      noise: 1,
      explained: 0,
      open: 4,
    });
    const params = { reference: view.move.reference, id: view.move.reconciled[0]?.id ?? '' };
    const groups = (await technician.at(api.differenceGroups, { params })).body;
    expect(groups).toMatchObject({
      groups: expect.arrayContaining([
        expect.objectContaining({ kind: 'missing', folder: 'in', count: 1, sizeBytes: 5, open: 1 }),
      ]) as unknown,
    });
    view = await explain(view, { kind: 'missing', reason: 'The owner had deleted it.' });
    view = await explain(view, { kind: 'changed', folder: '', reason: 'Edited on the day.' });
    view = await explain(view, { kind: 'renamed', reason: 'Renamed by hand.' });
    expect(openOf(view)).toBe(1);
    view = await explain(view, { kind: 'added', ordinals: [99], reason: 'nobody' });
    expect(openOf(view)).toBe(1);
    view = await explain(view, { kind: 'added', reason: 'Made after the restore.' });
    expect(openOf(view)).toBe(0);
    view = await explain(view, { kind: 'added', reason: null });
    expect(openOf(view)).toBe(1);
    const csv = z.string().parse((await technician.at(api.differencesCsv, { params })).body);
    expect(csv.split('\n')[0]).toContain('kind,before,after');
    expect(csv).toContain('missing,in/c.txt,,5,,,,The owner had deleted it.,technician');

    // Compared again, with one file more lost: what was explained and is the same stays explained.
    view = await taken(view, { role: 'after' }, ...after.slice(0, 1));
    view = await reconciled(view);
    expect(view.move.reconciled[0]).toMatchObject({
      counts: { changed: 1, missing: 2 },
      explained: 2,
      open: 1,
    });
    const left = await house.sql(
      'SELECT count(DISTINCT reconciliation_id) AS n FROM difference WHERE reconciliation_id = ANY($1)',
      [[params.id, view.move.reconciled[0]?.id]],
    );
    expect(Number(left[0]?.n)).toBe(1);
  });

  it('asks again when a file that was explained holds something else of the same size', async () => {
    let view = await taken(await newMove(), { role: 'before' }, entry('a.txt', 'alpha'));
    view = await reconciled(await taken(view, { role: 'after' }, entry('a.txt', 'alphb')));
    view = await explain(view, { kind: 'changed', reason: 'Edited on the day.' });
    expect(openOf(view)).toBe(0);
    view = await reconciled(await taken(view, { role: 'after' }, entry('a.txt', 'alphb')));
    expect(openOf(view)).toBe(0);
    view = await reconciled(await taken(view, { role: 'after' }, entry('a.txt', 'alphc')));
    expect(openOf(view)).toBe(1);
  });

  it('noise hides no loss: neither on a copy nor after a restore', async () => {
    const saved = [entry('Ada/tmp/will.part', 'the will'), entry('Ada/.cache/1', 'thumb')];
    let view = await taken(await newMove(), { role: 'before' }, ...saved);
    const [kept] = saved;
    if (!kept) throw new Error();
    view = await taken(view, { role: 'copy', destinationId: 'b-07' }, { ...kept, sha256: 'f'.repeat(64) });
    view = MoveViewSchema.parse(
      (
        await technician.at(api.compareCopy, {
          params: { reference: view.move.reference },
          body: { version: view.version, dataSetId: 'letters', destinationId: 'b-07' },
        })
      ).body,
    );
    expect(view.move.copies).toEqual([]);
    expect(view.move.failedChecks).toMatchObject([{ count: 2 }]);
    view = await reconciled(await taken(view, { role: 'after' }, kept, entry('Ada/.cache/2', 'new')));
    expect(view.move.reconciled[0]).toMatchObject({ counts: { missing: 1, added: 1 }, noise: 1, open: 1 });
  });

  it('a list of the same content leaves copies verified, in whichever order; another one does not', async () => {
    const files = [entry('a.txt', 'alpha'), entry('b.txt', 'beta')];
    let view = await taken(await newMove(), { role: 'before' }, ...files);
    view = await taken(view, { role: 'copy', destinationId: 'b-07' }, ...files);
    view = MoveViewSchema.parse(
      (
        await technician.at(api.compareCopy, {
          params: { reference: view.move.reference },
          body: { version: view.version, dataSetId: 'letters', destinationId: 'b-07' },
        })
      ).body,
    );
    expect(view.move.copies).toHaveLength(1);
    view = await taken(view, { role: 'before' }, ...[...files].reverse());
    expect(view.move.copies).toHaveLength(1);
    view = await taken(view, { role: 'before' }, entry('a.txt', 'alphb'), entry('b.txt', 'beta'));
    expect(view.move.copies).toEqual([]);
  });

  it('knows the names that files got for a destination', async () => {
    let view = await taken(await newMove(), { role: 'before' }, entry('what?.txt', 'w'));
    view = await MoveViewSchema.parseAsync(
      (
        await technician.at(api.keepRenames, {
          params: { reference: view.move.reference },
          body: {
            version: view.version,
            dataSetId: 'letters',
            destinationId: 'b-07',
            renames: [{ folder: '', from: 'what?.txt', to: 'what_.txt', because: 'forbidden-character' }],
          },
        })
      ).body,
    );
    // On the drive it has the other name: the comparison takes it back first.
    view = await taken(view, { role: 'copy', destinationId: 'b-07' }, entry('what_.txt', 'w'));
    view = MoveViewSchema.parse(
      (
        await technician.at(api.compareCopy, {
          params: { reference: view.move.reference },
          body: { version: view.version, dataSetId: 'letters', destinationId: 'b-07' },
        })
      ).body,
    );
    expect(view.move.failedChecks).toEqual([]);
    view = await reconciled(await taken(view, { role: 'after' }, entry('what_.txt', 'w')));
    expect(view.move.reconciled[0]).toMatchObject({ counts: { renamed: 1 }, explained: 1, open: 0 });
  });
});

describe('a backup', () => {
  it('is on Today from a week before its last day, and no more once wiped', async () => {
    const view = await newMove();
    const { reference } = view.move;
    const wipes = async () =>
      TodaySchema.parse((await technician.at(api.today)).body).wipes.filter(
        (wipe) => wipe.reference === reference,
      );
    const kept = (of: MoveView, keepUntil: string) =>
      technician.at(api.keepBackup, {
        params: { reference },
        body: { version: of.version, destinationId: 'b-07', label: 'B-07 of Odd', place: 'safe', keepUntil },
      });
    const later = MoveViewSchema.parse((await kept(view, '2026-03-20')).body);
    expect(await wipes()).toEqual([]);
    const soon = MoveViewSchema.parse((await kept(later, '2026-03-05')).body);
    expect(await wipes()).toMatchObject([{ label: 'B-07 of Odd', place: 'safe', daysLeft: 3 }]);
    const tooEarly = await technician.at(api.recordWipe, {
      params: { reference },
      body: { version: soon.version, destinationId: 'b-07', method: 'overwritten once' },
    });
    expect(tooEarly.status).toBe(422);
    expect(JSON.stringify(tooEarly.body)).toContain('not-handed-over');
  });

  it('on a drive of the inventory takes its room, and keeps the drive from being removed', async () => {
    const id = randomUUID();
    const drive = {
      name: 'B-77',
      kind: 'drive',
      purpose: 'backup',
      serial: 'OSB-77',
      capacityBytes: 1_000_000_000,
      otherBytes: 100_000_000,
      fileSystem: 'exfat',
      link: 'usb3',
      medium: 'spinning',
      health: 'good',
      note: '',
    };
    const put = (given: object, version: number, at = id) =>
      technician.at(api.putDrive, { params: { id: at }, body: { version, drive: { ...drive, ...given } } });
    expect((await put({}, 0)).body).toMatchObject({ version: 1, freeBytes: 900_000_000, contents: [] });
    expect((await put({}, 0)).status).toBe(409);
    expect(JSON.stringify((await put({ name: 'B-78' }, 0, randomUUID())).body)).toContain(
      'is it the same drive',
    );
    expect((await put({ name: 'B-79', serial: '', otherBytes: 2_000_000_000 }, 0, randomUUID())).status).toBe(
      422,
    );
    const view = await newMove();
    const [destination] = view.move.destinations;
    const listed = await taken(view, { role: 'before' }, ...before);
    await technician.at(api.setDestinations, {
      params: { reference: view.move.reference },
      body: { version: listed.version, destinations: [{ ...destination, driveId: id }] },
    });
    const { drives } = z
      .object({ drives: z.array(DriveViewSchema) })
      .parse((await technician.at(api.drives)).body);
    // Three files of a few bytes in a cluster of 32 KiB each, two folders, and four names of three entries of 32 bytes.
    const there = (3 + 2) * 32_768 + 4 * 3 * 32;
    expect(drives.find((one) => one.id === id)).toMatchObject({
      freeBytes: 900_000_000 - there,
      contents: [{ reference: view.move.reference, sizeBytes: there }],
    });
    const removed = await technician.at(api.removeDrive, { params: { id }, body: { version: 1 } });
    expect(removed.status).toBe(422);
    expect(JSON.stringify(removed.body)).toContain(`holds backups of ${view.move.reference}`);
  });
});
