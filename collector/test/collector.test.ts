import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { importSurvey, type Survey } from '@ulvane/core/survey';
import { afterAll, describe, expect, it } from 'vitest';
import { bareMachine, laptop, layOut, oldDesktop, type Tree } from './tree';

const script = fileURLToPath(new URL('../ulvane-survey.sh', import.meta.url));
type Shell = readonly [name: string, command: string, args: readonly string[]];

const shells: readonly Shell[] = [
  ['dash', 'dash', []],
  ['busybox ash', 'busybox', ['ash']],
];

const removals: (() => void)[] = [];
afterAll(() => removals.forEach((remove) => remove()));

function collect(shell: Shell, root: string | undefined, ...args: string[]): Survey {
  const { ULVANE_ROOT: _none, ...environment } = process.env;
  const text = execFileSync(shell[1], [...shell[2], script, ...args], {
    encoding: 'utf8',
    env: root === undefined ? environment : { ...environment, ULVANE_ROOT: root },
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  const survey = importSurvey(text);
  if (!survey.ok) throw new Error(`${survey.problems[0]?.sentence ?? ''}\n${text}`);
  return survey.value;
}

function collectTree(shell: Shell, tree: Tree): Survey {
  const { root, remove } = layOut(tree);
  removals.push(remove);
  return collect(shell, root);
}

describe.each(shells)('in %s', (...shell) => {
  it('reads a laptop whole', () => {
    const survey = collectTree(shell, laptop);
    expect(survey.device).toEqual({
      maker: 'Kestle',
      model: 'Fenwright 14',
      serial: 'KF14-70Q8-0B1I',
      chassis: 'laptop',
    });
    expect(survey.processor).toMatchObject({
      name: 'Bench Core  i-4 "quick" \\ 2',
      wordBits: 64,
      cores: 4,
      clockMhz: 3100,
    });
    expect(survey.processor?.flags).toEqual(['fpu', 'tsc', 'sse2', 'sse4_2', 'popcnt', 'lm']);
    // 8 048 384 KiB × 1024.
    expect(survey.memoryBytes).toBe(8_241_545_216);
    expect(survey.firmware).toEqual({ mode: 'uefi', secureBoot: 'off', tpm: '2.0', storageMode: 'ahci' });
    expect(survey.display).toEqual({
      chips: [{ name: 'pci 1af4:1050', driver: 'loom-draw' }, { name: 'pci 1b36:0100' }],
    });
    expect(survey.opticalDrive).toBe('internal');
    expect(survey.power).toEqual({ batteryPercent: 81, charger: 'connected' });
    expect(survey.network).toEqual([{ name: 'wl-a', kind: 'wireless', driver: 'marl-wifi' }]);
  });

  it('reads its disks to the sector', () => {
    const [sda, sdb, ...others] = collectTree(shell, laptop).disks ?? [];
    expect(others).toEqual([]);
    expect(sda).toMatchObject({
      name: 'sda',
      model: 'Halyard 3',
      serial: 'HX7714A9C2E',
      rotational: false,
      removable: false,
      sectorBytes: 512,
      sectorCount: 500_118_192,
      scheme: 'gpt',
    });
    // 39 062 500 KiB used.
    expect(sda?.partitions).toEqual([
      {
        number: 3,
        startLba: 567_296,
        sectorCount: 251_658_240,
        label: 'SYSTEM',
        fileSystem: 'ntfs',
        mountedAt: '/media/system',
        usedBytes: 40_000_000_000,
      },
      {
        number: 4,
        startLba: 252_225_536,
        sectorCount: 209_715_200,
        fileSystem: 'ntfs',
        mountedAt: '/media/data\\040one',
      },
    ]);
    expect(sdb).toMatchObject({ removable: true, partitions: [] });
    expect(sdb).not.toHaveProperty('scheme');
    expect(sdb).not.toHaveProperty('serial');
  });

  it('leaves out what firmware never had filled in, and what it cannot read', () => {
    const survey = collectTree(shell, oldDesktop);
    expect(survey.device).toEqual({ chassis: 'desktop' });
    expect(survey.processor).toMatchObject({ wordBits: 32, cores: 1 });
    expect(survey.processor).not.toHaveProperty('clockMhz');
    expect(survey.firmware).toEqual({ mode: 'legacy' });
    expect(survey).not.toHaveProperty('display');
    expect(survey.opticalDrive).toBe('none');
    expect(survey).not.toHaveProperty('power');
    expect(survey).not.toHaveProperty('network');
  });

  it('tells MBR by its signature, and counts in the disk’s own sectors', () => {
    const [sda, sdc] = collectTree(shell, oldDesktop).disks ?? [];
    expect(sda?.scheme).toBe('mbr');
    // The kernel counts in 512 bytes: 2048 ÷ 8 = 256, 16 384 ÷ 8 = 2048.
    expect(sdc).toMatchObject({
      sectorBytes: 4096,
      sectorCount: 976_754_646,
      partitions: [{ number: 1, startLba: 256, sectorCount: 2048 }],
    });
  });

  it('guesses nothing on a machine with no maker data and no partitions', () => {
    const survey = collectTree(shell, bareMachine);
    expect(survey).not.toHaveProperty('device');
    expect(survey).not.toHaveProperty('firmware');
    expect(survey.processor).toMatchObject({ cores: 2, clockMhz: 2592 });
    expect(survey.disks).toEqual([
      {
        name: 'vda',
        serial: 'overlayblk',
        bus: 'virtual',
        sectorBytes: 512,
        sectorCount: 536_870_912,
        partitions: [],
      },
    ]);
  });

  it('gives a survey even of an empty tree', () => {
    expect(Object.keys(collectTree(shell, { 'proc/nothing': '' })).sort()).toEqual([
      'collector',
      'format',
      'takenAt',
      'version',
    ]);
  });

  it('measures this very machine without a contradiction', () => {
    // Importing refuses a survey that contradicts itself.
    const survey = collect(shell, undefined);
    expect(survey.memoryBytes).toBe(
      Number(/MemTotal:\s+(\d+)/.exec(readFileSync('/proc/meminfo', 'utf8'))?.[1]) * 1024,
    );
    expect(survey.processor?.cores).toBeGreaterThan(0);
  });

  it('measures folders when asked, to the byte', () => {
    const home = mkdtempSync(join(tmpdir(), 'ulvane-home-'));
    removals.push(() => rmSync(home, { recursive: true, force: true }));
    mkdirSync(join(home, 'Old papers', 'deep'), { recursive: true });
    writeFileSync(join(home, 'Old papers', 'a b.txt'), 'x'.repeat(700));
    writeFileSync(join(home, 'Old papers', 'deep', 'c'), 'y'.repeat(41));
    expect(collect(shell, undefined, '--folders', home).folders).toEqual([
      {
        name: 'Old papers',
        path: join(home, 'Old papers'),
        sizeBytes: 741,
        fileCount: 2,
        largestFileBytes: 700,
      },
    ]);
  });

  it('says what it does not know how to do', () => {
    const { status, stderr } = spawnSync(shell[1], [...shell[2], script, '--upload'], { encoding: 'utf8' });
    expect([status, stderr.includes('--upload')]).toEqual([2, true]);
  });
});

describe('the script', () => {
  const text = readFileSync(script, 'utf8');
  const [surveyBefore = '', rest = ''] = text.split('# --- A checksum list ');
  const [checksumPart = '', surveyAfter = ''] = rest.split('# --- The survey ');
  const codeOf = (part: string) =>
    part
      .split('\n')
      .filter((line) => !line.trim().startsWith('#'))
      .join('\n')
      // What stands in single quotes is a program of awk or sed, which compares and does not redirect.
      .replace(/'[^']*'/g, "''");

  it('writes nothing but the list that it is asked for, and what it keeps beside it', () => {
    const code = codeOf(checksumPart);
    const targets = [...code.matchAll(/[^0-9&2]>>?\s*("[^"]*|\S+)|2>>?\s*("[^"]*|\S+)/g)].map(
      ([, output, trouble]) => output ?? trouble ?? '',
    );
    expect(targets.length).toBeGreaterThan(8);
    for (const target of targets) expect(target).toMatch(/^("\$(WORK|LIST)|\/dev\/null|&[12])/);
    const changing = [...code.matchAll(/\b(rm|rmdir|mv|mkdir)( -\S+)* ("\S+)/g)].map(([, , , what]) => what);
    expect(changing.length).toBeGreaterThan(5);
    for (const what of changing) expect(what).toMatch(/^"\$(WORK|LIST)/);
    expect(code.match(/\b(cp|dd|mkfs|mount|umount|curl|wget|nc|tee|chmod|modprobe)\s/g)).toBeNull();
  });

  it('only reads: it neither writes files, nor sends, nor changes the machine', () => {
    const code = codeOf([surveyBefore, surveyAfter].join('\n'));
    expect(code.match(/\b(rm|mv|cp|dd|mkfs|mount|umount|curl|wget|nc|tee|chmod|modprobe)\s/g)).toBeNull();
    // Output goes to standard output, standard error or nowhere.
    expect(code.match(/[^0-9&2]>\s*[^&\s"=]/g)).toBeNull();
    expect(code.match(/2>(?!&|\/dev\/null)/g)).toBeNull();
  });

  it('is one POSIX file that every shell at hand parses', () => {
    expect(text.startsWith('#!/bin/sh\n')).toBe(true);
    for (const [, command, args] of shells)
      expect(spawnSync(command, [...args, '-n', script]).status).toBe(0);
    expect(existsSync(script)).toBe(true);
  });
});
