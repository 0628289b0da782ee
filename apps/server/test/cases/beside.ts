import type { Case } from './case';
import {
  diskOf,
  surveyOf,
  gpt,
  fenwright14,
  tower,
  brack12,
  brack15,
  documents,
  pictures,
  studioWith,
  gib,
} from './computers';

/** Cases in which the present system stays, and another one is started beside it. */
export const beside: readonly Case[] = [
  {
    name: '6 a system of the common kind beside the present one on a locked computer, from a disc',
    survey: studioWith(gpt('ST27-0A0B0C0D', 1e12, 950_000, 300e9), {
      network: [{ name: 'wl-c', kind: 'wireless', driver: 'no-such-driver' }],
    }),
    wish: { purpose: 'another-beside' },
    choose: { routeId: 'beside-same-disk', releaseId: 'saltbush-full', installerMedium: 'optical-disc' },
    sets: [documents],
    inOrder: ['carry-drivers', 'shrink-system', 'start-from-disc', 'install-beside', 'disc-out', 'boot-menu'],
    without: ['write-stick'],
    says: [['install-beside', 'number, size and place']],
  },
  {
    name: '7 a community system beside: 80 GB computed and shrunk, partitions by hand',
    survey: surveyOf(fenwright14, [gpt('F14-7A7A7A7A', 512e9, 480_000, 120e9)]),
    wish: { purpose: 'another-beside' },
    rules: { partitioning: 'by-hand' },
    choose: {
      routeId: 'beside-same-disk',
      releaseId: 'saltbush-full',
      room: { bytes: 80e9, fromPartition: 3 },
    },
    sets: [documents],
    inOrder: ['recovery-medium', 'shrink-system', 'start-from-stick', 'install-beside', 'boot-menu'],
    // 80 × 10⁹ ÷ 1 048 576 = 76 293.9…, rounded up.
    says: [['shrink-system', 'type 76294']],
  },
  {
    name: '10 guided beside, on MBR with three partitions',
    survey: surveyOf(
      { maker: 'Draymoor', model: '260', year: 2011, chassis: 'desktop' },
      [
        diskOf('sda', 'DR260-10101010', 500e9, 'mbr', [
          { role: 'reserved', mib: 500 },
          { role: 'system', mib: 300_000, used: 90e9, label: 'SYSTEM' },
          { role: 'data', mib: 150_000, used: 30e9, label: 'DATA' },
        ]),
      ],
      {
        firmware: { mode: 'legacy', secureBoot: 'not-supported', tpm: 'none' },
        system: { release: 'corvel-8-business' },
      },
    ),
    wish: { purpose: 'another-beside' },
    choose: { routeId: 'beside-same-disk', releaseId: 'saltbush-classic' },
    sets: [documents, pictures],
    inOrder: ['shrink-system', 'start-from-stick', 'install-beside', 'boot-menu', 'isolate-old-system'],
    says: [['write-stick', 'MBR']],
  },
  {
    name: '12 a small laptop without an optical drive: a stick made by hand, for a trial',
    survey: surveyOf(
      brack12,
      [
        diskOf('sda', 'BR12-12121212', 320e9, 'mbr', [
          { role: 'system', mib: 290_000, used: 50e9, label: 'SYSTEM' },
        ]),
      ],
      {
        memoryBytes: 2 * gib,
        firmware: { mode: 'legacy', secureBoot: 'not-supported', tpm: '1.2' },
        display: { graphicsTier: 1, widthPixels: 1366, heightPixels: 768 },
        system: { release: 'corvel-8-personal' },
      },
    ),
    wish: { purpose: 'trial', until: '2026-05-01' },
    rules: { stickTool: 'by-hand' },
    choose: { routeId: 'beside-same-disk', releaseId: 'saltbush-light' },
    sets: [documents],
    inOrder: ['write-stick', 'shrink-system', 'start-from-stick', 'install-beside'],
    says: [
      ['write-stick', 'By hand: a new MBR, one partition, marked active, FAT32'],
      ['start-from-stick', 'Esc'],
    ],
  },
  {
    name: '15 a recovery medium first, fast start off, Secure Boot off, a disc, 100 GB beside',
    survey: surveyOf(fenwright14, [gpt('F14-15151515', 512e9, 480_000, 120e9)], {
      system: { fastStart: 'on' },
    }),
    wish: { purpose: 'another-beside' },
    choose: {
      routeId: 'beside-same-disk',
      releaseId: 'rushlight',
      installerMedium: 'optical-disc',
      room: { bytes: 100e9, fromPartition: 3 },
    },
    sets: [documents],
    inOrder: ['recovery-medium', 'fast-start-off', 'shrink-system', 'start-from-disc', 'install-beside'],
    // 100 × 10⁹ ÷ 1 048 576 = 95 367.4…, rounded up.
    says: [
      ['shrink-system', 'type 95368'],
      ['firmware', /Secure Boot/],
      ['fast-start-off', 'stays off for good'],
    ],
  },
  {
    name: '16 beside by hand, the present system supported for years',
    survey: surveyOf(tower, [gpt('T77-16161616', 1e12, 950_000, 200e9)], {
      system: { release: 'corvel-10-business' },
    }),
    wish: { purpose: 'another-beside' },
    rules: { partitioning: 'by-hand' },
    choose: { routeId: 'beside-same-disk', releaseId: 'harrow-5' },
    sets: [documents],
    inOrder: ['shrink-system', 'install-beside', 'boot-menu', 'isolate-old-system'],
    says: [
      ['boot-menu', 'first big update'],
      ['isolate-old-system', 'stays off the network after'],
    ],
  },
  {
    name: '19 side by side without a stick: an installer partition, then room',
    survey: surveyOf(fenwright14, [gpt('F14-19191919', 512e9, 480_000, 120e9)]),
    wish: { purpose: 'another-beside' },
    choose: { routeId: 'beside-same-disk', releaseId: 'saltbush-full', installerMedium: 'disk-partition' },
    sets: [documents],
    inOrder: [
      'shrink-system',
      'make-installer-partition',
      'start-from-partition',
      'install-beside',
      'installer-partition-away',
    ],
    without: ['write-stick', 'start-from-stick', 'stick-out'],
    says: [['shrink-system', 'the installer’s partition and the second system']],
  },
  {
    name: '20 two releases of one family side by side, from an opened image, without an account',
    survey: surveyOf(brack15, [gpt('BR15-20202020', 512e9, 480_000, 120e9)], {
      system: { licencesHeld: ['corvel-10-business'] },
    }),
    wish: { purpose: 'another-beside' },
    rules: { account: 'local', networkDuringSetup: 'offline' },
    choose: {
      routeId: 'beside-same-disk',
      releaseId: 'corvel-10-business',
      installerMedium: 'running-system',
    },
    sets: [documents],
    licence: 'key',
    inOrder: ['open-image', 'shrink-system', 'start-installer', 'install-beside', 'boot-menu'],
    without: ['write-stick', 'stick-out'],
    says: [['boot-menu', 'default and its seconds']],
  },
];
