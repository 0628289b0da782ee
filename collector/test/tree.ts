import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';

/** What stands below a recorded root: files with their text or bytes, links with their target. */
export type Tree = Readonly<
  Record<string, string | Uint8Array | { readonly link: string } | { readonly folder: true }>
>;

/** Lays a tree out below a new folder. */
export function layOut(tree: Tree): { readonly root: string; readonly remove: () => void } {
  const root = mkdtempSync(join(tmpdir(), 'ulvane-tree-'));
  for (const [path, content] of Object.entries(tree)) {
    const place = join(root, path);
    mkdirSync(dirname(place), { recursive: true });
    if (typeof content === 'string' || content instanceof Uint8Array) writeFileSync(place, content);
    else if ('link' in content) symlinkSync(content.link, place);
    else mkdirSync(place, { recursive: true });
  }
  return { root, remove: () => rmSync(root, { recursive: true, force: true }) };
}

const cpu = (extra: string) =>
  `processor\t: 0\nmodel name\t: Bench Core  i-4 "quick" \\ 2\nphysical id\t: 0\ncpu cores\t: 4\ncpu MHz\t\t: 2592.003\nflags\t\t: fpu tsc sse2 sse4_2 popcnt${extra}\n\nprocessor\t: 1\nphysical id\t: 0\ncpu cores\t: 4\n`;

/** SecureBoot variable: four bytes of attributes, then the value. */
const secureBoot = (on: boolean) => new Uint8Array([6, 0, 0, 0, on ? 1 : 0]);

/** A laptop started in UEFI mode, with a split disk and a stick in. */
export const laptop: Tree = {
  'proc/cpuinfo': cpu(' lm'),
  'proc/meminfo': 'MemTotal:        8048384 kB\nMemFree: 1 kB\n',
  'proc/mounts': '/dev/sda3 /media/system ntfs ro 0 0\n/dev/sda4 /media/data\\040one ntfs ro 0 0\n',
  df: 'Filesystem 1024-blocks Used Available Capacity Mounted on\n/dev/sda3 125829120 39062500 86766620 32% /media/system\n',
  'sys/class/dmi/id/sys_vendor': 'Kestle\n',
  'sys/class/dmi/id/product_name': 'Fenwright 14  \n',
  'sys/class/dmi/id/product_serial': 'KF14-70Q8-0B1I\n',
  'sys/class/dmi/id/chassis_type': '10\n',
  'sys/firmware/efi/efivars/SecureBoot-8be4df61-93ca-11d2-aa0d-00e098032b8c': secureBoot(false),
  'sys/class/tpm/tpm0/tpm_version_major': '2\n',
  'sys/devices/system/cpu/cpu0/cpufreq/cpuinfo_max_freq': '3100000\n',
  'sys/block/loop0/size': '0\n',
  'sys/block/sda/size': '500118192\n',
  'sys/block/sda/removable': '0\n',
  'sys/block/sda/queue/logical_block_size': '512\n',
  'sys/block/sda/queue/rotational': '0\n',
  'sys/block/sda/device/model': 'Halyard 3       \n',
  'sys/block/sda/device/vpd_pg80': new Uint8Array([
    0,
    0x80,
    0,
    11,
    ...new TextEncoder().encode('HX7714A9C2E'),
  ]),
  'sys/block/sda/sda3/partition': '3\n',
  'sys/block/sda/sda3/start': '567296\n',
  'sys/block/sda/sda3/size': '251658240\n',
  'sys/block/sda/sda3/uevent':
    'DEVTYPE=partition\nPARTN=3\nPARTNAME=SYSTEM\nPARTUUID=0d1e5f2a-1111-4222-8333-444455556666\n',
  'sys/block/sda/sda4/partition': '4\n',
  'sys/block/sda/sda4/start': '252225536\n',
  'sys/block/sda/sda4/size': '209715200\n',
  'sys/block/sda/sda4/uevent': 'PARTUUID=0d1e5f2a-1111-4222-8333-444455556667\n',
  'sys/block/sdb/size': '30310400\n',
  'sys/block/sdb/removable': '1\n',
  'sys/block/sdb/queue/logical_block_size': '512\n',
  'sys/block/sdb/queue/rotational': '1\n',
  'sys/class/power_supply/BAT0/type': 'Battery\n',
  'sys/class/power_supply/BAT0/capacity': '81\n',
  'sys/class/power_supply/AC/type': 'Mains\n',
  'sys/class/power_supply/AC/online': '1\n',
  'sys/class/power_supply/hidpp_battery_0/type': 'Battery\n',
  'sys/class/power_supply/hidpp_battery_0/scope': 'Device\n',
  'sys/class/power_supply/hidpp_battery_0/capacity': '12\n',
  'sys/block/sr0/size': '0\n',
  'sys/bus/pci/devices/0000:00:02.0/class': '0x030000\n',
  'sys/bus/pci/devices/0000:00:02.0/vendor': '0x1af4\n',
  'sys/bus/pci/devices/0000:00:02.0/device': '0x1050\n',
  'sys/bus/pci/devices/0000:00:02.0/driver': { link: '../../../bus/pci/drivers/loom-draw' },
  'sys/bus/pci/devices/0000:01:00.0/class': '0x030200\n',
  'sys/bus/pci/devices/0000:01:00.0/vendor': '0x1b36\n',
  'sys/bus/pci/devices/0000:01:00.0/device': '0x0100\n',
  'sys/bus/pci/devices/0000:00:17.0/class': '0x010601\n',
  'sys/class/net/lo/address': '00:00:00:00:00:00\n',
  'sys/class/net/wl-a/wireless': { folder: true },
  'sys/class/net/wl-a/device/driver': { link: '../../../../bus/pci/drivers/marl-wifi' },
};

/** An old desktop: 32 bit, legacy, MBR, a disk with 4096-byte sectors beside it, nothing filled in. */
export const oldDesktop: Tree = {
  'proc/cpuinfo': 'processor\t: 0\nflags\t\t: fpu tsc sse2\n',
  'proc/meminfo': 'MemTotal:        2013184 kB\n',
  'sys/class/dmi/id/sys_vendor': 'To be filled by O.E.M.\n',
  'sys/class/dmi/id/product_name': 'System Product Name\n',
  'sys/class/dmi/id/product_serial': 'Default string\n',
  'sys/class/dmi/id/chassis_type': '3\n',
  'sys/block/sda/size': '312581808\n',
  'sys/block/sda/removable': '0\n',
  'sys/block/sda/queue/logical_block_size': '512\n',
  'sys/block/sda/queue/rotational': '1\n',
  'sys/block/sda/sda1/partition': '1\n',
  'sys/block/sda/sda1/start': '2048\n',
  'sys/block/sda/sda1/size': '312578048\n',
  'sys/block/sda/sda1/uevent': 'PARTUUID=5a3c91f0-01\n',
  'sys/block/sdc/size': '7814037168\n',
  'sys/block/sdc/queue/logical_block_size': '4096\n',
  'sys/block/sdc/sdc1/partition': '1\n',
  'sys/block/sdc/sdc1/start': '2048\n',
  'sys/block/sdc/sdc1/size': '16384\n',
};

/** A machine with no maker data and an unpartitioned view: a small virtual one. */
export const bareMachine: Tree = {
  'proc/cpuinfo': cpu(' lm')
    .replace(/physical id.*\n/g, '')
    .replace(/cpu cores.*\n/g, ''),
  'proc/meminfo': 'MemTotal: 24683656 kB\n',
  'sys/block/vda/size': '536870912\n',
  'sys/block/vda/serial': 'overlayblk\n',
  'sys/block/vda/queue/logical_block_size': '512\n',
  'sys/class/net/eth0/device/driver': { link: '../../../bus/virtio/drivers/virtio_net' },
};
